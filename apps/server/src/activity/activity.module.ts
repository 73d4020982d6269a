import { job, type Area } from '../platform/area.ts';
import { ActivityController } from './activity.controller.ts';
import { FollowEvents } from './follow-events.ts';
import { Event } from './event.entity.ts';
import { PruneHistoryJob } from './prune-history.job.ts';
import { ReadHistory } from './read-history.ts';

export const activity: Area = {
  controllers: [ActivityController],
  providers: [ReadHistory, PruneHistoryJob, FollowEvents],
  entities: [Event],
  // Old history is deleted at night, before the files that only it names.
  jobs: [
    job({ name: 'prune-history', by: PruneHistoryJob, run: (handler) => handler.run(), at: '7 3 * * *' }),
    job({ name: 'follow-events', by: FollowEvents, run: async (handler) => void (await handler.run()), at: '* * * * *' }),
  ],
};
