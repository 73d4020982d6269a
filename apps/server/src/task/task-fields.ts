import { isDeepStrictEqual } from 'node:util';
import type { FieldChange } from '@crew/contract';

/** A row of the task table as JSON, by column. */
export type TaskRow = Readonly<Record<string, unknown>>;

/** A field of a task that somebody decides, and the columns it stands in. */
interface TaskField {
  readonly field: string;
  readonly columns: readonly string[];
  /** Fields of one group change together and are undone together. Left out: the field alone. */
  readonly group?: string;
}

const field = (name: string, column: string, group?: string): TaskField => ({
  ...{ field: name, columns: [column] },
  ...(group === undefined ? {} : { group }),
});

/** Every field of a task that somebody decides. What hangs on a task in tables of its own is in `TASK_PARTS`. */
export const TASK_FIELDS: readonly TaskField[] = [
  field('title', 'title'),
  field('description', 'description'),
  field('kind', 'kind'),
  field('roleId', 'role_id'),
  field('priority', 'priority'),
  field('status', 'status', 'status'),
  field('waitingOn', 'waiting_on', 'status'),
  field('waitingSince', 'waiting_since', 'status'),
  field('realStart', 'real_start', 'status'),
  field('doneOn', 'done_on', 'status'),
  field('estimateMinutes', 'estimate_minutes'),
  field('days', 'days'),
  field('fixedDay', 'fixed_day'),
  field('notBefore', 'not_before'),
  { field: 'anchor', columns: ['anchor_at', 'anchor_offset'] },
  field('phaseId', 'phase_id', 'place'),
  field('parentId', 'parent_id', 'place'),
  field('deliverableId', 'deliverable_id'),
  field('labels', 'labels'),
  field('links', 'links'),
  field('ownFields', 'own_fields'),
  { field: 'outside', columns: ['outside_maker', 'outside_turnaround', 'outside_buffer', 'outside_needed_on', 'outside_state'] },
  field('isShownToClient', 'is_shown_to_client'),
  field('isChargeable', 'is_chargeable'),
  field('mayStartEarly', 'may_start_early'),
  field('plannedWeek', 'planned_week', 'week'),
  field('carried', 'carried', 'week'),
  { field: 'series', columns: ['series_id', 'series_day'] },
  field('templateTaskId', 'template_task_id'),
  field('position', 'position'),
  field('startDay', 'start_day', 'dates'),
  field('dueDay', 'due_day', 'dates'),
];

/** Columns that nobody decides: identity, what is counted, and what the planner computes anew. */
export const COMPUTED_COLUMNS: readonly string[] = [
  ...['id', 'agency_id', 'engagement_id', 'number', 'version', 'logged_minutes', 'steps_done', 'steps_all', 'reopened', 'brief_by'],
  ...['is_group', 'expected_day', 'slack', 'is_critical', 'missed_days', 'open_predecessors', 'baseline_start', 'baseline_due'],
];

/** What hangs on a task and is changed as a whole. */
export const TASK_PARTS = ['assignees', 'after', 'files'] as const;
export type TaskPart = (typeof TASK_PARTS)[number];

const BY_NAME = new Map(TASK_FIELDS.map((known) => [known.field, known]));

/** What a field holds in a row: the value of its column, or its columns by name; null when all of those are empty. */
export function valueIn(row: TaskRow, { columns }: TaskField): unknown {
  const [first] = columns as [string, ...string[]];
  if (columns.length === 1) return row[first] ?? null;
  if (columns.every((column) => (row[column] ?? null) === null)) return null;
  return Object.fromEntries(columns.map((column) => [column, row[column] ?? null]));
}

/** The columns of a field with the values they get when it is set to what `valueIn` answered. */
export function columnsFor(name: string, value: unknown): Record<string, unknown> {
  const known = BY_NAME.get(name);
  if (known === undefined) return {};
  const [first] = known.columns as [string, ...string[]];
  if (known.columns.length === 1) return { [first]: value };
  const values = (value ?? {}) as Record<string, unknown>;
  return Object.fromEntries(known.columns.map((column) => [column, values[column] ?? null]));
}

/** The group a field is undone with. */
export const groupOf = (name: string): string => BY_NAME.get(name)?.group ?? name;

/** The fields that differ between two rows of one task. */
export function rowChanges(before: TaskRow, after: TaskRow): FieldChange[] {
  return TASK_FIELDS.flatMap((known): FieldChange[] => {
    const [from, to] = [valueIn(before, known), valueIn(after, known)];
    return isDeepStrictEqual(from, to) ? [] : [{ field: known.field, from, to }];
  });
}

/** What a field of a task holds now. */
export const presentValue = (row: TaskRow, name: string): unknown => {
  const known = BY_NAME.get(name);
  return known === undefined ? null : valueIn(row, known);
};
