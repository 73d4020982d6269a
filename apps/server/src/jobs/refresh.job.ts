import { Injectable } from '@nestjs/common';
import type { JobActor } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { addRefreshJobs, type JobPayloads } from '../platform/job-names.ts';

const PLANNING: JobActor = { job: 'plan' };

/** Keeps what depends on today right: overdue, expected days, days late; and what statuses left pending. Doing it twice changes nothing. */
@Injectable()
export class RefreshJob {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async one({ engagementId }: JobPayloads['refresh-engagement']): Promise<void> {
    await this.database.transaction(async (manager) => {
      const locked = await lockEngagements(manager, [engagementId]);
      // It may have been removed between being asked for and now.
      if (locked.length > 0)
        await refreshEngagement(manager, engagementId, {
          today: this.clock.today(),
          by: { actor: PLANNING, at: this.clock.now() },
          changed: [],
        });
    });
  }

  /** One job an engagement, so that one that fails does not hold up the others. */
  async all(): Promise<void> {
    await this.database.transaction(async (manager) => {
      const open = await rowsOf<{ id: string }>(
        manager,
        `SELECT e.id FROM engagement e LEFT JOIN engagement_summary s ON s.engagement_id = e.id
         WHERE e.state IN ('proposal', 'open') AND (s.refreshed_on IS DISTINCT FROM $1 OR s.pending_task_ids <> '{}')`,
        [this.clock.today()],
      );
      await addRefreshJobs(
        manager,
        open.map(({ id }) => id),
      );
    });
  }
}
