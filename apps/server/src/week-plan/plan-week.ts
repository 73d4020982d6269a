import { Injectable } from '@nestjs/common';
import type { PlacedInWeek, PlaceInWeek, WeekPlan, WeekPlanPerson } from '@crew/contract';
import { addDays, mondayOf, type IsoDay, type LoadDay } from '@crew/core';
import { ThisWeek } from '../calendar/this-week.ts';
import { KeepLoad } from '../load/keep-load.ts';
import type { PersonFacts } from '../load/load-facts.ts';
import { ENGAGEMENT_IN_COLOUR, isOpen, isWork, PERSON } from '../platform/sql-words.ts';
import { taskList } from '../task/query/select-tasks.ts';
import { isReadyBy } from '../task/query/task-columns.ts';
import { Values } from '../task/query/values.ts';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { jsonOf, type Json } from '../platform/json.ts';
import { lockEngagements, lockTasks } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** Of the week after the two that are planned comes what could be pulled forward. */
const PULLED_DAYS = 7;

interface Week {
  readonly today: IsoDay;
  /** The last day of the two weeks. */
  readonly until: IsoDay;
}

/** Open work of agreed engagements that stands in a week, begins in these two, or begins in the next with nothing open in front of it. */
const tasksOf = (values: Values, { today, until }: Week): string =>
  taskList(
    {
      columns: {
        ...{ id: 'id', title: 'title', engagementId: 'engagementId', due: 'due', minutes: 'remainingMinutes', assigneeIds: 'assigneeIds' },
        ...{ plannedWeek: 'plannedWeek', carried: 'carried', version: 'version' },
      },
      extra: { isReady: isReadyBy(`${values.add(addDays(today, 7))}::date`), hasEstimate: 't.estimate_minutes IS NOT NULL' },
      filter: { engagementStates: ['open'], isOpen: true, placedOrStartTo: addDays(until, PULLED_DAYS) },
      and: [
        't.agency_id = agency.id',
        isWork('t'),
        `(t.planned_week IS NOT NULL OR t.open_predecessors = 0 OR t.start_day <= ${values.add(until)}::date)`,
      ],
      ...{ needs: ['p'], order: `t.due_day, t.priority = 'high' DESC, t.number` },
    },
    values,
  );

/** As text, because nobody on the server looks into them; what many tasks name is said once beside them. */
const factsOf = (values: Values, week: Week): string => `
  SELECT (${tasksOf(values, week)})::text AS tasks,
    (SELECT coalesce(json_agg(${ENGAGEMENT_IN_COLOUR}), '[]') FROM engagement e JOIN client c ON c.id = e.client_id
      WHERE e.agency_id = agency.id AND e.state = 'open')::text AS engagements,
    (SELECT coalesce(json_agg(${PERSON('q')}), '[]') FROM person q WHERE q.agency_id = agency.id)::text AS everybody
  FROM agency WHERE agency.id = $1`;

type WeekPlanFacts = Readonly<Record<'tasks' | 'engagements' | 'everybody', string>>;

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

/** The week's planning: what is to be given and placed, and which week it is placed in. */
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

  async read(who: Who): Promise<Json<WeekPlan>> {
    const today = this.clock.today();
    const { from: monday } = await this.week.run(who.agencyId);
    const values = new Values([who.agencyId]);
    const [nextWeek, until] = [addDays(monday, 7), addDays(monday, 13)];
    const [found, { facts, days }] = await Promise.all([
      this.database.row<WeekPlanFacts>(factsOf(values, { today, until }), values.list),
      this.keeping.read(who.agencyId),
    ]);
    const ahead = days({ from: today, to: addDays(nextWeek, 6) }) ?? [];
    const people = facts.people.map((person, index) => toPerson(person, { days: ahead[index] ?? [], nextWeek }));
    const { tasks, engagements, everybody } = requireFound(found, 'agency');
    const rest: Omit<WeekPlan, keyof WeekPlanFacts> = { thisWeek: monday, nextWeek, until, people };
    return jsonOf(`${JSON.stringify(rest).slice(0, -1)},"engagements":${engagements},"everybody":${everybody},"tasks":${tasks}}`);
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
