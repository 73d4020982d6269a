import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import {
  ChangePlans as ChangeInput,
  TryEngagement as TryInput,
  type EaseView,
  type PlansChanged,
  type PlansTried,
  type TriedEngagement,
  type WhoShouldDoIt,
  type Workload,
} from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { ThisWeek } from '../calendar/this-week.ts';
import { Clock } from '../platform/clock.ts';
import { OptionalDay, PathId, RequiredId } from '../platform/query-pipes.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ChangePlans } from './change-plans.ts';
import { EaseLoad } from './ease-load.ts';
import { loadWindow } from '../load/load-window.ts';
import { ReadWorkload } from './read-workload.ts';
import { SuggestAssignees } from './suggest-assignees.ts';
import { TryEngagement } from './try-engagement.ts';

@ApiTags('workload')
@Controller()
export class WorkloadController {
  private readonly reading: ReadWorkload;
  private readonly easing: EaseLoad;
  private readonly plans: ChangePlans;
  private readonly suggesting: SuggestAssignees;
  private readonly trying: TryEngagement;
  private readonly week: ThisWeek;
  private readonly clock: Clock;
  constructor(
    reading: ReadWorkload,
    easing: EaseLoad,
    plans: ChangePlans,
    suggesting: SuggestAssignees,
    trying: TryEngagement,
    week: ThisWeek,
    clock: Clock,
  ) {
    this.reading = reading;
    this.easing = easing;
    this.plans = plans;
    this.suggesting = suggesting;
    this.trying = trying;
    this.week = week;
    this.clock = clock;
  }

  /** Hours planned against available hours per person and day; without dates, three weeks from this Monday. */
  @Get('workload')
  @Answers('Workload')
  @Allow('workload.read')
  @ApiQuery({ name: 'from', required: false })
  @ApiQuery({ name: 'to', required: false })
  async read(@Caller() who: Who, @Query('from', OptionalDay) from?: string, @Query('to', OptionalDay) to?: string): Promise<Workload> {
    return this.reading.run(who, loadWindow({ from, to }, this.clock.today(), (await this.week.run(who.agencyId)).from));
  }

  /** What could ease the load of one person within these days, best first. Saves nothing. */
  @Get('workload/ease')
  @Answers('EaseView')
  @Allow('workload.read')
  @ApiQuery({ name: 'from', required: false })
  @ApiQuery({ name: 'to', required: false })
  ease(
    @Caller() who: Who,
    @Query('person', RequiredId) person: string,
    @Query('from', OptionalDay) from?: string,
    @Query('to', OptionalDay) to?: string,
  ): Promise<EaseView> {
    return this.easing.run(who, { person, ...loadWindow({ from, to }, this.clock.today()) });
  }

  /** What changes across engagements would do to plans and people, together. Saves nothing. */
  @Post('workload/changes/preview')
  @Answers('PlansTried')
  @HttpCode(200)
  @Allow('plan.edit')
  preview(@Caller() who: Who, @Body() input: ChangeInput): Promise<PlansTried> {
    return this.plans.preview(who, input);
  }

  /** Changes several engagements' plans as one step, all or none; `changeId` undoes all of it. */
  @Post('workload/changes')
  @Answers('PlansChanged')
  @Allow('plan.edit')
  change(@Caller() who: Who, @Body() input: ChangeInput): Promise<PlansChanged> {
    return this.plans.run(who, input);
  }

  /** A new engagement tried on the real load, with the earliest start that overloads nobody. Saves nothing. */
  @Post('workload/try')
  @Answers('TriedEngagement')
  @HttpCode(200)
  @Allow('workload.try')
  tryOut(@Caller() who: Who, @Body() input: TryInput): Promise<TriedEngagement> {
    return this.trying.run(who, input);
  }

  /** Who should do a task: holders of its role who are there, most room first, with the reason. */
  @Get('tasks/:id/who')
  @Answers('WhoShouldDoIt')
  @Allow('workload.read')
  who(@Caller() who: Who, @Param('id', PathId) id: string): Promise<WhoShouldDoIt> {
    return this.suggesting.run(who, id);
  }
}
