import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { PlaceInWeek, type PlacedInWeek, type WeekPlan } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { PlanWeek } from './plan-week.ts';

@ApiTags('workload')
@Controller('week-plan')
@Allow('week-plan.edit')
export class WeekPlanController {
  private readonly weeks: PlanWeek;
  constructor(weeks: PlanWeek) {
    this.weeks = weeks;
  }

  /** Unassigned work, work in no week yet, and what this week and the next hold, with the team's hours. */
  @Get()
  @Answers('WeekPlan')
  read(@Caller() who: Who): Promise<WeekPlan> {
    return this.weeks.read(who);
  }

  /** Puts tasks into weeks, all or none; dates and people stay. What was carried over is counted. */
  @Post('places')
  @Answers('PlacedInWeek')
  @HttpCode(200)
  place(@Caller() who: Who, @Body() input: PlaceInWeek): Promise<PlacedInWeek> {
    return this.weeks.place(who, input);
  }
}
