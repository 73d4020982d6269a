import { Injectable } from '@nestjs/common';
import type {
  ClientHue,
  Desk,
  DeskBrief,
  DeskComing,
  DeskDay,
  DeskDayTask,
  DeskDone,
  DeskTask,
  DeskUnlogged,
  OutsideWork,
  PersonRef,
  TaskKind,
} from '@crew/contract';
import {
  addDays,
  type CalendarInput,
  capacityOn,
  compileCalendar,
  formatDay,
  isTimeForgotten,
  type LoadAssignee,
  type LoadTaskInput,
  ownDays,
  type DayPart,
  type OwnDay,
  parseDay,
  readPerson,
  weekOf,
  type IsoDay,
} from '@crew/core';
import { ThisWeek } from '../calendar/this-week.ts';
import { HandoffRepository } from '../handoff/handoff.repository.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { calendarOf, isOpen, isWork, timeOffOf } from '../platform/sql-words.ts';
import { taskList, type Columns } from '../task/query/select-tasks.ts';
import { mayBeginBy, USUAL_MINUTES } from '../task/query/task-columns.ts';
import { Values } from '../task/query/values.ts';

interface DeskRow extends DeskTask {
  readonly kind: TaskKind;
  readonly outside: OutsideWork | null;
  /** Its phase has begun or begins this week, or it may begin before it; what repeats begins in its own week. */
  readonly isBegun: boolean;
  readonly openPredecessors: number;
  readonly assignedBy: string | null;
  readonly isSeen: boolean;
  /** Whether their timer is on it. */
  readonly isTimed: boolean;
  readonly lastTouch: string | null;
  readonly likelihood: number | null;
  readonly shares: readonly LoadAssignee[];
}

/** One person's open work and what its week is computed from, read in one go. */
interface DeskFacts {
  readonly person: PersonRef;
  readonly week: readonly number[];
  readonly reserve: number;
  readonly joinedOn: IsoDay | null;
  readonly off: readonly { readonly from: IsoDay; readonly to: IsoDay; readonly minutes?: number }[];
  readonly calendar: CalendarInput;
  readonly defaultMinutes: number;
  readonly tasks: readonly DeskRow[];
  readonly places: readonly PlaceRow[];
  readonly coming: readonly ComingRow[];
  readonly unlogged: readonly DeskUnlogged[];
  readonly doneThisWeek: readonly DeskDone[];
  readonly loggedByDay: readonly { readonly day: IsoDay; readonly minutes: number }[];
}

/** Their work of a unit that a series has not created yet. */
interface ComingRow {
  readonly id: string;
  readonly seriesId: string;
  readonly title: string;
  readonly unit: string;
  readonly hue: ClientHue;
  readonly estimateMinutes: number | null;
  readonly start: IsoDay;
  readonly due: IsoDay;
}

/** Work they put on a day of this week, in the order of the day. */
interface PlaceRow {
  readonly taskId: string;
  readonly day: IsoDay;
}

/** How far back days without time, and work without time, are looked for. */
const FORGOTTEN_DAYS = 14;

/** The open work before task t that ends last, as `column` of it; assignment a says whose desk it is. */
const inFront = (column: string): string => `
  (SELECT ${column} FROM task_dependency l JOIN task o ON o.id = l.predecessor_id LEFT JOIN task_assignee oa ON oa.task_id = o.id AND oa.position = 0
   LEFT JOIN person q ON q.id = oa.person_id
   WHERE l.successor_id = t.id AND ${isOpen('o')} ORDER BY o.due_day DESC, o.id LIMIT 1)`;

/** What ends the waiting: a person who finishes their task, the client, one's own earlier task, or whoever it was said to wait on. */
const WAITS_FOR = `
  CASE WHEN t.status = 'waiting' THEN t.waiting_on WHEN t.open_predecessors = 0 THEN NULL
       ELSE ${inFront(`CASE WHEN o.kind = 'client' THEN 'until the client has done “' || o.title || '”'
         WHEN q.id = a.person_id THEN 'after “' || o.title || '” by the same person'
         WHEN q.id IS NULL THEN 'until somebody has done “' || o.title || '”'
         ELSE 'until ' || split_part(q.name, ' ', 1) || ' has done “' || o.title || '”' END`)} END`;

/** What a desk shows of every task. */
const SHOWN: Columns = {
  ...{ id: 'id', number: 'number', title: 'title', status: 'status', version: 'version', engagement: 'engagement', phase: 'phase' },
  ...{ start: 'start', due: 'due', estimateMinutes: 'estimateMinutes', loggedMinutes: 'loggedMinutes', assignees: 'assignees' },
};

/** Open work of person `person` (and, of it, assignment a), with what the week is computed from; `until` is the end of the week as SQL. */
const tasksOf = (values: Values, until: string): string =>
  taskList(
    {
      columns: {
        ...SHOWN,
        ...{ kind: 'kind', openPredecessors: 'openPredecessors', remainingMinutes: 'remainingMinutes', since: 'waitingSince' },
        ...{ likelihood: 'likelihood', outside: 'outside', shares: 'shares' },
      },
      extra: {
        isBegun: mayBeginBy(until),
        isSeen: 'a.seen_at IS NOT NULL',
        assignedBy: '(SELECT b.name FROM person b WHERE b.id = a.assigned_by_id)',
        isTimed: 'EXISTS (SELECT 1 FROM timer m WHERE m.person_id = a.person_id AND m.task_id = t.id)',
        waitingFor: WAITS_FOR,
        waitsUntil: `CASE WHEN t.status <> 'waiting' AND t.open_predecessors > 0 THEN ${inFront('o.due_day')} END`,
        holdsUp: `(SELECT count(*)::int FROM task_dependency l JOIN task o ON o.id = l.successor_id WHERE l.predecessor_id = t.id AND ${isOpen('o')})`,
        lastTouch: `CASE WHEN t.logged_minutes > 0 THEN (SELECT max(x.day) FROM time_entry x WHERE x.task_id = t.id AND x.person_id = a.person_id) END`,
      },
      from: 'task_assignee a JOIN task t ON t.id = a.task_id',
      filter: { isGroup: false, engagementStates: ['proposal', 'open'] },
      and: ['a.person_id = person.id AND a.is_open'],
      ...{ needs: ['p'], order: `t.due_day, t.priority = 'high' DESC, t.number` },
    },
    values,
  );

/** Done in the last two weeks without any time of theirs; such work usually took the middle of earlier runs of the same template task. */
const unloggedOf = (values: Values, today: IsoDay): string =>
  taskList(
    {
      columns: { ...SHOWN, doneOn: 'doneOn' },
      extra: {
        ...{ remainingMinutes: '0', since: 'NULL', waitingFor: 'NULL', waitsUntil: 'NULL', holdsUp: '0' },
        usualMinutes: USUAL_MINUTES,
      },
      from: 'task_assignee a JOIN task t ON t.id = a.task_id',
      filter: { statuses: ['done'], doneFrom: addDays(today, 1 - FORGOTTEN_DAYS) },
      and: [
        'a.person_id = person.id',
        isWork('t'),
        'NOT EXISTS (SELECT 1 FROM time_entry x WHERE x.task_id = t.id AND x.person_id = a.person_id)',
      ],
      order: 't.done_on DESC, t.number',
    },
    values,
  );

const doneOf = (values: Values, { from, to }: { readonly from: IsoDay; readonly to: IsoDay }): string =>
  taskList(
    {
      columns: { id: 'id', title: 'title', engagement: 'engagementName', hue: 'hue', doneOn: 'doneOn', loggedMinutes: 'loggedMinutes' },
      from: 'task_assignee a JOIN task t ON t.id = a.task_id',
      filter: { statuses: ['done'], isGroup: false, doneFrom: from, doneTo: to },
      and: ['a.person_id = person.id'],
      order: 't.done_on DESC, t.number',
    },
    values,
  );

/** Person $1 of agency $2 in the week from $3 to $4, as of day $5; $6 is the end of this week. */
const factsOf = (values: Values, week: { readonly from: IsoDay; readonly to: IsoDay; readonly today: IsoDay }): string => `
  SELECT json_build_object('id', person.id, 'name', person.name, 'initials', person.initials) AS person, person.week, person.reserve, person.joined_on AS "joinedOn",
    ${timeOffOf('person', 'o.to_day >= $3::date - 14')} AS off,
    ${calendarOf('agency')} AS calendar,
    agency.default_minutes AS "defaultMinutes",
    (${tasksOf(values, '$6::date')}) AS tasks,
    (${unloggedOf(values, week.today)}) AS unlogged,
    (${doneOf(values, week)}) AS "doneThisWeek",
    coalesce((SELECT json_agg(json_build_object('taskId', x.task_id, 'day', x.day) ORDER BY x.day, x.position)
      FROM desk_place x WHERE x.person_id = person.id AND x.day BETWEEN $3 AND $4), '[]') AS places,
    coalesce((SELECT json_agg(json_build_object('id', k.id, 'seriesId', k.series_id, 'title', k.title, 'unit', k.unit, 'hue', c.hue,
        'estimateMinutes', k.estimate_minutes, 'start', k.start_day, 'due', k.due_day) ORDER BY k.due_day, k.id)
      FROM series_coming k JOIN engagement_series z ON z.id = k.series_id JOIN client c ON c.id = z.client_id
      WHERE k.person_id = person.id AND k.start_day <= $4), '[]') AS coming,
    coalesce((SELECT json_agg(json_build_object('day', x.day, 'minutes', x.minutes))
      FROM (SELECT day, sum(minutes)::int AS minutes FROM time_entry WHERE person_id = person.id AND (day BETWEEN $3 AND $4 OR day BETWEEN $5::date - 14 AND $5) GROUP BY day) x), '[]') AS "loggedByDay"
  FROM person JOIN agency ON agency.id = person.agency_id WHERE person.id = $1 AND person.agency_id = $2`;

/**
 * One person's work. What they put on a day stands there; the rest of the plan is spread over its own days. Now is the task their timer is on, else the one under way that was worked on last; ready has nothing
 * open in front of it and its phase has begun; waiting says on whom; overdue was due before today.
 */
@Injectable()
export class ReadDesk {
  private readonly database: Database;
  private readonly handoffs: HandoffRepository;
  private readonly week: ThisWeek;
  private readonly clock: Clock;
  constructor(database: Database, handoffs: HandoffRepository, week: ThisWeek, clock: Clock) {
    this.database = database;
    this.handoffs = handoffs;
    this.week = week;
    this.clock = clock;
  }

  /** `shown` is a day of the week to be shown; left out, it is this week. What is to be done is that of this week in any case. */
  async run(who: Who, personId: string, shown?: IsoDay): Promise<Desk> {
    const today = this.clock.today();
    const current = await this.week.run(who.agencyId);
    const week = shown === undefined ? current : weekOf(shown);
    const values = new Values([personId, who.agencyId, week.from, week.to, today, current.to]);
    const sql = factsOf(values, { ...week, today });
    const [found, handoffs] = await Promise.all([
      this.database.row<DeskFacts>(sql, values.list),
      this.handoffs.listFor(who, personId, today),
    ]);
    const facts = requireFound(found, 'person');
    const { person, unlogged, doneThisWeek } = facts;
    const groups = groupsOf(facts.tasks, { today, to: current.to });
    return {
      person,
      ...groups,
      handoffs,
      ...deskWeek(facts, { ...week, today }),
      unlogged,
      doneThisWeek,
      forgottenDays: forgottenIn(facts, today),
      monday: week.from,
    };
  }
}

/**
 * Each task is listed once; new ones are also counted. A task planned for this week in a phase that
 * nobody has picked up yet is listed as waiting for that.
 */
function groupsOf(
  rows: readonly DeskRow[],
  { today, to }: { readonly today: IsoDay; readonly to: string },
): Pick<Desk, 'now' | 'overdue' | 'ready' | 'waiting' | 'later' | 'fresh' | 'briefs'> {
  const begun = rows.filter((row) => row.isBegun);
  const now = rows.find((row) => row.isTimed) ?? begun.filter((row) => row.status === 'active').sort(byLastTouch)[0] ?? null;
  const soon = rows.filter((row) => !row.isBegun && row.start <= to && row !== now);
  const rest = begun.filter((row) => row !== now);
  const isFree = (row: DeskRow): boolean => row.openPredecessors === 0 && row.status !== 'waiting';
  return {
    now: now === null ? null : toTask(now),
    overdue: rest.filter((row) => row.due < today && isFree(row)).map(toTask),
    ready: rest.filter((row) => row.due >= today && isFree(row)).map(toTask),
    waiting: [
      ...rest.filter((row) => !isFree(row)).map(toTask),
      ...soon.map((row) => ({ ...toTask(row), waitingFor: `until ${row.phase} is picked up`, waitsUntil: null })),
    ],
    later: rows
      .filter((row) => !row.isBegun && row.start > to && row !== now)
      .map(toTask)
      .sort((left, right) => left.start.localeCompare(right.start)),
    briefs: briefsOf(rows, today),
    fresh: begun
      .filter((row) => !row.isSeen)
      .map((row) => ({ ...toTask(row), waitingFor: row.assignedBy === null ? null : `from ${row.assignedBy.split(' ')[0]}` })),
  };
}

const BRIEF_AHEAD_DAYS = 7;

/** Briefs that go out within a week or should have gone, whether their phase has begun or not: makers do not wait for ours. */
function briefsOf(rows: readonly DeskRow[], today: IsoDay): DeskBrief[] {
  const until = addDays(today, BRIEF_AHEAD_DAYS);
  return rows
    .flatMap((row) => {
      const { outside } = row;
      return outside?.state === 'to-brief' && outside.briefBy <= until ? [{ ...toTask(row), outside }] : [];
    })
    .sort((left, right) => left.outside.briefBy.localeCompare(right.outside.briefBy) || left.number - right.number);
}

/** Working days that are over with less than half of their hours logged; what somebody keeps in reserve is worked too. */
function forgottenIn(facts: DeskFacts, today: IsoDay): IsoDay[] {
  const { person, week, joinedOn, off, calendar } = facts;
  const last = (parseDay(today) as number) - 1;
  const days = unwrap(compileCalendar(calendar));
  const worker = readPerson({ id: person.id, week, off }, person.id);
  const logged = loggedIn(facts);
  return Array.from({ length: FORGOTTEN_DAYS }, (_, back) => last - FORGOTTEN_DAYS + 1 + back)
    .filter((day) => isTimeForgotten({ logged: logged.get(formatDay(day)) ?? 0, capacity: capacityOn(days, worker, day) }))
    .map(formatDay)
    .filter((day) => joinedOn === null || day >= joinedOn);
}

interface Week {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly today: IsoDay;
}

/**
 * The week by days, as the core's load has them: what somebody put on a day counts there, the rest of
 * it and every other task are on their own days, none before today. The sums are those of today and
 * the days after it.
 */
function deskWeek(facts: DeskFacts, { from, to, today }: Week): Pick<Desk, 'days' | 'week'> {
  const { person, week, reserve, off, calendar, defaultMinutes } = facts;
  const logged = loggedIn(facts);
  const work = facts.tasks.filter((row) => row.kind !== 'client' && row.kind !== 'milestone');
  // Others take their share; their own days are not asked for.
  const others = [...new Set(work.flatMap((row) => row.shares.map((share) => share.person)))].filter((id) => id !== person.id);
  const people = [{ id: person.id, week, reserve, off }, ...others.map((id) => ({ id, week: [0, 0, 0, 0, 0, 0, 0] }))];
  const tasks = work.filter((row) => row.start <= to || row.shares.some(({ placed }) => (placed ?? []).length > 0)).map(toLoadTask);
  const coming = facts.coming.map((row) => toComing(row, person.id));
  const all = unwrap(ownDays({ calendar, people, from, to, today, defaultMinutes, tasks: [...tasks, ...coming] }, person.id));
  const comingRows = new Map(facts.coming.map((row) => [row.id, row]));
  const rows = new Map(work.map((row) => [row.id, row]));
  const days = all
    .filter((day, index) => index < 5 || day.load > 0 || day.capacity > 0 || logged.has(day.date))
    .map(({ date, capacity, load, over, parts }): DeskDay => {
      const placeOf = (task: string): number => facts.places.findIndex((place) => place.day === date && place.taskId === task);
      const placed = parts.filter((part) => part.isPlaced).sort((left, right) => placeOf(left.task) - placeOf(right.task));
      const spread = parts.filter((part) => !part.isPlaced && rows.has(part.task));
      return {
        date,
        capacity,
        load,
        over,
        loggedMinutes: logged.get(date) ?? 0,
        tasks: [...placed, ...spread].map((part) => toDayTask(rows.get(part.task) as DeskRow, { ...part, date })),
        coming: parts.flatMap(({ task, minutes }): DeskComing[] => {
          const row = comingRows.get(task);
          return row === undefined ? [] : [{ seriesId: row.seriesId, title: row.title, unit: row.unit, hue: row.hue, minutes }];
        }),
      };
    });
  const left = all.filter((day) => day.date >= today);
  const total = (pick: (day: OwnDay) => number): number => left.reduce((sum, day) => sum + pick(day), 0);
  const loggedMinutes = all.reduce((sum, { date }) => sum + (logged.get(date) ?? 0), 0);
  return { days, week: { plannedMinutes: total((day) => day.load), capacityMinutes: total((day) => day.capacity), loggedMinutes } };
}

/** Minutes logged, by day: of the week that is shown, and of the last two weeks. */
const loggedIn = ({ loggedByDay }: DeskFacts): ReadonlyMap<IsoDay, number> => new Map(loggedByDay.map((row) => [row.day, row.minutes]));

const toComing = ({ id, estimateMinutes, start, due }: ComingRow, person: string): LoadTaskInput => ({
  ...{ id, assignees: [{ person }], start, due },
  ...(estimateMinutes === null ? {} : { estimate: estimateMinutes }),
});

function toLoadTask(row: DeskRow): LoadTaskInput {
  const { id, shares, start, due } = row;
  return {
    ...{ id, assignees: shares, start, due, logged: row.loggedMinutes },
    ...(row.estimateMinutes === null ? {} : { estimate: row.estimateMinutes }),
    ...(row.likelihood === null ? {} : { likelihood: row.likelihood }),
  };
}

function toDayTask(row: DeskRow, on: Pick<DayPart, 'minutes' | 'isPlaced'> & { readonly date: IsoDay }): DeskDayTask {
  const { id, title, engagement, due, estimateMinutes } = row;
  const { minutes, date, isPlaced } = on;
  const hasEstimate = estimateMinutes !== null;
  return { id, title, engagement: engagement.name, hue: engagement.client.hue, minutes, hasEstimate, due, isDue: due === date, isPlaced };
}

function byLastTouch(left: DeskRow, right: DeskRow): number {
  return (right.lastTouch ?? '').localeCompare(left.lastTouch ?? '') || left.due.localeCompare(right.due);
}

function toTask({
  kind: _kind,
  likelihood: _likelihood,
  shares: _shares,
  isBegun: _begun,
  openPredecessors: _open,
  assignedBy: _by,
  isSeen: _seen,
  isTimed: _timed,
  lastTouch: _touch,
  outside: _outside,
  ...task
}: DeskRow): DeskTask {
  return task;
}
