import { EventEmitter } from 'node:events';
import { Inject, Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { Logger as QueueLogger, run, runMigrations, runOnce, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker';
import { PruneHistoryJob } from '../activity/prune-history.job.ts';
import { SweepFilesJob } from '../file/sweep-files.job.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import type { JobName, JobPayloads } from '../platform/job-names.ts';
import { RepeatJob } from '../series/repeat.job.ts';
import { PlanBehind } from '../schedule/plan-behind.ts';
import { PruneJob } from './prune.job.ts';
import { RefreshJob } from './refresh.job.ts';
import { WatchWorkers } from './watch-workers.ts';

/**
 * Every minute: midnight is the agency's, and what is pending or repeats must not wait for
 * somebody to look; finding nothing costs nothing. Old history and then files that belong to nothing
 * are looked for at night, what is kept for a time only every hour.
 */
const CRONTAB = '* * * * * refresh-all\n* * * * * repeat-all\n7 3 * * * prune-history\n17 3 * * * sweep-files\n23 * * * * prune';

/** Runs the jobs kept in the database; several server processes share the work. */
@Injectable()
export class JobRunner implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly config: Config;
  private readonly refresh: RefreshJob;
  private readonly behind: PlanBehind;
  private readonly sweeping: SweepFilesJob;
  private readonly history: PruneHistoryJob;
  private readonly repeating: RepeatJob;
  private readonly pruning: PruneJob;
  private readonly workers: WatchWorkers;
  private readonly logger = new Logger('jobs');
  private runner: Runner | null = null;

  constructor(
    @Inject(CONFIG) config: Config,
    refresh: RefreshJob,
    behind: PlanBehind,
    sweeping: SweepFilesJob,
    history: PruneHistoryJob,
    repeating: RepeatJob,
    pruning: PruneJob,
    workers: WatchWorkers,
  ) {
    this.pruning = pruning;
    this.workers = workers;
    this.config = config;
    this.refresh = refresh;
    this.behind = behind;
    this.sweeping = sweeping;
    this.history = history;
    this.repeating = repeating;
  }

  async onApplicationBootstrap(): Promise<void> {
    const connectionString = this.config.databaseUrl;
    await runMigrations({ connectionString });
    if (!this.config.runsJobs) return;
    const events: WorkerEvents = new EventEmitter();
    events.on('worker:create', ({ worker }) => this.workers.add(worker.workerId));
    this.runner = await run({
      connectionString,
      concurrency: 2,
      noHandleSignals: true,
      logger: this.queueLogger(),
      taskList: this.handlers(),
      crontab: CRONTAB,
      events,
    });
    await this.workers.start();
    this.runner.promise.catch((error: unknown) => this.logger.error(error instanceof Error ? error.stack : String(error)));
    await this.runner.addJob('refresh-all' satisfies JobName, {}, { jobKey: 'refresh-all' });
    await this.runner.addJob('repeat-all' satisfies JobName, {}, { jobKey: 'repeat-all' });
  }

  /** Does what waits now and returns; for whoever wants to see the outcome. */
  async workThrough(): Promise<void> {
    await this.behind.asked();
    await runOnce({
      connectionString: this.config.databaseUrl,
      noHandleSignals: true,
      logger: this.queueLogger(),
      taskList: this.handlers(),
    });
  }

  async beforeApplicationShutdown(): Promise<void> {
    await this.runner?.stop();
  }

  /** What goes wrong is told; that all went well need not be. */
  private queueLogger(): QueueLogger {
    return new QueueLogger(() => (level, message) => {
      if (level === 'error') this.logger.error(message);
      else if (level === 'warning') this.logger.warn(message);
    });
  }

  private handlers(): TaskList {
    return {
      'refresh-engagement': (payload) => this.refresh.one(payload as JobPayloads['refresh-engagement']),
      'refresh-all': () => this.refresh.all(),
      'repeat-all': () => this.repeating.all(),
      'repeat-tasks': (payload) => this.repeating.tasks(payload as JobPayloads['repeat-tasks']),
      'repeat-engagements': (payload) => this.repeating.engagements(payload as JobPayloads['repeat-engagements']),
      'prune-history': () => this.history.run(),
      'sweep-files': () => this.sweeping.run(),
      prune: () => this.pruning.run(),
    } satisfies Record<JobName, TaskList[string]>;
  }
}
