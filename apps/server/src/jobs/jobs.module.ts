import { job, type Area } from '../platform/area.ts';
import { JobRunner } from './job-runner.ts';
import { PruneJob } from './prune.job.ts';
import { RefreshJob } from './refresh.job.ts';
import { WatchWorkers } from './watch-workers.ts';
import { WorkerHeartbeat } from './worker-heartbeat.entity.ts';

export const jobs: Area = {
  providers: [RefreshJob, PruneJob, WatchWorkers, JobRunner],
  entities: [WorkerHeartbeat],
  // Each minute: midnight is the agency’s, and what is pending must not wait for somebody to look.
  jobs: [
    job({ name: 'refresh-engagement', by: RefreshJob, run: (handler, payload) => handler.one(payload) }),
    job({ name: 'refresh-all', by: RefreshJob, run: (handler) => handler.all(), at: '* * * * *' }),
    job({ name: 'prune', by: PruneJob, run: (handler) => handler.run(), at: '23 * * * *' }),
  ],
};
