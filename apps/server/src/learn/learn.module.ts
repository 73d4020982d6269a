import type { Area } from '../platform/area.ts';
import { LearnFromRuns } from './learn-from-runs.ts';
import { LearnController } from './learn.controller.ts';

export const learn: Area = {
  controllers: [LearnController],
  providers: [LearnFromRuns],
};
