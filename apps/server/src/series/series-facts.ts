import { calendarOf, holdsRole } from '../platform/sql-words.ts';
import { addDays, type CalendarInput, type Carry, type Occurrence, occurrences, type OnClosed, type Rhythm, type IsoDay } from '@crew/core';
import { NO_WORK_EVENTS, type SeriesKind, type SeriesPlaces } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import { requireNear } from '../load/load-window.ts';

/** An engagement of a series that was made. */
export interface MadeUnit {
  readonly id: string;
  readonly number: number;
  readonly day: IsoDay;
  readonly place: number;
  readonly start: IsoDay;
  /** Nobody has touched it: it may be taken away and made anew. */
  readonly isUntouched: boolean;
}

/** A series of engagements with all that decides what is to be made of it. */
export interface EngagementSeriesFacts {
  readonly id: string;
  readonly agencyId: string;
  readonly kind: SeriesKind;
  readonly name: string;
  readonly unitName: string;
  readonly clientId: string;
  readonly contactId: string | null;
  readonly leadId: string;
  readonly templateId: string;
  readonly roles: readonly { readonly roleId: string; readonly personId: string | null }[];
  readonly places: SeriesPlaces;
  readonly onClosed: OnClosed;
  readonly skipped: readonly IsoDay[];
  readonly extra: readonly IsoDay[];
  readonly retainerMinutes: number | null;
  readonly carry: Carry;
  readonly aheadDays: number;
  readonly madeUntil: IsoDay | null;
  readonly stoppedOn: IsoDay | null;
  readonly version: number;
  readonly calendar: CalendarInput;
  readonly rhythms: readonly (Rhythm & { readonly each: number })[];
  readonly made: readonly MadeUnit[];
}

/** Who left the crew or gave up the role does nothing more of it: the role is open until somebody is chosen. */
const ROLES = `
  coalesce((SELECT json_agg(json_build_object('roleId', v.choice->>'roleId', 'personId', (SELECT q.id FROM person q
      WHERE q.id = (v.choice->>'personId')::uuid AND ${holdsRole('q.id', "(v.choice->>'roleId')::uuid")})) ORDER BY v.turn)
    FROM jsonb_array_elements(s.roles) WITH ORDINALITY AS v(choice, turn)), '[]')`;

/** What the days of series s come from, for aliases s and y, its agency. */
export const RHYTHMIC = `
  ${calendarOf('y')} AS calendar,
  (SELECT json_agg(json_build_object('from', r.from_day, 'rule', r.rule, 'each', r.each) ORDER BY r.from_day) FROM series_rhythm r WHERE r.series_id = s.id) AS rhythms`;

/** Events that say nothing about anybody having changed a unit. */
const NOT_TOUCHING = [...NO_WORK_EVENTS, 'engagement-started'].map((kind) => `'${kind}'`).join(', ');

const FACTS = `
  SELECT s.id, s.agency_id AS "agencyId", s.kind, s.name, s.unit_name AS "unitName", s.client_id AS "clientId", s.contact_id AS "contactId", s.lead_id AS "leadId",
    s.template_id AS "templateId", ${ROLES} AS roles, s.places, s.on_closed AS "onClosed", s.skipped, s.extra, s.retainer_minutes AS "retainerMinutes", s.carry,
    s.ahead_days AS "aheadDays", s.made_until AS "madeUntil", s.stopped_on AS "stoppedOn", s.version,
    ${RHYTHMIC},
    coalesce((SELECT json_agg(json_build_object('id', e.id, 'number', e.series_number, 'day', e.series_day, 'place', e.series_place, 'start', e.start_day,
      'isUntouched', e.state = 'open' AND e.version = 1
        AND NOT EXISTS (SELECT 1 FROM task t WHERE t.engagement_id = e.id AND (t.version > 1 OR t.status <> 'queued' OR t.logged_minutes > 0 OR t.steps_done > 0 OR t.planned_week IS NOT NULL))
        AND NOT EXISTS (SELECT 1 FROM desk_place d JOIN task t ON t.id = d.task_id WHERE t.engagement_id = e.id)
        AND NOT EXISTS (SELECT 1 FROM event v WHERE v.engagement_id = e.id AND v.kind NOT IN (${NOT_TOUCHING}))
        AND NOT EXISTS (SELECT 1 FROM timer m JOIN task t ON t.id = m.task_id WHERE t.engagement_id = e.id)
        AND NOT EXISTS (SELECT 1 FROM handoff h WHERE h.engagement_id = e.id AND (h.state <> 'getting-ready' OR h.version > 1)))
      ORDER BY e.series_number) FROM engagement e WHERE e.series_id = s.id), '[]') AS made
  FROM engagement_series s JOIN agency y ON y.id = s.agency_id WHERE s.id = $1 AND ($2::uuid IS NULL OR s.agency_id = $2)`;

/** A series of an agency as it stands, or null when it is gone; a job knows the id only. */
export const readEngagementSeries = (
  manager: EntityManager,
  agencyId: string | null,
  seriesId: string,
): Promise<EngagementSeriesFacts | null> => firstRow<EngagementSeriesFacts>(manager, FACTS, [seriesId, agencyId]);

/** As much of a series as its days come from. */
export type Rhythmic = Pick<EngagementSeriesFacts, 'calendar' | 'rhythms' | 'onClosed' | 'skipped' | 'extra' | 'stoppedOn'>;

/** The days of a series within a window, up to where it was stopped. */
export function daysOfSeries(series: Rhythmic, window: { readonly from: IsoDay; readonly to: IsoDay }): Occurrence[] {
  const last = series.stoppedOn === null ? window.to : dayBefore(series.stoppedOn);
  const to = last < window.to ? last : window.to;
  const { calendar, rhythms, onClosed, skipped, extra } = series;
  return to < window.from
    ? []
    : unwrap(occurrences({ calendar, rhythms, onClosed, skipped, extra, keepsDoubles: true, from: window.from, to }));
}

/** A day moved by so many calendar days. */

export const dayBefore = (day: IsoDay): IsoDay => addDays(day, -1);

const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** What a unit is called: {n}, {month} and {year} stand for its number, month and year. */
export function nameOfUnit(pattern: string, unit: { readonly number: number; readonly day: IsoDay }): string {
  return pattern
    .replaceAll('{n}', String(unit.number))
    .replaceAll('{month}', MONTHS[Number(unit.day.slice(5, 7)) - 1] as string)
    .replaceAll('{year}', unit.day.slice(0, 4));
}

/** So many engagements are made in one go; more would keep everybody else waiting. */
export const MOST_AT_ONCE = 60;

/** Refuses a rhythm that would make more engagements at once than is taken. */
export function refuseTooMany(count: number): void {
  if (count > MOST_AT_ONCE)
    throw new Refusal(
      'too-large',
      `This makes ${count} engagements at once; at most ${MOST_AT_ONCE} are made at once. Make fewer each time, less often, or fewer days ahead.`,
      { field: 'rule' },
    );
}

/** Refuses a rhythm that begins in the past, that has no days, or in a series that has ended. */
export function requireRhythm(series: Rhythmic, input: { readonly from: IsoDay; readonly rule: string }, today: IsoDay): void {
  if (input.from <= today)
    throw new Refusal('invalid-day', 'What has started cannot be changed. Choose tomorrow or a later day.', { field: 'from' });
  requireNear(input.from, today, 'from');
  if (series.stoppedOn !== null && input.from >= series.stoppedOn)
    throw new Refusal('wrong-moment', 'It is stopped by then. Resume it first.', { field: 'from' });
  requireDays({ ...series, rhythms: [{ from: input.from, rule: input.rule, each: 1 }], stoppedOn: null }, input.from);
}

/** Refuses a rule that never comes within the year. */
export function requireDays(series: Rhythmic, from: IsoDay): void {
  if (daysOfSeries(series, { from, to: addDays(from, 400) }).length === 0)
    throw new Refusal('invalid-input', 'This rule has no day within a year. Choose another one.', { field: 'rule' });
}
