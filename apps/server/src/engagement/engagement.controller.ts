import { Body, Controller, Get, Header, HttpCode, Param, Patch, Post, Query, Res } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import {
  DropEngagement as DropInput,
  EditEngagement as EditInput,
  ENGAGEMENT_ORDERS,
  matchesEngagement,
  orderEngagements,
  PlanEngagement,
  StartEngagement as StartInput,
  ReopenEngagement,
  StartRound as StartRoundInput,
  STANDINGS,
  type ChangeMade,
  type ClientEngagement,
  type DryRun,
  type EngagementChanged,
  type EngagementPlan,
  type EngagementTrack,
  type Made,
  type PlanChanged,
  type PlanEffect,
  type Versioned,
} from '@crew/contract';
import type { Response } from 'express';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import type { Json } from '../platform/json.ts';
import { requireFound } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { DryRunTemplate } from '../template/dry-run.ts';
import { AcceptProposal } from './accept-proposal.ts';
import { DropEngagement } from './drop-engagement.ts';
import { EditEngagement } from './edit-engagement.ts';
import { EngagementRepository } from './engagement.repository.ts';
import { readListQuery } from './list-query.ts';
import { StartEngagement } from './start-engagement.ts';
import { StartRound } from './start-round.ts';
import { answerInLines } from './stream-start.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('engagements')
@Controller('engagements')
export class EngagementController {
  private readonly engagements: EngagementRepository;
  private readonly starting: StartEngagement;
  private readonly accepting: AcceptProposal;
  private readonly editing: EditEngagement;
  private readonly dropping: DropEngagement;
  private readonly rounds: StartRound;
  private readonly dryRun: DryRunTemplate;
  private readonly database: Database;
  private readonly clock: Clock;

  constructor(
    engagements: EngagementRepository,
    starting: StartEngagement,
    accepting: AcceptProposal,
    editing: EditEngagement,
    dropping: DropEngagement,
    rounds: StartRound,
    dryRun: DryRunTemplate,
    database: Database,
    clock: Clock,
  ) {
    this.engagements = engagements;
    this.starting = starting;
    this.accepting = accepting;
    this.editing = editing;
    this.dropping = dropping;
    this.rounds = rounds;
    this.dryRun = dryRun;
    this.database = database;
    this.clock = clock;
  }

  /**
   * Open engagements as tracks; `finished=yes` for the finished ones (`since`: closed on that day or later), `role` (one id, or several with commas between)
   * for those that stand in a phase it owns. Narrowed by words, client, lead, the name of the phase they stand in, and
   * any reason for their standing; by start unless `sort` says otherwise.
   */
  @Get()
  @Answers('EngagementTrack', { isList: true })
  @Allow('engagement.open')
  @ApiQuery({ name: 'finished', required: false, enum: ['yes', 'no'] })
  @ApiQuery({ name: 'since', required: false })
  @ApiQuery({ name: 'role', required: false })
  @ApiQuery({ name: 'text', required: false })
  @ApiQuery({ name: 'client', required: false })
  @ApiQuery({ name: 'lead', required: false })
  @ApiQuery({ name: 'phase', required: false })
  @ApiQuery({ name: 'standing', required: false, enum: STANDINGS })
  @ApiQuery({ name: 'sort', required: false, enum: ENGAGEMENT_ORDERS })
  async list(@Caller() who: Who, @Query() query: Readonly<Record<string, unknown>>): Promise<EngagementTrack[]> {
    const { isFinished, since, roleIds, order, ...filter } = readListQuery(query);
    const tracks = await this.engagements.listTracks(who, { isFinished, since, roleIds, today: this.clock.today() });
    return [
      ...orderEngagements(
        tracks.filter((track) => matchesEngagement(track, filter)),
        order,
      ),
    ];
  }

  /** What starting would make, on which days, by whom, and whom it would overload. Saves nothing. */
  @Post('preview')
  @Answers('DryRun')
  @Allow('engagement.edit')
  preview(@Caller() who: Who, @Body() input: PlanEngagement): Promise<DryRun> {
    return this.dryRun.run(this.database.manager, who, input);
  }

  @Post()
  @Answers('Made')
  @Allow('engagement.edit')
  start(@Caller() who: Who, @Body() input: StartInput): Promise<Made> {
    return this.starting.run(who, input);
  }

  /** As the route above, answering line by line (application/x-ndjson) how far it is: `making`, then `made` or `refused`. */
  @Post('in-steps')
  @Answers('StartLine')
  @Allow('engagement.edit')
  startInSteps(@Caller() who: Who, @Body() input: StartInput, @Res() response: Response): Promise<void> {
    return answerInLines(response, (tell) => this.starting.run(who, input, tell));
  }

  /** Mark as accepted: a proposal becomes open work and counts in full. */
  @Post(':id/accept')
  @Answers('ChangeMade')
  @HttpCode(200)
  @Allow('engagement.edit')
  accept(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ChangeMade> {
    return this.accepting.run(who, id);
  }

  /** Edits its name, promise, lead, contact or likelihood; another promise answers what it did to the plan. */
  @Patch(':id')
  @Answers('EngagementChanged')
  @Allow('engagement.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditInput): Promise<EngagementChanged> {
    return this.editing.run(who, id, input);
  }

  /** What such a change would move, clash with and overload. Saves nothing. */
  @Post(':id/edit/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('engagement.edit')
  previewEdit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditInput): Promise<PlanEffect> {
    return this.editing.preview(who, id, input);
  }

  /** Closes it without finishing it, with a reason that is kept. */
  @Post(':id/drop')
  @Answers('Versioned')
  @HttpCode(200)
  @Allow('engagement.edit')
  drop(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: DropInput): Promise<Versioned> {
    return this.dropping.drop(who, id, input);
  }

  /** Reopens what was closed or completed. */
  @Post(':id/reopen')
  @Answers('Versioned')
  @HttpCode(200)
  @Allow('engagement.edit')
  reopen(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ReopenEngagement): Promise<Versioned> {
    return this.dropping.reopen(who, id, input.version);
  }

  /** Goes through a loop of its map again: the tasks between its ends are to be done once more. */
  @Post(':id/rounds')
  @Answers('PlanChanged')
  @HttpCode(200)
  @Allow('plan.edit')
  startRound(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: StartRoundInput): Promise<PlanChanged> {
    return this.rounds.run(who, id, input);
  }

  /** What another round would do to the plan. Saves nothing. */
  @Post(':id/rounds/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('plan.edit')
  previewRound(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: StartRoundInput): Promise<PlanEffect> {
    return this.rounds.preview(who, id, input);
  }

  @Get(':id/plan')
  @Answers('EngagementPlan')
  @Header('Content-Type', 'application/json; charset=utf-8')
  @Allow('engagement.read-plan')
  async readPlan(@Caller() who: Who, @Param('id', PathId) id: string): Promise<Json<EngagementPlan>> {
    return requireFound(await this.engagements.findPlan(who, id, this.clock.today()), 'engagement');
  }
}

/** What a client's contact may read: their own engagements, only what is shown to them. */
@ApiTags('client')
@Controller('client')
export class ClientPageController {
  private readonly engagements: EngagementRepository;
  constructor(engagements: EngagementRepository) {
    this.engagements = engagements;
  }

  @Get('engagements')
  @Answers('ClientEngagement', { isList: true })
  @Allow('client-page.read')
  list(@Caller() who: Who): Promise<ClientEngagement[]> {
    return this.engagements.listForClient(who);
  }
}
