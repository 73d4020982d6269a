import { Injectable } from '@nestjs/common';
import type { AgencySettings, EditSettings } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** What the agency decides once for everything. */
@Injectable()
export class KeepSettings {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  read(who: Who, manager: EntityManager = this.database.manager): Promise<AgencySettings> {
    const sql = 'SELECT history_months AS "historyMonths" FROM agency WHERE id = $1';
    return firstRow<AgencySettings>(manager, sql, [who.agencyId]).then((row) => requireFound(row, 'agency'));
  }

  edit(who: Who, { historyMonths }: EditSettings): Promise<AgencySettings> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const before = await this.read(who, manager);
      if (before.historyMonths === historyMonths) return before;
      await rowsOf(manager, 'UPDATE agency SET history_months = $2 WHERE id = $1', [who.agencyId, historyMonths]);
      await record(manager, { actor: who, at: this.clock.now() }, [
        {
          ...{ kind: 'settings-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId },
          changes: [{ field: 'historyMonths', from: before.historyMonths, to: historyMonths }],
        },
      ]);
      return { historyMonths };
    });
  }
}
