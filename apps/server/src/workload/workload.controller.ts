import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import {
  ChangePlans as ChangeInput,
  type EaseView,
  type PlansChanged,
  type PlansTried,
  type WhoShouldDoIt,
  type Workload,
} from '@crew/contract';
import { formatDay, parseDay, weekdayOf } from '@crew/core';
import { Answers } from '../platform/answers.ts';
import { Clock } from '../platform/clock.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, STAFF, type Who } from '../platform/rights.ts';
import { ChangePlans } from './change-plans.ts';
import { EaseLoad } from './ease-load.ts';
import { ReadWorkload } from './read-workload.ts';
import { SuggestAssignees } from './suggest-assignees.ts';

const THREE_WEEKS = 21;
const LONGEST_DAYS = 190;

@ApiTags('workload')
@Controller()
export class WorkloadController {
  private readonly reading: ReadWorkload;
  private readonly easing: EaseLoad;
  private readonly plans: ChangePlans;
  private readonly suggesting: SuggestAssignees;
  private readonly clock: Clock;
  constructor(reading: ReadWorkload, easing: EaseLoad, plans: ChangePlans, suggesting: SuggestAssignees, clock: Clock) {
    this.reading = reading;
    this.easing = easing;
    this.plans = plans;
    this.suggesting = suggesting;
    this.clock = clock;
  }

  /** Hours planned against hours open per person and day; without dates, three weeks from this Monday. */
  @Get('workload')
  @Answers('Workload')
  @Allow(STAFF)
  @ApiQuery({ name: 'from', required: false })
  @ApiQuery({ name: 'to', required: false })
  read(@Caller() who: Who, @Query('from') from?: string, @Query('to') to?: string): Promise<Workload> {
    return this.reading.run(who, this.windowOf(from, to));
  }

  /** What could ease the load of one person within these days, best first. Saves nothing. */
  @Get('workload/ease')
  @Answers('EaseView')
  @Allow(STAFF)
  @ApiQuery({ name: 'from', required: false })
  @ApiQuery({ name: 'to', required: false })
  ease(
    @Caller() who: Who,
    @Query('person', ParseUUIDPipe) person: string,
    @Query('from') from?: string,
    @Query('to') to?: string,
  ): Promise<EaseView> {
    return this.easing.run(who, { person, ...this.windowOf(from, to) });
  }

  /** What changes across engagements would do to plans and people, together. Saves nothing. */
  @Post('workload/changes/preview')
  @Answers('PlansTried')
  @HttpCode(200)
  @Allow(STAFF)
  preview(@Caller() who: Who, @Body() input: ChangeInput): Promise<PlansTried> {
    return this.plans.preview(who, input);
  }

  /** Changes several engagements' plans as one step, all or none; `changeId` undoes all of it. */
  @Post('workload/changes')
  @Answers('PlansChanged')
  @Allow(STAFF)
  change(@Caller() who: Who, @Body() input: ChangeInput): Promise<PlansChanged> {
    return this.plans.run(who, input);
  }

  /** Who should do a task: holders of its role who are there, most room first, with the reason. */
  @Get('tasks/:id/who')
  @Answers('WhoShouldDoIt')
  @Allow(STAFF)
  who(@Caller() who: Who, @Param('id', ParseUUIDPipe) id: string): Promise<WhoShouldDoIt> {
    return this.suggesting.run(who, id);
  }

  private windowOf(from: string | undefined, to: string | undefined): { readonly from: string; readonly to: string } {
    const today = parseDay(this.clock.today()) as number;
    const first = from === undefined ? today - weekdayOf(today) : readDay(from, 'from');
    const last = to === undefined ? first + THREE_WEEKS - 1 : readDay(to, 'to');
    if (last < first) throw new Refusal('invalid-day', 'The last day lies before the first. Turn them round.', { field: 'to' });
    if (last - first > LONGEST_DAYS) throw new Refusal('invalid-day', 'Ask for at most 26 weeks at a time.', { field: 'to' });
    return { from: formatDay(first), to: formatDay(last) };
  }
}

function readDay(text: string, field: string): number {
  const day = parseDay(text);
  if (day === null) throw new Refusal('invalid-day', `“${text}” is no calendar day. Write it as 2026-12-14.`, { field });
  return day;
}
