import type { Area } from '../platform/area.ts';
import { PlanWeek } from './plan-week.ts';
import { WeekPlanController } from './week-plan.controller.ts';

export const weekPlan: Area = {
  controllers: [WeekPlanController],
  providers: [PlanWeek],
};
