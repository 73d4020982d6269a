import { Body, Controller, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  CompleteEngagement as CompleteInput,
  EditCheck,
  GiveOn,
  HandOff,
  PickUp,
  SendBack,
  type HandoffBoard,
  type HandoffSheet,
  type PlanChanged,
  type PlanEffect,
} from '@crew/contract';
import { Clock } from '../platform/clock.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { CompleteEngagement } from './complete-engagement.ts';
import { GiveWord } from './give-word.ts';
import { HandoffRepository } from './handoff.repository.ts';
import { PassHandoff } from './pass-handoff.ts';
import { ReadHandoff } from './read-handoff.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('handoffs')
@Controller()
export class HandoffController {
  private readonly handoffs: HandoffRepository;
  private readonly reading: ReadHandoff;
  private readonly passing: PassHandoff;
  private readonly words: GiveWord;
  private readonly completing: CompleteEngagement;
  private readonly clock: Clock;

  constructor(
    handoffs: HandoffRepository,
    reading: ReadHandoff,
    passing: PassHandoff,
    words: GiveWord,
    completing: CompleteEngagement,
    clock: Clock,
  ) {
    this.handoffs = handoffs;
    this.reading = reading;
    this.passing = passing;
    this.words = words;
    this.completing = completing;
    this.clock = clock;
  }

  /** In flight, sent back, and getting ready in the next two weeks. */
  @Get('handoffs')
  @Answers('HandoffBoard')
  @Allow('handoff.read')
  readBoard(@Caller() who: Who): Promise<HandoffBoard> {
    return this.handoffs.readBoard(who, this.clock.today());
  }

  @Get('handoffs/:id')
  @Answers('HandoffSheet')
  @Allow('handoff.read')
  read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<HandoffSheet> {
    return this.reading.run(who, id);
  }

  @Post('handoffs/:id/hand-off')
  @Answers('HandoffSheet')
  @HttpCode(200)
  @Allow('handoff.hand-off')
  async handOff(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: HandOff): Promise<HandoffSheet> {
    await this.passing.handOff(who, id, input);
    return this.reading.run(who, id);
  }

  @Post('handoffs/:id/pick-up')
  @Answers('HandoffSheet')
  @HttpCode(200)
  @Allow('handoff.receive')
  async pickUp(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: PickUp): Promise<HandoffSheet> {
    await this.passing.pickUp(who, id, input);
    return this.reading.run(who, id);
  }

  @Post('handoffs/:id/send-back')
  @Answers('HandoffSheet')
  @HttpCode(200)
  @Allow('handoff.receive')
  async sendBack(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: SendBack): Promise<HandoffSheet> {
    await this.passing.sendBack(who, id, input);
    return this.reading.run(who, id);
  }

  @Post('handoffs/:id/give-on')
  @Answers('HandoffSheet')
  @HttpCode(200)
  @Allow('handoff.receive')
  async giveOn(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: GiveOn): Promise<HandoffSheet> {
    await this.passing.giveOn(who, id, input);
    return this.reading.run(who, id);
  }

  /** Completes an engagement in one step; open tasks stay, are set done, or go on in another one. */
  @Post('engagements/:id/complete')
  @Answers('PlanChanged')
  @HttpCode(200)
  @Allow('engagement.edit')
  complete(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: CompleteInput): Promise<PlanChanged> {
    return this.completing.run(who, id, input);
  }

  /** What completing would do to the plan its open tasks go on in, and to everybody's load. Saves nothing. */
  @Post('engagements/:id/complete/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('engagement.edit')
  previewComplete(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: CompleteInput): Promise<PlanEffect> {
    return this.completing.preview(who, id, input);
  }

  /** Confirms a gate check, or takes that back. */
  @Patch('gate-checks/:id')
  @HttpCode(204)
  @Allow('handoff.hand-off')
  editCheck(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditCheck): Promise<void> {
    return this.words.run(who, id, input.isClear);
  }
}
