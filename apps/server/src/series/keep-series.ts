import { addDays, type IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import type {
  ChangeRhythm,
  ChangeSeries,
  FieldChange,
  ResumeSeries,
  RhythmChanged,
  SeriesView,
  StartSeries,
  StopSeries,
  CancelRhythm,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { holdsRole } from '../platform/sql-words.ts';
import { lockEngagements, lockKept } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refuseUnstartable } from '../template/refuse-unstartable.ts';
import { DryRunTemplate, notHeld, requireRoles } from '../template/dry-run.ts';
import { ReadSeries } from './read-series.ts';
import { dayBefore, readEngagementSeries, requireDays, requireRhythm, type EngagementSeriesFacts } from './series-facts.ts';
import { requireNear } from '../load/load-window.ts';
import { removeUntouched, SettleUnits, type Settled } from './settle-units.ts';

/** A line is watched weekly, a visit is planned a month ahead. */
const AHEAD_DAYS = { line: 21, repeating: 35 } as const;

/** Engagements that repeat and production lines: started, edited, given another rhythm, stopped. Each is one transaction. */
@Injectable()
export class KeepSeries {
  private readonly database: Database;
  private readonly dryRun: DryRunTemplate;
  private readonly units: SettleUnits;
  private readonly reading: ReadSeries;
  private readonly clock: Clock;
  constructor(database: Database, dryRun: DryRunTemplate, units: SettleUnits, reading: ReadSeries, clock: Clock) {
    this.database = database;
    this.dryRun = dryRun;
    this.units = units;
    this.reading = reading;
    this.clock = clock;
  }

  /** Begins a series; its first units are made at once. */
  start(who: Who, input: StartSeries): Promise<SeriesView> {
    return this.database.transaction(async (manager) => {
      const today = this.clock.today();
      if (input.firstDay < today) throw new Refusal('invalid-day', 'That day is over. Choose today or a later one.', { field: 'firstDay' });
      requireNear(input.firstDay, today, 'firstDay');
      await refuseUnstartable(manager, who, input.templateId);
      const roles = await this.rolesOf(manager, who, input);
      const { id } = (await firstRow<{ id: string }>(
        manager,
        `INSERT INTO engagement_series (agency_id, kind, name, unit_name, client_id, contact_id, lead_id, template_id, roles, places, on_closed, retainer_minutes, carry, ahead_days)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14) RETURNING id`,
        [
          ...[
            who.agencyId,
            input.kind,
            input.name.trim(),
            input.unitName?.trim() ?? unitNameOf(input),
            input.clientId,
            input.contactId ?? null,
          ],
          ...[who.personId, input.templateId, JSON.stringify(roles), input.places ?? 'start', input.onClosed ?? 'after'],
          ...[input.retainerMinutes ?? null, input.carry ?? 'none', input.aheadDays ?? AHEAD_DAYS[input.kind]],
        ],
      )) as { id: string };
      await writeRhythm(manager, id, { from: input.firstDay, rule: input.rule, each: input.each ?? 1 });
      requireDays(requireFound(await readEngagementSeries(manager, who.agencyId, id), 'series'), input.firstDay);
      await this.record(manager, who, { id, kind: 'series-started' }, [{ field: 'rhythm', from: null, to: input.rule }]);
      await this.units.run(manager, id, who);
      return this.reading.one(manager, who, id);
    });
  }

  /** Whoever is chosen for each role, or suggested first; client and template are checked on the way. */
  private async rolesOf(manager: EntityManager, who: Who, input: StartSeries): Promise<EngagementSeriesFacts['roles']> {
    const plan = {
      ...{ templateId: input.templateId, clientId: input.clientId, start: input.firstDay },
      ...(input.roles === undefined ? {} : { roles: input.roles }),
    };
    const { roles } = await this.dryRun.run(manager, who, plan);
    return roles.map(({ roleId, chosen }) => ({ roleId, personId: chosen?.id ?? null }));
  }

  /** Units that have not begun follow: those nobody has touched are made anew. */
  change(who: Who, id: string, input: ChangeSeries): Promise<SeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      const next = {
        ...series,
        ...(input.name === undefined ? {} : { name: input.name.trim() }),
        ...(input.unitName === undefined ? {} : { unitName: input.unitName.trim() }),
        ...(input.onClosed === undefined ? {} : { onClosed: input.onClosed }),
        ...(input.retainerMinutes === undefined ? {} : { retainerMinutes: input.retainerMinutes }),
        ...(input.carry === undefined ? {} : { carry: input.carry }),
        ...(input.aheadDays === undefined ? {} : { aheadDays: input.aheadDays }),
        ...(input.skipped === undefined ? {} : { skipped: sorted(input.skipped) }),
        ...(input.extra === undefined ? {} : { extra: sorted(input.extra) }),
        roles: mergeRoles(series.roles, input.roles ?? []),
      };
      await requirePeople(manager, who, input.roles ?? []);
      await requireRoles(manager, who, input.roles ?? []);
      await rowsOf(
        manager,
        `UPDATE engagement_series SET name = $2, unit_name = $3, on_closed = $4, retainer_minutes = $5, carry = $6, ahead_days = $7, skipped = $8, extra = $9, roles = $10
         WHERE id = $1`,
        [
          ...[id, next.name, next.unitName, next.onClosed, next.retainerMinutes, next.carry, next.aheadDays],
          ...[JSON.stringify(next.skipped), JSON.stringify(next.extra), JSON.stringify(next.roles)],
        ],
      );
      // What is agreed holds for whole periods: those that run keep what was agreed for them.
      const ahead = series.made.filter((unit) => unit.start > this.clock.today()).map((unit) => unit.id);
      await lockEngagements(manager, ahead);
      await rowsOf(manager, 'UPDATE engagement SET agreed_minutes = $2, agreed_carry = $4 WHERE id = ANY($1) AND start_day > $3', [
        ...[ahead, next.retainerMinutes, this.clock.today(), next.retainerMinutes === null ? null : next.carry],
      ]);
      const isMadeAnew = input.unitName !== undefined || input.roles !== undefined || input.onClosed !== undefined;
      if (isMadeAnew) await this.makeAnew(manager, series, addDays(this.clock.today(), 1));
      else await rewind(manager, series, next);
      return changesBetween(series, next);
    });
  }

  /** Another rhythm from a day on: units from then on that nobody has touched are made anew by it. */
  async changeRhythm(who: Who, id: string, input: ChangeRhythm): Promise<RhythmChanged> {
    let settled: Settled = { removed: 0, made: 0 };
    let removed = 0;
    const series = await this.turn(
      who,
      id,
      input.version,
      async (manager, facts) => {
        requireRhythm(facts, input, this.clock.today());
        const was = [...facts.rhythms].reverse().find((rhythm) => rhythm.from <= input.from);
        await writeRhythm(manager, id, { from: input.from, rule: input.rule, each: input.each ?? 1 });
        removed = await this.makeAnew(manager, facts, input.from);
        return [{ field: 'rhythm', from: was?.rule ?? null, to: input.rule }];
      },
      (done) => (settled = done),
    );
    return { series, removed: removed + settled.removed, made: settled.made };
  }

  /** Removes a rhythm that has not begun; the one before it goes on. */
  cancelRhythm(who: Who, id: string, input: CancelRhythm): Promise<SeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      const rhythm = series.rhythms.find(({ from }) => from === input.from);
      if (rhythm === undefined) throw new Refusal('unknown-id', 'No pace starts on that day. Reload and check.', { field: 'from' });
      if (rhythm.from <= this.clock.today()) throw new Refusal('wrong-moment', 'It has started. Change the pace from a later day instead.');
      if (series.rhythms.length === 1) throw new Refusal('wrong-moment', 'It is the only pace. Stop the series instead.');
      await rowsOf(manager, 'DELETE FROM series_rhythm WHERE series_id = $1 AND from_day = $2', [id, input.from]);
      await this.makeAnew(manager, series, input.from);
      return [{ field: 'rhythm', from: rhythm.rule, to: null }];
    });
  }

  /** Nothing is made from a day on; units ahead that nobody has touched are removed. */
  stop(who: Who, id: string, input: StopSeries): Promise<SeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      const from = input.from ?? addDays(this.clock.today(), 1);
      if (from <= this.clock.today())
        throw new Refusal('invalid-day', 'The past cannot be changed. Stop from tomorrow or a later day.', { field: 'from' });
      await rowsOf(manager, 'UPDATE engagement_series SET stopped_on = $2, made_until = least(made_until, $3) WHERE id = $1', [
        ...[id, from, dayBefore(from)],
      ]);
      return [{ field: 'stopped', from: series.stoppedOn, to: from }];
    });
  }

  resume(who: Who, id: string, input: ResumeSeries): Promise<SeriesView> {
    return this.turn(who, id, input.version, async (manager, series) => {
      if (series.stoppedOn === null) throw new Refusal('wrong-moment', 'It was not stopped. Reload to see the current state.');
      const today = this.clock.today();
      // What was left out while it was stopped stays left out.
      const until = series.stoppedOn <= today ? today : dayBefore(series.stoppedOn);
      await rowsOf(manager, 'UPDATE engagement_series SET stopped_on = NULL, made_until = $2 WHERE id = $1', [id, until]);
      return [{ field: 'stopped', from: series.stoppedOn, to: null }];
    });
  }

  private async turn(
    who: Who,
    id: string,
    version: number,
    act: (manager: EntityManager, series: EngagementSeriesFacts) => Promise<FieldChange[]>,
    tell: (settled: Settled) => void = () => undefined,
  ): Promise<SeriesView> {
    return this.database.transaction(async (manager) => {
      await lockKept(manager, 'engagement_series', id);
      const series = requireFound(await readEngagementSeries(manager, who.agencyId, id), 'series');
      if (series.version !== version)
        throw new Refusal('changed-meanwhile', 'Somebody changed this since you opened it. Reload and check.', {
          details: { current: await this.reading.one(manager, who, id) },
        });
      const changes = await act(manager, series);
      await rowsOf(manager, 'UPDATE engagement_series SET version = version + 1 WHERE id = $1', [id]);
      await this.record(manager, who, { id, kind: 'series-changed' }, changes);
      tell(await this.units.run(manager, id, who));
      return this.reading.one(manager, who, id);
    });
  }

  /** Removes units from a day on that nobody has touched, so that they are made anew. Answers how many they were. */
  private async makeAnew(manager: EntityManager, series: EngagementSeriesFacts, from: IsoDay): Promise<number> {
    const gone = series.made.filter((unit) => unit.isUntouched && unit.day >= from && unit.start > this.clock.today());
    const removed = await removeUntouched(
      manager,
      series,
      gone.map(({ id }) => id),
    );
    await rowsOf(manager, 'UPDATE engagement_series SET made_until = least(made_until, $2) WHERE id = $1', [series.id, dayBefore(from)]);
    return removed.length;
  }

  private async record(
    manager: EntityManager,
    who: Who,
    what: { readonly id: string; readonly kind: 'series-started' | 'series-changed' },
    changes: readonly FieldChange[],
  ): Promise<void> {
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind: what.kind, engagementId: null, subject: 'series', subjectId: what.id, changes },
    ]);
  }
}

const unitNameOf = (input: StartSeries): string => (input.kind === 'line' ? `${input.name.trim()} {n}` : `${input.name.trim()}, {month}`);

const sorted = (days: readonly IsoDay[]): IsoDay[] => [...new Set(days)].sort();

const writeRhythm = (
  manager: EntityManager,
  seriesId: string,
  rhythm: { readonly from: string; readonly rule: string; readonly each: number },
): Promise<unknown> =>
  rowsOf(
    manager,
    `INSERT INTO series_rhythm (series_id, from_day, rule, each) VALUES ($1, $2, $3, $4)
     ON CONFLICT (series_id, from_day) DO UPDATE SET rule = excluded.rule, each = excluded.each`,
    [seriesId, rhythm.from, rhythm.rule, rhythm.each],
  );

type Roles = EngagementSeriesFacts['roles'];

const mergeRoles = (roles: Roles, chosen: Roles): Roles => {
  const next = new Map(chosen.map(({ roleId, personId }) => [roleId, personId]));
  return roles.map(({ roleId, personId }) => ({ roleId, personId: next.has(roleId) ? (next.get(roleId) ?? null) : personId }));
};

async function requirePeople(manager: EntityManager, who: Who, roles: Roles): Promise<void> {
  const ids = roles.flatMap(({ personId }) => (personId === null ? [] : [personId]));
  const rows = await rowsOf<{ id: string }>(manager, 'SELECT id FROM person WHERE id = ANY($1) AND agency_id = $2 AND is_active', [
    ids,
    who.agencyId,
  ]);
  if (rows.length < new Set(ids).size)
    throw new Refusal('unknown-id', 'Somebody chosen is not on your crew. Choose from the list.', { field: 'roles' });
  const lacking = await firstRow<{ name: string; role: string }>(
    manager,
    `SELECT p.name, r.name AS role FROM jsonb_to_recordset($1::jsonb) AS chosen("roleId" uuid, "personId" uuid)
     JOIN person p ON p.id = chosen."personId" JOIN role r ON r.id = chosen."roleId" WHERE NOT ${holdsRole('p.id', 'r.id')} LIMIT 1`,
    [JSON.stringify(roles)],
  );
  if (lacking !== null) throw notHeld(lacking.name, lacking.role);
}

/** A day taken in again, or added, within what was made already is made like any other. */
async function rewind(manager: EntityManager, before: EngagementSeriesFacts, after: EngagementSeriesFacts): Promise<void> {
  const back = [
    ...before.skipped.filter((day) => !after.skipped.includes(day)),
    ...after.extra.filter((day) => !before.extra.includes(day)),
  ].sort();
  const [first] = back;
  if (first === undefined) return;
  await rowsOf(manager, 'UPDATE engagement_series SET made_until = least(made_until, $2) WHERE id = $1', [before.id, dayBefore(first)]);
}

function changesBetween(before: EngagementSeriesFacts, after: EngagementSeriesFacts): FieldChange[] {
  const fields = ['name', 'unitName', 'onClosed', 'retainerMinutes', 'carry', 'aheadDays', 'skipped', 'extra', 'roles'] as const;
  return fields
    .filter((field) => JSON.stringify(before[field]) !== JSON.stringify(after[field]))
    .map((field) => ({ field, from: before[field], to: after[field] }));
}
