import { job, type Area } from '../platform/area.ts';
import { RemindJob } from './remind.job.ts';

export const reminder: Area = {
  providers: [RemindJob],
  jobs: [job({ name: 'remind', by: RemindJob, run: (handler) => handler.run(), at: '*/5 * * * *', isAlone: true })],
};
