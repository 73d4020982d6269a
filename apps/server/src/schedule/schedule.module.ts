import type { Area } from '../platform/area.ts';
import { PlanBehind } from './plan-behind.ts';

export const schedule: Area = {
  providers: [PlanBehind],
};
