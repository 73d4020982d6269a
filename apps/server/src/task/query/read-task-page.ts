import { Injectable } from '@nestjs/common';
import type { TaskGroup, TaskGroupSums, TaskPage, TaskQuery, TaskRow, TaskSums } from '@crew/contract';
import { weekOf } from '@crew/core';
import { Clock } from '../../platform/clock.ts';
import { Database } from '../../platform/database.ts';
import type { Who } from '../../platform/rights.ts';
import { taskSeenBy } from '../../platform/visible.ts';
import { taskJson, tasksFrom, type TaskSelection } from './select-tasks.ts';
import { isReadyBy, PLAN_COLUMNS, type Beside, type TaskColumn } from './task-columns.ts';
import { orderOf, placeText } from './task-order.ts';
import { Values } from './values.ts';

const PAGE = 100;

const COLUMNS = [
  ...PLAN_COLUMNS,
  ...(['engagement', 'phase', 'remainingMinutes', 'plannedWeek', 'carried', 'doneOn'] as const),
] as const satisfies readonly TaskColumn[];

/** What tasks are counted by: key and name as SQL, and what they are read from. */
const GROUPS: Readonly<
  Record<TaskGroup, { readonly key: string; readonly name: string; readonly needs?: readonly Beside[]; readonly join?: string }>
> = {
  engagement: { key: 'e.id::text', name: 'e.name', needs: ['e'] },
  client: { key: 'c.id::text', name: 'c.name', needs: ['e', 'c'] },
  phase: { key: 'p.id::text', name: 'p.name', needs: ['p'] },
  assignee: {
    key: 'own.id::text',
    name: 'own.name',
    join: 'LEFT JOIN task_assignee given ON given.task_id = t.id LEFT JOIN person own ON own.id = given.person_id',
  },
  role: { key: 'r.id::text', name: 'r.name', needs: ['r'] },
  status: { key: 't.status', name: 't.status' },
  priority: { key: 't.priority', name: 't.priority' },
  week: { key: 't.planned_week::text', name: 't.planned_week::text' },
};

const SUMS = `count(*)::int AS count, coalesce(sum(t.estimate_minutes), 0)::int AS "estimateMinutes",
  coalesce(sum(greatest(0, coalesce(t.estimate_minutes, g.default_minutes) - t.logged_minutes)), 0)::int AS "remainingMinutes",
  coalesce(sum(t.logged_minutes), 0)::int AS "loggedMinutes"`;

/** Tasks of any engagements that somebody may see: a page of them, and sums over all. */
@Injectable()
export class ReadTaskPage {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(who: Who, query: TaskQuery): Promise<TaskPage> {
    const [rows, sums, groups] = await Promise.all([this.rows(who, query), this.sums(who, query), this.groups(who, query)]);
    const limit = query.limit ?? PAGE;
    const last = rows.length > limit ? rows[limit - 1] : undefined;
    return { rows: rows.slice(0, limit).map(({ row }) => row), next: last === undefined ? null : placeText(last.place), sums, groups };
  }

  private rows(who: Who, query: TaskQuery): Promise<{ readonly row: TaskRow; readonly place: readonly (string | number)[] }[]> {
    const values = new Values();
    const { orderBy, place, behind, needs } = orderOf(query, values);
    const isReady = isReadyBy(`${values.add(weekOf(this.clock.today()).to)}::date`);
    const selection: TaskSelection = {
      ...{ columns: COLUMNS, extra: { isReady }, filter: query.filter ?? {}, needs: [...needs, 'p'] },
      and: [values.addCondition((first) => taskSeenBy(who, first)), ...(behind === null ? [] : [behind])],
    };
    const from = tasksFrom(selection, values);
    const sql = `SELECT ${taskJson(selection)} AS row, ${place} AS place ${from} ORDER BY ${orderBy} LIMIT ${values.add((query.limit ?? PAGE) + 1)}`;
    return this.database.rows(sql, values.list);
  }

  private async sums(who: Who, { filter = {} }: TaskQuery): Promise<TaskSums> {
    const values = new Values();
    const and = [values.addCondition((first) => taskSeenBy(who, first))];
    const sql = `SELECT ${SUMS} ${tasksFrom({ columns: [], filter, and, needs: ['g'] }, values)}`;
    return (await this.database.row<TaskSums>(sql, values.list)) as TaskSums;
  }

  private async groups(who: Who, { filter = {}, groupBy }: TaskQuery): Promise<TaskGroupSums[]> {
    if (groupBy === undefined) return [];
    const { key, name, needs = [], join = '' } = GROUPS[groupBy];
    const values = new Values();
    const and = [values.addCondition((first) => taskSeenBy(who, first))];
    const from = tasksFrom({ columns: [], filter, and, from: `task t ${join}`, needs: ['g', ...needs] }, values);
    return this.database.rows<TaskGroupSums>(
      `SELECT ${key} AS key, ${name} AS name, ${SUMS} ${from} GROUP BY 1, 2 ORDER BY lower(${name}) NULLS LAST, 1`,
      values.list,
    );
  }
}
