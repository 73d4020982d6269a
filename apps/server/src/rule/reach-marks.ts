import { Injectable } from '@nestjs/common';
import { addWorkingDays, compileCalendar, formatDay, parseDay, type Calendar, type CalendarInput, type IsoDay } from '@crew/core';
import type { EventFacts, HoursOf, RuleContent, TaskDate } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import type { Follower, PendingEvent } from '../platform/area.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { holdEngagements } from '../platform/locks.ts';
import { unwrap } from '../platform/refusal.ts';
import { calendarOf } from '../platform/sql-words.ts';
import { readRuleRows } from './core-rules.ts';

/** Something a rule waits for that no change brings about: a date so many working days away, or a share of hours. */
export type Mark =
  | { readonly of: 'date'; readonly date: TaskDate | 'promise'; readonly days: number }
  | { readonly of: 'hours'; readonly hoursOf: HoursOf; readonly percent: number };

/** What has reached a mark: what it is, and for which date. */
export interface Reached {
  readonly subject: 'task' | 'phase' | 'engagement';
  readonly subjectId: string;
  readonly engagementId: string;
  readonly reached: string;
}

/** The mark a rule waits for, or null when it waits for changes. */
export function markOf({ when: { kind, slots } }: Pick<RuleContent, 'when'>): Mark | null {
  if (kind === 'task-day') return { of: 'date', date: slots['date'] as TaskDate, days: slots['days'] as number };
  if (kind === 'promise-day') return { of: 'date', date: 'promise', days: slots['days'] as number };
  if (kind === 'hours-reached') return { of: 'hours', hoursOf: slots['of'] as HoursOf, percent: slots['percent'] as number };
  return null;
}

const OPEN = `e.agency_id = $1 AND e.state IN ('open', 'proposal')`;
const TASKS = (column: string, and: string): string =>
  `SELECT 'task' AS subject, t.id AS "subjectId", t.engagement_id AS "engagementId", ${column}::text AS reached
   FROM task t JOIN engagement e ON e.id = t.engagement_id WHERE ${OPEN} AND NOT t.is_group AND ${and} AND ${column} BETWEEN $2::date AND $3::date`;

/** By date: what is still ahead of somebody. A start is of tasks not begun, a day to brief by of briefs not sent. */
const BY_DATE: Readonly<Record<TaskDate | 'promise', string>> = {
  start: TASKS('t.start_day', `t.status = 'queued'`),
  due: TASKS('t.due_day', `t.status NOT IN ('done', 'dropped')`),
  'brief-by': TASKS('t.brief_by', `t.outside_state = 'to-brief' AND t.status NOT IN ('done', 'dropped')`),
  promise: `SELECT 'engagement' AS subject, e.id AS "subjectId", e.id AS "engagementId", e.promised_day::text AS reached
    FROM engagement e WHERE ${OPEN} AND e.promised_day BETWEEN $2::date AND $3::date`,
};

const HOURS = (subject: string, sums: string): string =>
  `SELECT '${subject}' AS subject, s.id AS "subjectId", s.engagement_id AS "engagementId", '' AS reached FROM (${sums}) s
   WHERE s.planned > 0 AND s.logged * 100 >= s.planned * $2::int`;

const BY_HOURS: Readonly<Record<HoursOf, string>> = {
  task: HOURS(
    'task',
    `SELECT t.id, t.engagement_id, t.logged_minutes AS logged, t.estimate_minutes AS planned FROM task t JOIN engagement e ON e.id = t.engagement_id WHERE ${OPEN} AND NOT t.is_group`,
  ),
  phase: HOURS(
    'phase',
    `SELECT p.id, p.engagement_id, sum(t.logged_minutes) AS logged, sum(t.estimate_minutes) AS planned FROM phase p JOIN engagement e ON e.id = p.engagement_id
     JOIN task t ON t.phase_id = p.id AND NOT t.is_group AND t.status <> 'dropped' WHERE ${OPEN} GROUP BY p.id`,
  ),
  engagement: HOURS(
    'engagement',
    `SELECT e.id, e.id AS engagement_id, s.logged_minutes AS logged, s.effort_minutes AS planned FROM engagement e JOIN engagement_summary s ON s.engagement_id = e.id WHERE ${OPEN}`,
  ),
};

/** A date that is past is looked for this far back; what is older is known. */
const FAR_PAST = '1990-01-01';

/** What has reached a mark by a day. Before a date counts until the date; after it from then on. */
export function reachedBy(
  manager: EntityManager,
  agencyId: string,
  { mark, today, calendar }: { readonly mark: Mark; readonly today: IsoDay; readonly calendar: Calendar },
): Promise<Reached[]> {
  if (mark.of === 'hours') return rowsOf<Reached>(manager, BY_HOURS[mark.hoursOf], [agencyId, mark.percent]);
  const edge = formatDay(addWorkingDays(calendar, parseDay(today) as number, -mark.days));
  const [from, to] = mark.days > 0 ? [FAR_PAST, edge] : [today, mark.days === 0 ? today : edge];
  return rowsOf<Reached>(manager, BY_DATE[mark.date], [agencyId, from, to]);
}

const nameOf = (mark: Mark): { readonly what: string; readonly amount: number } =>
  mark.of === 'date' ? { what: mark.date, amount: mark.days } : { what: `hours of ${mark.hoursOf}`, amount: mark.percent };

/** Marks each once, whoever comes first; answers those that are new. */
const WRITE_MARKS = `
  INSERT INTO rule_mark (subject_id, what, amount, reached, engagement_id)
  SELECT "subjectId", $2, $3, reached, "engagementId" FROM jsonb_to_recordset($1) AS r("subjectId" uuid, reached text, "engagementId" uuid)
  ON CONFLICT DO NOTHING RETURNING subject_id AS "subjectId", reached`;

/**
 * Watches dates and hours for rules. What they wait for is recorded once as an event of the stream, when it is
 * reached; rules then follow it like any other. What had been reached before a rule was there is only marked.
 */
@Injectable()
export class ReachMarks implements Follower {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Looks at the dates and hours of every agency. */
  async run(): Promise<void> {
    for (const { id } of await this.database.rows<{ id: string }>('SELECT id FROM agency ORDER BY id'))
      await this.database.transaction((manager) => this.reach(manager, id, { isSeeding: false, kinds: ['date', 'hours'] }));
  }

  /** Time was logged: hours may have been reached. */
  async follow(manager: EntityManager, events: readonly PendingEvent[]): Promise<void> {
    for (const agencyId of [...new Set(events.map((event) => event.agencyId))].sort())
      await this.reach(manager, agencyId, { isSeeding: false, kinds: ['hours'] });
  }

  /** Marks what a new rule would otherwise find reached at once. */
  seed(manager: EntityManager, agencyId: string): Promise<void> {
    return this.reach(manager, agencyId, { isSeeding: true, kinds: ['date', 'hours'] });
  }

  private async reach(
    manager: EntityManager,
    agencyId: string,
    { isSeeding, kinds }: { readonly isSeeding: boolean; readonly kinds: readonly Mark['of'][] },
  ): Promise<void> {
    const marks = distinctMarks((await readRuleRows(manager, [agencyId])).map(({ content }) => markOf(content))).filter(({ of }) =>
      kinds.includes(of),
    );
    if (marks.length === 0) return;
    const today = this.clock.today();
    const calendar = await readCalendar(manager, agencyId);
    for (const mark of marks) {
      const found = await reachedBy(manager, agencyId, { mark, today, calendar });
      const held = await holdEngagements(
        manager,
        found.map(({ engagementId }) => engagementId),
      );
      const reached = found.filter(({ engagementId }) => held.has(engagementId));
      const { what, amount } = nameOf(mark);
      const isNew = new Set(
        (await rowsOf<Reached>(manager, WRITE_MARKS, [JSON.stringify(reached), what, amount])).map(
          (one) => `${one.subjectId} ${one.reached}`,
        ),
      );
      if (isSeeding) continue;
      const news = reached.filter((one) => isNew.has(`${one.subjectId} ${one.reached}`));
      await record(
        manager,
        { actor: { job: 'dates' }, at: this.clock.now() },
        news.map(({ subject, subjectId, engagementId }) => ({
          ...{ kind: mark.of === 'date' ? 'day-reached' : 'hours-reached', engagementId, subject, subjectId, facts: factsOf(mark) },
        })),
      );
    }
  }
}

/** What rules can ask of a mark that was reached. */
export const factsOf = (mark: Mark): EventFacts =>
  mark.of === 'date' ? { date: mark.date, days: mark.days } : { hoursOf: mark.hoursOf, hoursPercent: mark.percent };

export async function readCalendar(manager: EntityManager, agencyId: string): Promise<Calendar> {
  const row = await firstRow<{ calendar: CalendarInput }>(manager, `SELECT ${calendarOf('g')} AS calendar FROM agency g WHERE g.id = $1`, [
    agencyId,
  ]);
  return unwrap(compileCalendar(row?.calendar as CalendarInput));
}

function distinctMarks(marks: readonly (Mark | null)[]): Mark[] {
  const byName = new Map(marks.flatMap((mark) => (mark === null ? [] : [[JSON.stringify(mark), mark] as const])));
  return [...byName.values()];
}
