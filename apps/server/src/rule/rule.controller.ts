import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AddRule,
  EditRule,
  ExceptRule,
  RUN_STATE,
  TryRule as TryInput,
  type ChangeMade,
  type RuleChoices,
  type RuleList,
  type RuleSaved,
  type RuleTrial,
  type RunPage,
  type RunState,
  type RunUndone,
} from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { OptionalChoice, OptionalEventId, OptionalId, PathId } from '../platform/query-pipes.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepRules } from './keep-rules.ts';
import { ReadRules } from './read-rules.ts';
import { ReadRuns } from './read-runs.ts';
import { TryRule } from './try-rule.ts';
import { UndoRun } from './undo-run.ts';

@ApiTags('rules')
@Controller('rules')
export class RuleController {
  private readonly reading: ReadRules;
  private readonly keeping: KeepRules;
  private readonly trying: TryRule;
  private readonly runs: ReadRuns;
  private readonly undoing: UndoRun;
  constructor(reading: ReadRules, keeping: KeepRules, trying: TryRule, runs: ReadRuns, undoing: UndoRun) {
    this.reading = reading;
    this.keeping = keeping;
    this.trying = trying;
    this.runs = runs;
    this.undoing = undoing;
  }

  /** Every rule, the agency's first, with what it did in the last 30 days, and mistakes found in the rules. */
  @Get()
  @Answers('RuleList')
  @Allow('rule.read')
  list(@Caller() who: Who): Promise<RuleList> {
    return this.reading.list(who);
  }

  /** What can be chosen in the slots of a rule. */
  @Get('choices')
  @Answers('RuleChoices')
  @Allow('rule.read')
  choices(@Caller() who: Who): Promise<RuleChoices> {
    return this.reading.choices(who);
  }

  /** What rules did at which event, and why others were held; the newest first. `before` is that of the page read last. */
  @Get('runs')
  @Answers('RunPage')
  @Allow('rule.read')
  readRuns(
    @Caller() who: Who,
    @Query('rule', OptionalId) ruleId: string | undefined,
    @Query('engagement', OptionalId) engagementId: string | undefined,
    @Query('run', OptionalId) runId: string | undefined,
    @Query('state', new OptionalChoice(RUN_STATE)) state: RunState | undefined,
    @Query('before', OptionalEventId) before: string | undefined,
  ): Promise<RunPage> {
    return this.runs.page(who, {
      ...(ruleId === undefined ? {} : { ruleId }),
      ...(engagementId === undefined ? {} : { engagementId }),
      ...(runId === undefined ? {} : { runId }),
      ...(state === undefined ? {} : { state }),
      ...(before === undefined ? {} : { before }),
    });
  }

  /** Undoes what a run changed. What was changed since, or cannot be undone, stays and is named. */
  @Post('runs/:id/undo')
  @HttpCode(200)
  @Answers('RunUndone')
  @Allow('rule.edit')
  undo(@Caller() who: Who, @Param('id', PathId) id: string): Promise<RunUndone> {
    return this.undoing.undo(who, id);
  }

  /** Carries out the effects of a run that failed once more. */
  @Post('runs/:id/retry')
  @HttpCode(204)
  @Allow('rule.edit')
  retry(@Caller() who: Who, @Param('id', PathId) id: string): Promise<void> {
    return this.undoing.retry(who, id);
  }

  /** What a rule, saved or not, would have done at past events. It does nothing. */
  @Post('try')
  @HttpCode(200)
  @Answers('RuleTrial')
  @Allow('rule.read')
  try(@Caller() who: Who, @Body() input: TryInput): Promise<RuleTrial> {
    return this.trying.run(who, input);
  }

  /** A new rule, last of its place. It applies to what happens from now on. */
  @Post()
  @Answers('RuleSaved')
  @Allow('rule.edit')
  add(@Caller() who: Who, @Body() input: AddRule): Promise<RuleSaved> {
    return this.keeping.add(who, input);
  }

  /** Changes what a rule says, whether it is on, or its place. 409 with `details.current` when it was changed meanwhile. */
  @Patch(':id')
  @Answers('RuleSaved')
  @Allow('rule.edit')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditRule): Promise<RuleSaved> {
    return this.keeping.edit(who, id, input);
  }

  /** Removes a rule; what it did stays in the log. */
  @Delete(':id')
  @Answers('ChangeMade')
  @Allow('rule.edit')
  async remove(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ChangeMade> {
    return { changeId: await this.keeping.remove(who, id) };
  }

  /** Switches a rule off for the engagements of a template, or for one engagement. Sent twice it changes nothing. */
  @Post(':id/exceptions')
  @Answers('RuleSaved')
  @Allow('rule.edit')
  except(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ExceptRule): Promise<RuleSaved> {
    return this.keeping.except(who, id, input);
  }

  /** Switches a rule on there again. */
  @Delete(':id/exceptions/:exceptionId')
  @Answers('RuleSaved')
  @Allow('rule.edit')
  removeException(
    @Caller() who: Who,
    @Param('id', PathId) id: string,
    @Param('exceptionId', PathId) exceptionId: string,
  ): Promise<RuleSaved> {
    return this.keeping.removeException(who, id, exceptionId);
  }
}
