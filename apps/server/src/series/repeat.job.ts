import { Injectable } from '@nestjs/common';
import type { JobActor } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import type { JobPayloads } from '../platform/job-names.ts';
import { settleTaskSeries } from './settle-tasks.ts';
import { SettleUnits } from './settle-units.ts';

/** Asks for the work of each, once however often it is asked for. */
const ASK_TASKS = `
  SELECT graphile_worker.add_job('repeat-tasks', payload := json_build_object('engagementId', x.id), job_key := 'repeat ' || x.id)
  FROM (SELECT DISTINCT s.engagement_id AS id FROM task_series s JOIN engagement e ON e.id = s.engagement_id
        WHERE s.settled_on IS DISTINCT FROM $1 AND e.state IN ('proposal', 'open') ORDER BY 1) x`;

const ASK_ENGAGEMENTS = `
  SELECT graphile_worker.add_job('repeat-engagements', payload := json_build_object('seriesId', s.id), job_key := 'repeat ' || s.id)
  FROM (SELECT id FROM engagement_series WHERE settled_on IS DISTINCT FROM $1 ORDER BY id) s`;

const REPEATING: JobActor = { job: 'repeat' };

/** Makes what repeats ahead, once a day for each; doing it twice changes nothing. */
@Injectable()
export class RepeatJob {
  private readonly database: Database;
  private readonly units: SettleUnits;
  private readonly clock: Clock;
  constructor(database: Database, units: SettleUnits, clock: Clock) {
    this.database = database;
    this.units = units;
    this.clock = clock;
  }

  /** One job each, so that one that fails does not hold up the others. */
  async all(): Promise<void> {
    await this.database.transaction(async (manager) => {
      await rowsOf(manager, ASK_TASKS, [this.clock.today()]);
      await rowsOf(manager, ASK_ENGAGEMENTS, [this.clock.today()]);
    });
  }

  async tasks({ engagementId }: JobPayloads['repeat-tasks']): Promise<void> {
    await this.database.transaction(async (manager) => {
      const locked = await lockEngagements(manager, [engagementId]);
      if (locked.length > 0)
        await settleTaskSeries(manager, engagementId, { today: this.clock.today(), by: { actor: REPEATING, at: this.clock.now() } });
    });
  }

  async engagements({ seriesId }: JobPayloads['repeat-engagements']): Promise<void> {
    await this.database.transaction((manager) => this.units.run(manager, seriesId, REPEATING));
  }
}
