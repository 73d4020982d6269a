import { job, type Area } from '../platform/area.ts';
import { EngagementSeries, SeriesRhythm } from './engagement-series.entity.ts';
import { KeepSeries } from './keep-series.ts';
import { KeepTaskSeries } from './keep-task-series.ts';
import { ReadSeries } from './read-series.ts';
import { RepeatJob } from './repeat.job.ts';
import { SeriesComing } from './series-coming.entity.ts';
import { SeriesController } from './series.controller.ts';
import { SettleUnits } from './settle-units.ts';
import { TaskSeriesController } from './task-series.controller.ts';
import { TaskSeries } from './task-series.entity.ts';
import { TryRhythm } from './try-rhythm.ts';

export const series: Area = {
  controllers: [SeriesController, TaskSeriesController],
  providers: [KeepSeries, KeepTaskSeries, ReadSeries, SettleUnits, TryRhythm, RepeatJob],
  entities: [EngagementSeries, SeriesRhythm, SeriesComing, TaskSeries],
  // Each minute: midnight is the agency’s, and finding nothing costs nothing.
  jobs: [
    job({ name: 'repeat-all', by: RepeatJob, run: (handler) => handler.all(), at: '* * * * *' }),
    job({ name: 'repeat-tasks', by: RepeatJob, run: (handler, payload) => handler.tasks(payload) }),
    job({ name: 'repeat-engagements', by: RepeatJob, run: (handler, payload) => handler.engagements(payload) }),
  ],
};
