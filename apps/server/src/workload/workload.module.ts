import type { Area } from '../platform/area.ts';
import { ChangePlans } from './change-plans.ts';
import { EaseLoad } from './ease-load.ts';
import { ReadWorkload } from './read-workload.ts';
import { SuggestAssignees } from './suggest-assignees.ts';
import { TryEngagement } from './try-engagement.ts';
import { WorkloadController } from './workload.controller.ts';

export const workload: Area = {
  controllers: [WorkloadController],
  providers: [ReadWorkload, EaseLoad, ChangePlans, SuggestAssignees, TryEngagement],
};
