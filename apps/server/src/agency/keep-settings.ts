import { Injectable } from '@nestjs/common';
import type { AgencySettings, EditSettings, FieldChange } from '@crew/contract';
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
    return firstRow<AgencySettings>(manager, READ, [who.agencyId]).then((row) => requireFound(row, 'agency'));
  }

  edit(who: Who, input: EditSettings): Promise<AgencySettings> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const before = await this.read(who, manager);
      const after = { ...before, ...input };
      const changes = (Object.keys(before) as (keyof AgencySettings)[])
        .filter((field) => before[field] !== after[field])
        .map((field): FieldChange => ({ field, from: before[field], to: after[field] }));
      if (changes.length === 0) return before;
      await rowsOf(manager, 'UPDATE agency SET history_months = $2, remind_hours = $3, remind_lead_hours = $4 WHERE id = $1', [
        who.agencyId,
        after.historyMonths,
        after.remindHours,
        after.remindLeadHours,
      ]);
      await record(manager, { actor: who, at: this.clock.now() }, [
        { kind: 'settings-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId, changes },
      ]);
      return after;
    });
  }
}

const READ = `SELECT history_months AS "historyMonths", remind_hours AS "remindHours", remind_lead_hours AS "remindLeadHours" FROM agency WHERE id = $1`;
