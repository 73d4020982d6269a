import { Injectable } from '@nestjs/common';
import type { SeriesUnit, SeriesView } from '@crew/contract';
import { addDays, balanceRetainer, type Carry, type IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { CLIENT, holdsRole, PERSON } from '../platform/sql-words.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { daysOfSeries, RHYTHMIC, type Rhythmic } from './series-facts.ts';

/** How far ahead what is not created yet is shown. */
const SHOWN_DAYS = 400;
const SHOWN_MOST = 24;

const UNITS = `
  coalesce((SELECT json_agg(json_build_object('id', e.id, 'number', e.series_number, 'name', e.name, 'day', e.series_day, 'state', e.state, 'start', e.start_day,
      'finish', m.finish_day, 'promise', e.promised_day, 'percent', m.percent, 'effortMinutes', m.effort_minutes, 'loggedMinutes', m.logged_minutes,
      'lateDays', m.late_days, 'agreedMinutes', e.agreed_minutes, 'agreedCarry', e.agreed_carry,
      'usedMinutes', (SELECT coalesce(sum(x.minutes), 0)::int FROM time_entry x WHERE x.engagement_id = e.id AND x.is_chargeable),
      'phase', (SELECT p.name FROM phase p WHERE p.engagement_id = e.id AND p.state = 'running' ORDER BY p.position LIMIT 1)) ORDER BY e.series_day, e.series_number)
    FROM engagement e JOIN engagement_summary m ON m.engagement_id = e.id WHERE e.series_id = s.id), '[]')`;

const SERIES = `
  SELECT s.id, s.version, s.kind, s.name, s.unit_name AS "unitName", ${CLIENT} AS client, ${PERSON('l')} AS lead,
    json_build_object('id', t.id, 'name', t.name) AS template, s.places, s.on_closed AS "onClosed", s.ahead_days AS "aheadDays",
    s.retainer_minutes AS "retainerMinutes", s.carry, s.stopped_on AS "stoppedOn", s.skipped, s.extra,
    coalesce((SELECT json_agg(json_build_object('roleId', r.id, 'role', r.name, 'person', CASE WHEN q.id IS NULL THEN NULL ELSE ${PERSON('q')} END) ORDER BY v.turn)
      FROM jsonb_array_elements(s.roles) WITH ORDINALITY AS v(choice, turn) JOIN role r ON r.id = (v.choice->>'roleId')::uuid
      LEFT JOIN person q ON q.id = (v.choice->>'personId')::uuid AND ${holdsRole('q.id', 'r.id')}), '[]') AS roles,
    ${RHYTHMIC}, s.made_until AS "madeUntil", ${UNITS} AS units
  FROM engagement_series s JOIN agency y ON y.id = s.agency_id JOIN client c ON c.id = s.client_id JOIN person l ON l.id = s.lead_id JOIN template t ON t.id = s.template_id`;

interface UnitRow extends Omit<SeriesUnit, 'balance'> {
  readonly agreedMinutes: number | null;
  readonly agreedCarry: Carry | null;
  readonly usedMinutes: number;
}
interface Row extends Omit<SeriesView, 'units' | 'coming' | 'rhythms'>, Pick<Rhythmic, 'calendar' | 'rhythms'> {
  readonly units: readonly UnitRow[];
  readonly madeUntil: IsoDay | null;
}

/** Series of engagements with their units, what is agreed for each, and what is to come. */
@Injectable()
export class ReadSeries {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** All of an agency: those that go on first. */
  async list(who: Who): Promise<SeriesView[]> {
    const { manager } = this.database;
    const rows = await rowsOf<Row>(manager, `${SERIES} WHERE s.agency_id = $1 ORDER BY s.stopped_on IS NOT NULL, s.kind, s.name, s.id`, [
      who.agencyId,
    ]);
    return rows.map((row) => this.view(row));
  }

  async one(manager: EntityManager, who: Who, id: string): Promise<SeriesView> {
    const row = await firstRow<Row>(manager, `${SERIES} WHERE s.id = $1 AND s.agency_id = $2`, [id, who.agencyId]);
    return this.view(requireFound(row, 'series'));
  }

  read(who: Who, id: string): Promise<SeriesView> {
    return this.one(this.database.manager, who, id);
  }

  private view({ calendar, madeUntil, ...row }: Row): SeriesView {
    const today = this.clock.today();
    const coming = daysOfSeries({ ...row, calendar }, { from: today, to: addDays(today, SHOWN_DAYS) });
    return {
      ...row,
      rhythms: row.rhythms.map((rhythm) => ({ ...rhythm, isAhead: rhythm.from > today })),
      units: withBalances(row.units, today),
      coming: coming.filter(({ day }) => madeUntil === null || day > madeUntil).slice(0, SHOWN_MOST),
    };
  }
}

/** Balances run over the periods for which hours are agreed, in order. A period is over when it is finished or the next one has begun. */
function withBalances(rows: readonly UnitRow[], today: IsoDay): SeriesUnit[] {
  const agreed = rows.filter((row) => row.agreedMinutes !== null);
  const isOver = (row: UnitRow, index: number): boolean =>
    row.state === 'finished' ||
    row.state === 'dropped' ||
    (agreed[index + 1] !== undefined && (agreed[index + 1] as UnitRow).start <= today);
  const balances = unwrap(
    balanceRetainer(
      agreed.map((row, index) => ({
        ...{ agreed: row.agreedMinutes as number, used: row.usedMinutes },
        ...{ carry: row.agreedCarry ?? 'none', isOver: isOver(row, index) },
      })),
    ),
  );
  const balanceOf = new Map(agreed.map((row, index) => [row.id, balances[index] ?? null]));
  return rows.map(({ agreedMinutes: _agreed, agreedCarry: _carry, usedMinutes: _used, ...unit }) => ({
    ...unit,
    balance: balanceOf.get(unit.id) ?? null,
  }));
}
