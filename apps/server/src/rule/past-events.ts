import { addDays, addWorkingDays, formatDay, parseDay, type Calendar, type Facts, type IsoDay } from '@crew/core';
import { whenSpec, type EventKind, type EventSubject, type RuleContent } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { EVENT_FACTS, EVENT_FACTS_FROM } from '../activity/event-facts.ts';
import { rowsOf } from '../platform/database.ts';
import { factsOf, markOf, type Mark } from './reach-marks.ts';

/** An event of the past as a rule is tried on it. */
export interface PastEvent {
  readonly id: string;
  readonly kind: EventKind;
  readonly at: string;
  readonly engagementId: string | null;
  readonly subject: EventSubject;
  readonly subjectId: string;
  readonly facts: Facts;
  readonly by: string | null;
}

/** What is tried at once. More would be no help to whoever reads it. */
const MOST_EVENTS = 5000;

/** Recorded events of a kind since $3, the newest first, with their facts as they were. */
const RECORDED = `
  SELECT v.id::text AS id, v.kind, v.at, v.engagement_id AS "engagementId", v.subject, v.subject_id AS "subjectId", v.facts, coalesce(w.name, k.name) AS by
  FROM event v LEFT JOIN account a ON a.id = v.account_id LEFT JOIN person w ON w.id = a.person_id LEFT JOIN contact k ON k.id = a.contact_id
  WHERE v.agency_id = $1 AND v.kind = $2 AND v.at >= $3 AND v.undoes_id IS NULL ORDER BY v.id DESC LIMIT ${MOST_EVENTS}`;

const TASK_DATES = { start: 't.start_day', due: 't.due_day', 'brief-by': 't.brief_by' } as const;

/** Tasks, or engagements, with a date between $2 and $3, as far as they were open on it. */
const byDate = (date: Extract<Mark, { of: 'date' }>['date']): string =>
  date === 'promise'
    ? `SELECT e.id AS engagement_id, 'engagement' AS subject, e.id AS subject_id, e.promised_day AS day, e.closed_on AS over FROM engagement e
       WHERE e.agency_id = $1 AND e.promised_day BETWEEN $2::date AND $3::date`
    : `SELECT t.engagement_id, 'task' AS subject, t.id AS subject_id, ${TASK_DATES[date]} AS day, coalesce(t.done_on, e.closed_on) AS over
       FROM task t JOIN engagement e ON e.id = t.engagement_id WHERE t.agency_id = $1 AND NOT t.is_group AND ${TASK_DATES[date]} BETWEEN $2::date AND $3::date`;

const SCOPE = { task: 't.id', phase: 't.phase_id', engagement: 't.engagement_id' } as const;

/** The day on which what was logged reached $4 percent of what is planned now, between $2 and $3. */
const byHours = (of: Extract<Mark, { of: 'hours' }>['hoursOf']): string => `
  SELECT s.engagement_id, '${of}' AS subject, s.scope AS subject_id, min(s.day) AS day, NULL::date AS over FROM (
    SELECT t.engagement_id, ${SCOPE[of]} AS scope, x.day, sum(x.minutes) OVER (PARTITION BY ${SCOPE[of]} ORDER BY x.day, x.id) AS logged, p.planned
    FROM time_entry x JOIN task t ON t.id = x.task_id
    JOIN (SELECT ${SCOPE[of]} AS scope, sum(t.estimate_minutes) AS planned FROM task t WHERE t.agency_id = $1 AND NOT t.is_group AND t.status <> 'dropped' GROUP BY 1) p
      ON p.scope = ${SCOPE[of]} AND p.planned > 0
    WHERE t.agency_id = $1) s
  WHERE s.logged * 100 >= s.planned * $4::int GROUP BY s.engagement_id, s.scope HAVING min(s.day) BETWEEN $2::date AND $3::date`;

/** With the facts of each as they are now. */
const withFacts = (found: string): string => `
  SELECT v.engagement_id AS "engagementId", v.subject, v.subject_id AS "subjectId", v.day, v.over, ${EVENT_FACTS} AS facts
  FROM (${found}) v ${EVENT_FACTS_FROM} ORDER BY v.day DESC, v.subject_id LIMIT ${MOST_EVENTS}`;

interface FoundMark extends Pick<PastEvent, 'engagementId' | 'subject' | 'subjectId' | 'facts'> {
  readonly day: IsoDay;
  readonly over: IsoDay | null;
}

/** What happened in the last days that a rule may wait for, the newest first. */
export async function readPast(
  manager: EntityManager,
  content: RuleContent,
  {
    agencyId,
    since,
    today,
    calendar,
  }: { readonly agencyId: string; readonly since: Date; readonly today: IsoDay; readonly calendar: Calendar },
): Promise<PastEvent[]> {
  const mark = markOf(content);
  if (mark === null) {
    const rows = await rowsOf<Omit<PastEvent, 'at'> & { at: Date }>(manager, RECORDED, [
      agencyId,
      whenSpec(content.when.kind).event,
      since,
    ]);
    return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
  }
  const from = since.toISOString().slice(0, 10) as IsoDay;
  return mark.of === 'hours'
    ? pastHours(manager, mark, { agencyId, from, today })
    : pastDates(manager, mark, { agencyId, from, today, calendar });
}

async function pastHours(
  manager: EntityManager,
  mark: Extract<Mark, { of: 'hours' }>,
  { agencyId, from, today }: { readonly agencyId: string; readonly from: IsoDay; readonly today: IsoDay },
): Promise<PastEvent[]> {
  const rows = await rowsOf<FoundMark>(manager, withFacts(byHours(mark.hoursOf)), [agencyId, from, today, mark.percent]);
  return rows.map((row) => eventOf(mark, row, row.day));
}

async function pastDates(
  manager: EntityManager,
  mark: Extract<Mark, { of: 'date' }>,
  {
    agencyId,
    from,
    today,
    calendar,
  }: { readonly agencyId: string; readonly from: IsoDay; readonly today: IsoDay; readonly calendar: Calendar },
): Promise<PastEvent[]> {
  const shifted = (day: IsoDay, days: number): IsoDay => formatDay(addWorkingDays(calendar, parseDay(day) as number, days));
  // A date may fall on a day that is not worked: a week more at either side is read, and then looked at one by one.
  const [first, last] = [addDays(shifted(from, -mark.days), -7), addDays(shifted(today, -mark.days), 7)];
  const rows = await rowsOf<FoundMark>(manager, withFacts(byDate(mark.date)), [agencyId, first, last]);
  return rows.flatMap((row) => {
    const day = shifted(row.day, mark.days);
    const isIn = day >= from && day <= today && (row.over === null || row.over >= day);
    return isIn ? [eventOf(mark, row, day)] : [];
  });
}

const eventOf = (mark: Mark, { engagementId, subject, subjectId, facts }: FoundMark, day: IsoDay): PastEvent => ({
  ...{ id: `${subjectId} ${day}`, kind: mark.of === 'date' ? 'day-reached' : 'hours-reached', at: `${day}T07:00:00.000Z` },
  ...{ engagementId, subject, subjectId, by: null, facts: { ...facts, ...(factsOf(mark) as Facts) } },
});
