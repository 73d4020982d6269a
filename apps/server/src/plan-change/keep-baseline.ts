import type { IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { lockEngagement } from './change-plan.ts';

/** Saves the plan as it is as the baseline: drift is measured against it from now on. The old one stays in the history. */
@Injectable()
export class KeepBaseline {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, engagementId: string): Promise<void> {
    return this.database.transaction(async (manager) => {
      await lockEngagement(manager, who, engagementId);
      const before = await firstRow<{ finish: IsoDay; promise: IsoDay | null }>(
        manager,
        'SELECT baseline_finish AS finish, baseline_promise AS promise FROM engagement WHERE id = $1',
        [engagementId],
      );
      const after = await firstRow<{ finish: IsoDay; promise: IsoDay | null }>(
        manager,
        `UPDATE engagement e SET baseline_on = $2, baseline_finish = s.finish_day, baseline_promise = e.promised_day, version = e.version + 1
         FROM engagement_summary s WHERE e.id = $1 AND s.engagement_id = e.id
         RETURNING e.baseline_finish AS finish, e.baseline_promise AS promise`,
        [engagementId, this.clock.today()],
      );
      await rowsOf(manager, 'UPDATE task SET baseline_start = start_day, baseline_due = due_day WHERE engagement_id = $1', [engagementId]);
      await rowsOf(
        manager,
        `UPDATE phase SET baseline_start = coalesce(started_on, planned_start), baseline_finish = coalesce(finished_on, planned_finish) WHERE engagement_id = $1`,
        [engagementId],
      );
      await record(manager, { actor: who, at: this.clock.now() }, [
        {
          ...{ kind: 'baseline-saved', engagementId, subject: 'engagement', subjectId: engagementId },
          changes: [{ field: 'baseline', from: before, to: after }],
        },
      ]);
    });
  }
}
