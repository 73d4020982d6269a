import { commandBy, type Area } from '../platform/area.ts';
import { PlanWeek } from './plan-week.ts';
import { WeekPlanController } from './week-plan.controller.ts';

export const weekPlan: Area = {
  controllers: [WeekPlanController],
  providers: [PlanWeek],
  commands: [commandBy({ name: 'week-plan.place', by: PlanWeek, run: (weeks, who, { input }) => weeks.place(who, input) })],
};
