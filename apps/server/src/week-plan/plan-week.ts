import { Injectable } from '@nestjs/common';
import type { PersonRef, PlacedInWeek, PlaceInWeek, WeekPlan, WeekPlanPerson, WeekPlanTask } from '@crew/contract';
import { addDays, mondayOf, remainingMinutes, type IsoDay, type LoadDay } from '@crew/core';
import { ThisWeek } from '../calendar/this-week.ts';
import { KeepLoad } from '../load/keep-load.ts';
import type { LoadTaskFacts, PersonFacts } from '../load/load-facts.ts';
import { isOpen, PERSON } from '../platform/sql-words.ts';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockEngagements, lockTasks } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** Of the week after the two that are planned comes what could be pulled forward. */
const PULLED_DAYS = 7;

interface Weeks {
  /** Work that starts by this day is listed. */
  readonly until: IsoDay;
  /** Work that starts by this day is listed when nothing open stands in front of it. */
  readonly pulledUntil: IsoDay;
}

/** Open work of agreed engagements that stands in a week, begins in these two, or begins in the next with nothing open in front of it. */
function isListed({ isComing, likelihood, start, week }: LoadTaskFacts, { until, pulledUntil }: Weeks): boolean {
  if (isComing === true || likelihood !== undefined) return false;
  return week.plannedWeek !== undefined || start <= until || (start <= pulledUntil && week.openPredecessors === 0);
}

/** By the day they are due, pressing ones first, then by their number. */
const inOrder = (left: LoadTaskFacts, right: LoadTaskFacts): number =>
  left.due === right.due
    ? Number(right.week.isHigh) - Number(left.week.isHigh) || left.week.number - right.week.number
    : left.due < right.due
      ? -1
      : 1;

interface AsOf {
  readonly defaultMinutes: number;
  readonly readyBy: IsoDay;
}

const toTask = (task: LoadTaskFacts, { defaultMinutes, readyBy }: AsOf): WeekPlanTask => ({
  id: task.id,
  title: task.title,
  engagementId: task.engagementId,
  due: task.due,
  minutes: remainingMinutes(task, defaultMinutes),
  hasEstimate: task.estimate !== undefined,
  assigneeIds: task.week.assigneeIds,
  isReady: task.week.readyFrom !== undefined && task.week.readyFrom <= readyBy,
  plannedWeek: task.week.plannedWeek ?? null,
  carried: task.week.carried,
  version: task.version,
});

/** What the tasks belong to, once each. */
function engagementsOf(tasks: readonly LoadTaskFacts[]): WeekPlan['engagements'] {
  const found = new Map(tasks.map(({ engagementId: id, engagement: name, hue }) => [id, { id, name, hue }]));
  return [...found.values()];
}

const EVERYBODY = `SELECT ${PERSON('q')} AS person FROM person q WHERE q.agency_id = $1`;

/** Somebody with what the kept load says of the two weeks. */
function toPerson(
  { id, name, initials, roles }: PersonFacts,
  { days, nextWeek }: { readonly days: readonly LoadDay[]; readonly nextWeek: IsoDay },
): WeekPlanPerson {
  const weeks = [days.filter((day) => day.date < nextWeek), days.filter((day) => day.date >= nextWeek)] as const;
  const sums = (field: 'capacity' | 'load'): [number, number] => {
    const [thisWeek, next] = weeks.map((week) => week.reduce((sum, day) => sum + day[field], 0));
    return [thisWeek as number, next as number];
  };
  return { person: { id, name, initials }, roles, capacity: sums('capacity'), load: sums('load') };
}

/** The week's planning: what is to be assigned and planned, and into which week it is put. */
@Injectable()
export class PlanWeek {
  private readonly database: Database;
  private readonly keeping: KeepLoad;
  private readonly week: ThisWeek;
  private readonly clock: Clock;
  constructor(database: Database, keeping: KeepLoad, week: ThisWeek, clock: Clock) {
    this.database = database;
    this.keeping = keeping;
    this.week = week;
    this.clock = clock;
  }

  async read(who: Who): Promise<WeekPlan> {
    const today = this.clock.today();
    const { from: monday } = await this.week.run(who.agencyId);
    const [nextWeek, until] = [addDays(monday, 7), addDays(monday, 13)];
    const [everybody, now] = await Promise.all([
      this.database.rows<{ person: PersonRef }>(EVERYBODY, [who.agencyId]),
      this.keeping.read(who.agencyId),
    ]);
    const weeks = { until, pulledUntil: addDays(until, PULLED_DAYS) };
    const asOf = { defaultMinutes: now.defaultMinutes, readyBy: addDays(today, 7) };
    const ahead = now.days({ from: today, to: until }) ?? [];
    const tasks = now
      .tasks()
      .filter((task) => isListed(task, weeks))
      .sort(inOrder);
    return {
      ...{ thisWeek: monday, nextWeek, until },
      people: now.people.map((person, index) => toPerson(person, { days: ahead[index] ?? [], nextWeek })),
      engagements: engagementsOf(tasks),
      everybody: everybody.map(({ person }) => person),
      tasks: tasks.map((task) => toTask(task, asOf)),
    };
  }

  /** Puts tasks into weeks, all or none; what was left over from an earlier week is counted as carried. */
  async place(who: Who, input: PlaceInWeek): Promise<PlacedInWeek> {
    const ids = input.tasks.map((task) => task.taskId);
    if (new Set(ids).size < ids.length)
      throw new Refusal('invalid-input', 'A task is named twice. Name the week of each once.', { field: 'tasks' });
    const { from: thisWeek } = await this.week.run(who.agencyId);
    return this.database.transaction(async (manager) => {
      const places = await rowsOf<{ id: string }>(
        manager,
        'SELECT DISTINCT engagement_id AS id FROM task WHERE id = ANY($1) AND agency_id = $2',
        [ids, who.agencyId],
      );
      await lockEngagements(
        manager,
        places.map(({ id }) => id),
      );
      await lockTasks(manager, ids);
      const rows = await rowsOf<{ id: string; engagementId: string; week: IsoDay | null; carried: number; isOpen: boolean; title: string }>(
        manager,
        `SELECT id, engagement_id AS "engagementId", planned_week AS week, carried, ${isOpen('task')} AND NOT is_group AS "isOpen", title
         FROM task WHERE id = ANY($1) AND agency_id = $2 ORDER BY id`,
        [ids, who.agencyId],
      );
      if (rows.length < ids.length) throw new Refusal('unknown-id', 'A task is gone. Reload the week plan.', { field: 'tasks' });
      const over = rows.find((row) => !row.isOpen);
      if (over !== undefined)
        throw new Refusal('wrong-moment', `“${over.title}” is over, or done by its parts. It needs no week.`, { field: 'tasks' });
      const asked = new Map(input.tasks.map((task) => [task.taskId, task]));
      const next = rows.map((row) => {
        const wanted = asked.get(row.id) as PlaceInWeek['tasks'][number];
        const week = wanted.week === null ? null : mondayOf(wanted.week);
        const isLeftOver = row.week !== null && row.week < thisWeek && week !== null && week > row.week;
        return { ...row, to: week, carriedTo: row.carried + (isLeftOver ? 1 : 0) };
      });
      await rowsOf(
        manager,
        `UPDATE task SET planned_week = v.week, carried = v.carried FROM jsonb_to_recordset($1) AS v(id uuid, week date, carried int) WHERE task.id = v.id`,
        [JSON.stringify(next.map(({ id, to, carriedTo }) => ({ id, week: to, carried: carriedTo })))],
      );
      await record(
        manager,
        { actor: who, at: this.clock.now() },
        next
          .filter(({ week, to }) => week !== to)
          .map(({ id, engagementId, week, to, carried, carriedTo }) => ({
            ...{ kind: 'task-changed', engagementId, subject: 'task', subjectId: id },
            changes: [
              { field: 'plannedWeek', from: week, to },
              ...(carried === carriedTo ? [] : [{ field: 'carried', from: carried, to: carriedTo }]),
            ],
          })),
      );
      return { changeId: changeIdOf(manager) };
    });
  }
}
