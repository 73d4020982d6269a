import { EventEmitter } from 'node:events';
import { Inject, Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { ModuleRef } from '@nestjs/core';
import {
  Logger as QueueLogger,
  run,
  runMigrations,
  runOnce,
  type JobHelpers,
  type Runner,
  type TaskList,
  type WorkerEvents,
} from 'graphile-worker';
import { CONFIG, type Config } from '../platform/config.ts';
import { FollowEvents } from '../activity/follow-events.ts';
import { AREA_JOBS, type AreaJob } from '../platform/area.ts';
import type { JobName } from '../platform/job-names.ts';
import { PlanBehind } from '../schedule/plan-behind.ts';
import { WatchWorkers } from './watch-workers.ts';

/** A queue of its own, and one key for whatever waits in it. */
const alone = (name: JobName): string => ` ?queue=${name}&jobKey=${name}`;

/** Runs the jobs kept in the database; several server processes share the work. */
@Injectable()
export class JobRunner implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly config: Config;
  private readonly jobs: readonly AreaJob[];
  private readonly modules: ModuleRef;
  private readonly behind: PlanBehind;
  private readonly following: FollowEvents;
  private readonly workers: WatchWorkers;
  private readonly logger = new Logger('jobs');
  private runner: Runner | null = null;

  constructor(
    @Inject(CONFIG) config: Config,
    @Inject(AREA_JOBS) jobs: readonly AreaJob[],
    modules: ModuleRef,
    behind: PlanBehind,
    following: FollowEvents,
    workers: WatchWorkers,
  ) {
    this.config = config;
    this.jobs = jobs;
    this.modules = modules;
    this.behind = behind;
    this.following = following;
    this.workers = workers;
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
      crontab: this.jobs
        .flatMap(({ at, name, isAlone }) => (at === undefined ? [] : [`${at} ${name}${isAlone === true ? alone(name) : ''}`]))
        .join('\n'),
      events,
    });
    await this.workers.start();
    this.runner.promise.catch((error: unknown) => this.logger.error(error instanceof Error ? error.stack : String(error)));
    await this.runner.addJob('refresh-all' satisfies JobName, {}, { jobKey: 'refresh-all' });
    await this.runner.addJob('repeat-all' satisfies JobName, {}, { jobKey: 'repeat-all' });
  }

  /** Runs the waiting jobs and returns; for tests and scripts that need the result. */
  async workThrough(): Promise<void> {
    await this.behind.asked();
    // What rules do is followed again, until nothing follows any more.
    do {
      await this.following.run();
      await runOnce({
        connectionString: this.config.databaseUrl,
        noHandleSignals: true,
        logger: this.queueLogger(),
        taskList: this.handlers(),
      });
    } while ((await this.following.run()) > 0);
  }

  /** Jobs under way are waited for; those that take longer than five seconds are told to stop. */
  async beforeApplicationShutdown(): Promise<void> {
    await this.runner?.stop();
  }

  /** Failures are logged; successes need not be. */
  private queueLogger(): QueueLogger {
    return new QueueLogger(() => (level, message) => {
      if (level === 'error') this.logger.error(message);
      else if (level === 'warning') this.logger.warn(message);
    });
  }

  private handlers(): TaskList {
    return Object.fromEntries(
      this.jobs.map(({ name, by, run: work }) => {
        const handler = this.modules.get<never>(by, { strict: false });
        return [name, (payload: unknown, { abortSignal }: JobHelpers) => work(handler, payload as never, abortSignal)];
      }),
    );
  }
}
