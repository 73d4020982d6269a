import type { TaskFilter } from '@crew/contract';
import { JOINS, TASK_COLUMN, type Beside, type TaskColumn } from './task-columns.ts';
import { conditionsOf } from './task-filter.ts';
import type { Values } from './values.ts';

/** Columns under the names a reader gives them. */
export type Columns = Readonly<Record<string, TaskColumn>>;

/** Which tasks a reader wants, and what of them. */
export interface TaskSelection {
  /** Columns by name, or under other names. */
  readonly columns: readonly TaskColumn[] | Columns;
  /** What only this reader asks, as SQL by name. */
  readonly extra?: Readonly<Record<string, string>>;
  readonly filter?: TaskFilter;
  /** Further conditions as SQL; their values have been added. */
  readonly and?: readonly string[];
  /** Where task t is read from, when not simply from all tasks. */
  readonly from?: string;
  /** Tables that `extra`, `and` or the order read from. */
  readonly needs?: readonly Beside[];
}

/** What is read, as SQL by the name it has in the answer. */
function namedColumns({
  columns,
  extra = {},
}: Pick<TaskSelection, 'columns' | 'extra'>): readonly (readonly [name: string, sql: string])[] {
  const named = Array.isArray(columns)
    ? (columns as readonly TaskColumn[]).map((name) => [name, name] as const)
    : Object.entries(columns as Columns);
  return [...named.map(([name, column]) => [name, TASK_COLUMN[column].sql] as const), ...Object.entries(extra)];
}

/** One row as JSON. */
export const taskJson = (selection: Pick<TaskSelection, 'columns' | 'extra'>): string =>
  `json_build_object(${namedColumns(selection)
    .map(([name, sql]) => `'${name}', ${sql}`)
    .join(', ')})`;

/** FROM and WHERE of a selection. */
export function tasksFrom(selection: TaskSelection, values: Values): string {
  const conditions = conditionsOf(selection.filter ?? {}, values);
  const columns = Object.values(selection.columns as Columns).map((name) => TASK_COLUMN[name] as { readonly needs?: readonly Beside[] });
  const needs = new Set([...columns, ...conditions].flatMap((part) => part.needs ?? []).concat(selection.needs ?? []));
  if (needs.has('c')) needs.add('e');
  const joins = (Object.keys(JOINS) as Beside[]).filter((beside) => needs.has(beside)).map((beside) => JOINS[beside]);
  const where = [...conditions.map(({ sql }) => sql), ...(selection.and ?? [])];
  return `FROM ${selection.from ?? 'task t'} ${joins.join(' ')}${where.length === 0 ? '' : ` WHERE ${where.join(' AND ')}`}`;
}

/**
 * The tasks of a selection as one JSON list, for statements that answer one document. Whole rows are made
 * into JSON: on long lists that takes two thirds of the time of naming each field for each row.
 */
export function taskList(selection: TaskSelection & { readonly order: string; readonly dropsNulls?: boolean }, values: Values): string {
  const json = selection.dropsNulls === true ? 'json_strip_nulls(row_to_json(listed))' : 'listed';
  const columns = namedColumns(selection)
    .map(([name, sql]) => `${sql} AS "${name}"`)
    .join(', ');
  return `SELECT coalesce(json_agg(${json}), '[]') FROM (SELECT ${columns} ${tasksFrom(selection, values)} ORDER BY ${selection.order}) listed`;
}
