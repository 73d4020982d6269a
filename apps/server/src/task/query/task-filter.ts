import { ENGAGEMENT_STATE, type EngagementState, type TaskFilter } from '@crew/contract';
import { isOpen } from '../../platform/sql-words.ts';
import type { Beside } from './task-columns.ts';
import type { Values } from './values.ts';

interface Condition {
  readonly sql: string;
  readonly needs?: readonly Beside[];
}

type Given<Key extends keyof TaskFilter> = NonNullable<TaskFilter[Key]>;

const anyOf =
  (column: string, type: string) =>
  (list: readonly string[], values: Values): Condition => ({
    sql: `${column} = ANY(${values.add(list)}::${type}[])`,
  });
const day =
  (comparison: string) =>
  (value: string, values: Values): Condition => ({ sql: `${comparison} ${values.add(value)}::date` });
const yesOrNo =
  (sql: string) =>
  (value: boolean): Condition => ({ sql: value ? sql : `NOT (${sql})` });
const of =
  (needs: readonly Beside[], make: (list: readonly string[], values: Values) => Condition) =>
  (list: readonly string[], values: Values) => ({
    ...make(list, values),
    needs,
  });

/**
 * States as words of the statement: with a value in their place the planner, which keeps its plan for any
 * value, no longer reads what is open by the index of what is open. Only words there are come in.
 */
function stateIn(states: readonly EngagementState[]): string {
  const known = ENGAGEMENT_STATE.filter((state) => states.includes(state));
  return known.length === 0 ? 'false' : `e.state IN (${known.map((state) => `'${state}'`).join(', ')})`;
}

/** What each field of a filter says of task t and the tables beside it. */
const CONDITION: { readonly [Key in keyof TaskFilter]-?: (value: Given<Key>, values: Values) => Condition } = {
  ids: anyOf('t.id', 'uuid'),
  engagementIds: anyOf('t.engagement_id', 'uuid'),
  engagementStates: (states) => ({ sql: stateIn(states), needs: ['e'] }),
  clientIds: of(['e'], anyOf('e.client_id', 'uuid')),
  phaseIds: anyOf('t.phase_id', 'uuid'),
  assigneeIds: (list, values) => ({
    sql: `EXISTS (SELECT 1 FROM task_assignee own WHERE own.task_id = t.id AND own.person_id = ANY(${values.add(list)}::uuid[]))`,
  }),
  isUnassigned: yesOrNo('NOT EXISTS (SELECT 1 FROM task_assignee own WHERE own.task_id = t.id)'),
  roleIds: anyOf('t.role_id', 'uuid'),
  deliverableIds: anyOf('t.deliverable_id', 'uuid'),
  statuses: anyOf('t.status', 'text'),
  isOpen: yesOrNo(isOpen('t')),
  waitingOn: anyOf('t.waiting_on', 'text'),
  kinds: anyOf('t.kind', 'text'),
  priorities: anyOf('t.priority', 'text'),
  labels: (list, values) => ({ sql: `t.labels && ${values.add(list)}::text[]` }),
  isGroup: yesOrNo('t.is_group'),
  isShownToClient: yesOrNo('t.is_shown_to_client'),
  dueFrom: day('t.due_day >='),
  dueTo: day('t.due_day <='),
  startTo: day('t.start_day <='),
  doneFrom: day('t.done_on >='),
  doneTo: day('t.done_on <='),
  placedOrStartTo: (value, values) => ({ sql: `(t.planned_week IS NOT NULL OR t.start_day <= ${values.add(value)}::date)` }),
  text: (value, values) => ({
    sql: `t.title ILIKE ALL(${values.add(wordsOf(value))}::text[])`,
  }),
};

/** Patterns of which each word must be found somewhere. */
const wordsOf = (text: string): string[] =>
  text
    .split(/\s+/)
    .filter((word) => word !== '')
    .map((word) => `%${word.replace(/[\\%_]/g, (letter) => `\\${letter}`)}%`);

/** A filter as conditions. */
export const conditionsOf = (filter: TaskFilter, values: Values): Condition[] =>
  (Object.keys(CONDITION) as (keyof TaskFilter)[]).flatMap((key) => {
    const value = filter[key];
    return value === undefined ? [] : [(CONDITION[key] as (value: unknown, values: Values) => Condition)(value, values)];
  });
