import { addDays, type IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import {
  fullDay,
  LOOK_AHEAD_DAYS,
  type EditEngagement as Input,
  type EngagementChanged,
  type FieldChange,
  type PlanEffect,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { isContactOf } from '../platform/sql-words.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { planEffect } from '../plan-change/plan-effect.ts';
import { tryOut } from '../platform/try-out.ts';
import { readPlanFacts } from '../schedule/plan-facts.ts';
import { refreshPlan } from '../schedule/refresh-engagement.ts';
import { readLoadFacts } from '../load/load-facts.ts';

interface EngagementRow {
  readonly version: number;
  readonly name: string;
  readonly promise: IsoDay | null;
  readonly leadId: string;
  readonly contactId: string | null;
  readonly likelihood: number;
  readonly state: string;
  readonly startDay: IsoDay;
  readonly clientId: string;
}

const ENGAGEMENT = `
  SELECT version, name, promised_day AS promise, lead_id AS "leadId", contact_id AS "contactId", likelihood, state, start_day AS "startDay", client_id AS "clientId"
  FROM engagement WHERE id = $1 AND agency_id = $2`;

const FIELDS = ['name', 'promise', 'leadId', 'contactId', 'likelihood'] as const;

/**
 * Edits an engagement: its name, promise, lead, contact and likelihood. Another promise moves what is
 * anchored to it, and slack: the effect is answered, and can be previewed. A stale version changes
 * nothing.
 */
@Injectable()
export class EditEngagement {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  run(who: Who, id: string, input: Input): Promise<EngagementChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { id, input }));
  }

  /** What the change would do; nothing stays. */
  async preview(who: Who, id: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { id, input }))).effect;
  }

  private async apply(
    manager: EntityManager,
    who: Who,
    { id, input }: { readonly id: string; readonly input: Input },
  ): Promise<EngagementChanged> {
    const before = await lockVersion(manager, who, { id, version: input.version });
    const after = { ...before, ...withoutBlanks(input) };
    await refuseUnfit(manager, who, { before, after });
    const today = this.clock.today();
    const window = { today, to: '9999-12-31', comingTo: addDays(today, LOOK_AHEAD_DAYS) };
    const changes = FIELDS.filter((field) => before[field] !== after[field]).map((field): FieldChange => ({
      field,
      from: before[field],
      to: after[field],
    }));
    const countsElsewhere = before.promise !== after.promise || before.likelihood !== after.likelihood;
    const facts = await readPlanFacts(manager, id);
    const loadBefore = countsElsewhere ? await readLoadFacts(manager, who.agencyId, window) : null;
    await rowsOf(
      manager,
      `UPDATE engagement SET name = $2, promised_day = $3, lead_id = $4, contact_id = $5, likelihood = $6, version = version + 1 WHERE id = $1`,
      [id, after.name, after.promise, after.leadId, after.contactId, after.likelihood],
    );
    const anchored = facts.tasks.filter((task) => task.anchorAt === 'before-promise').map((task) => task.id);
    const by = { actor: who, at: this.clock.now() };
    if (changes.length > 0)
      await record(manager, by, [
        {
          kind: 'engagement-changed',
          engagementId: id,
          subject: 'engagement',
          subjectId: id,
          changes,
          names: await namesIn(manager, changes),
        },
      ]);
    const refreshed = await refreshPlan(manager, await readPlanFacts(manager, id), {
      ...{ today, by },
      changed: before.promise === after.promise ? [] : anchored,
    });
    const load = loadBefore === null ? null : { before: loadBefore, after: await readLoadFacts(manager, who.agencyId, window) };
    return {
      version: before.version + 1,
      changeId: changeIdOf(manager),
      effect: planEffect({ before: facts, refreshed, load, today, wishes: [] }),
    };
  }
}

/** The names of people in the changes of an engagement. */
async function namesIn(manager: EntityManager, changes: readonly FieldChange[]): Promise<Record<string, string>> {
  const ids = changes.filter(({ field }) => field === 'leadId' || field === 'contactId').flatMap(({ from, to }) => [from, to]);
  const sql = 'SELECT id, name FROM person WHERE id = ANY($1) UNION ALL SELECT id, name FROM contact WHERE id = ANY($1)';
  const rows = await rowsOf<{ id: string; name: string }>(manager, sql, [ids]);
  return Object.fromEntries(rows.map(({ id, name }) => [id, name]));
}

/** An engagement of the agency, locked; refuses a stale version with the present one. */
export async function lockVersion(
  manager: EntityManager,
  who: Who,
  { id, version }: { readonly id: string; readonly version: number },
): Promise<EngagementRow> {
  await lockEngagements(manager, [id]);
  const row = requireFound(await firstRow<EngagementRow>(manager, ENGAGEMENT, [id, who.agencyId]), 'engagement');
  if (row.version === version) return row;
  const { name, promise, leadId, contactId, likelihood } = row;
  throw new Refusal('changed-meanwhile', 'Somebody changed this engagement since you read it. Reload to see it as it is now.', {
    details: { current: { version: row.version, name, promise, leadId, contactId, likelihood } },
  });
}

/** The fields given; a name without blanks around it. */
function withoutBlanks({ version: _version, ...given }: Input): Partial<EngagementRow> {
  const known = Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as Partial<EngagementRow>;
  return known.name === undefined ? known : { ...known, name: known.name.trim() };
}

async function refuseUnfit(
  manager: EntityManager,
  who: Who,
  { before, after }: { readonly before: EngagementRow; readonly after: EngagementRow },
): Promise<void> {
  if (after.promise !== null && after.promise < after.startDay)
    throw new Refusal('invalid-day', `It began on ${fullDay(after.startDay)}. Choose that day or a later one as the promised date.`, {
      field: 'promise',
    });
  if (after.likelihood !== before.likelihood && before.state !== 'proposal')
    throw new Refusal('wrong-moment', 'Only a proposal is more or less likely. This is agreed work, and counts in full.', {
      field: 'likelihood',
    });
  if (after.leadId !== before.leadId) {
    const person = await firstRow(manager, 'SELECT 1 FROM person WHERE id = $1 AND agency_id = $2 AND is_active', [
      after.leadId,
      who.agencyId,
    ]);
    if (person === null) throw new Refusal('unknown-id', 'Nobody on the crew has this id. Choose from the list.', { field: 'leadId' });
  }
  if (after.contactId !== before.contactId && after.contactId !== null) {
    const contact = await firstRow(manager, `SELECT 1 FROM contact k WHERE k.id = $1 AND k.is_active AND ${isContactOf('k', '$2::uuid')}`, [
      after.contactId,
      before.clientId,
    ]);
    if (contact === null)
      throw new Refusal('unknown-id', 'This contact belongs to another client. Choose one of this client.', { field: 'contactId' });
  }
}
