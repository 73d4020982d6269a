import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { Database } from '../platform/database.ts';

const BEAT_MS = 5000;
/** A worker that has said nothing for so long is dead; its jobs are free again within a minute. */
const DEAD_SECONDS = 30;

const BEAT =
  'INSERT INTO worker_heartbeat (worker_id, at) SELECT unnest($1::text[]), now() ON CONFLICT (worker_id) DO UPDATE SET at = excluded.at';

const UNLOCK = `
  SELECT graphile_worker.force_unlock_workers(array_agg(DISTINCT j.locked_by)) FROM graphile_worker.jobs j
  WHERE j.locked_at < now() - make_interval(secs => $1)
    AND NOT EXISTS (SELECT 1 FROM worker_heartbeat b WHERE b.worker_id = j.locked_by AND b.at > now() - make_interval(secs => $1))
  HAVING count(*) > 0`;

/**
 * A job that was asked for again while a worker had it is put aside by the queue, to go when that
 * worker is through. Nobody is through with one whose worker was killed.
 */
const CLEAR = `
  SELECT graphile_worker.complete_jobs(array_agg(id)) FROM graphile_worker.jobs
  WHERE attempts >= max_attempts AND key IS NULL AND locked_by IS NULL AND last_error IS NULL HAVING count(*) > 0`;

/**
 * Says every few seconds that this process's workers live, and gives back the jobs of those that
 * do not: the queue itself waits four hours for a worker that was killed.
 */
@Injectable()
export class WatchWorkers implements BeforeApplicationShutdown {
  private readonly database: Database;
  private readonly logger = new Logger('jobs');
  private readonly workerIds = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  /** Said once for each outage. */
  private isSilent = false;
  constructor(database: Database) {
    this.database = database;
  }

  /** A worker of this process began. */
  add(workerId: string): void {
    this.workerIds.add(workerId);
  }

  async start(): Promise<void> {
    await this.watch();
    this.timer = setInterval(() => void this.watch(), BEAT_MS);
  }

  /** Gives back the jobs of workers that are dead. */
  async unlockDead(): Promise<void> {
    await this.database.rows(UNLOCK, [DEAD_SECONDS]);
    await this.database.rows(CLEAR);
  }

  async beforeApplicationShutdown(): Promise<void> {
    if (this.timer === null) return;
    clearInterval(this.timer);
    await this.database.rows('DELETE FROM worker_heartbeat WHERE worker_id = ANY($1)', [[...this.workerIds]]).catch(() => undefined);
  }

  private async watch(): Promise<void> {
    try {
      await this.database.rows(BEAT, [[...this.workerIds]]);
      await this.unlockDead();
      this.isSilent = false;
    } catch (error) {
      if (!this.isSilent)
        this.logger.warn(`The queue's workers cannot say that they live. ${error instanceof Error ? error.message : String(error)}`);
      this.isSilent = true;
    }
  }
}
