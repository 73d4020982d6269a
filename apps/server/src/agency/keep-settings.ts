import { Injectable } from '@nestjs/common';
import type { AgencySettings, EditSettings, FieldChange } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { KeepSecurityLog } from '../account/security-log.ts';
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
  private readonly log: KeepSecurityLog;
  constructor(database: Database, clock: Clock, log: KeepSecurityLog) {
    this.database = database;
    this.clock = clock;
    this.log = log;
  }

  read(who: Who, manager: EntityManager = this.database.manager): Promise<AgencySettings> {
    return firstRow<AgencySettings>(manager, READ, [who.agencyId]).then((row) => requireFound(row, 'agency'));
  }

  async edit(who: Who, input: EditSettings): Promise<AgencySettings> {
    const settings = await this.write(who, input);
    // Other processes follow within the minute (`follow-zone.ts`).
    this.clock.useZone(settings.zone);
    return settings;
  }

  private write(who: Who, input: EditSettings): Promise<AgencySettings> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const before = await this.read(who, manager);
      const after = { ...before, ...input };
      const changes = FIELDS.filter((field) => before[field] !== after[field]).map((field): FieldChange => ({
        field,
        from: before[field],
        to: after[field],
      }));
      if (changes.length === 0) return before;
      await rowsOf(manager, WRITE, [who.agencyId, ...FIELDS.map((field) => after[field])]);
      await record(manager, { actor: who, at: this.clock.now() }, [
        { kind: 'settings-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId, changes },
      ]);
      if (before.secondFactorFor !== after.secondFactorFor)
        await this.log.add({ kind: 'second-factor-required', accountId: who.accountId, note: after.secondFactorFor }, manager);
      return after;
    });
  }
}

/** The column of each setting. */
const COLUMN: Readonly<Record<Exclude<keyof AgencySettings, 'logo'>, string>> = {
  ...{ name: 'name', zone: 'zone', currency: 'currency', colour: 'colour', country: 'country', region: 'region' },
  ...{ historyMonths: 'history_months', remindHours: 'remind_hours', remindLeadHours: 'remind_lead_hours' },
  ...{ remindTaskHours: 'remind_task_hours', remindTaskLeadHours: 'remind_task_lead_hours' },
  ...{
    remindClientHours: 'remind_client_hours',
    remindClientLeadHours: 'remind_client_lead_hours',
    remindLoggingHours: 'remind_logging_hours',
  },
  secondFactorFor: 'second_factor_for',
};
const FIELDS = Object.keys(COLUMN) as (keyof typeof COLUMN)[];

/** SQL: where the logo of the agency of this row is, another for each picture; null without one. */
export const LOGO_ADDRESS = `(SELECT '/api/agency/logo?v=' || l.digest FROM agency_logo l WHERE l.agency_id = agency.id)`;

const READ = `SELECT ${FIELDS.map((field) => `${COLUMN[field]} AS "${field}"`).join(', ')}, ${LOGO_ADDRESS} AS logo FROM agency WHERE id = $1`;
const WRITE = `UPDATE agency SET ${FIELDS.map((field, place) => `${COLUMN[field]} = $${place + 2}`).join(', ')} WHERE id = $1`;
