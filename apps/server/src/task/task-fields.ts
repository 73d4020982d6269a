import { isDeepStrictEqual } from 'node:util';
import type { AnchorAt, FieldChange, OutsideState, Priority, TaskField, TaskKind, TaskStatus } from '@crew/contract';
import type { CustomFieldEntry, IsoDay } from '@crew/core';

/** A row of the task table as JSON, by column. */
export type TaskRow = Readonly<Record<string, unknown>>;

/** What each field of a task holds; those of several columns by column. */
export interface TaskValues {
  readonly title: string;
  readonly description: string;
  readonly kind: TaskKind;
  readonly roleId: string | null;
  readonly priority: Priority;
  readonly status: TaskStatus;
  readonly waitingOn: string | null;
  readonly waitingSince: IsoDay | null;
  readonly realStart: IsoDay | null;
  readonly doneOn: IsoDay | null;
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly fixedDay: IsoDay | null;
  readonly notBefore: IsoDay | null;
  readonly anchor: { readonly anchor_at: AnchorAt; readonly anchor_offset: number };
  readonly phaseId: string;
  readonly parentId: string | null;
  readonly deliverableId: string | null;
  readonly labels: readonly string[];
  readonly pageLinks: readonly { readonly title: string; readonly url: string }[];
  readonly customFields: readonly CustomFieldEntry[];
  readonly outside: OutsideColumns | null;
  readonly isShownToClient: boolean;
  readonly isChargeable: boolean;
  readonly mayStartEarly: boolean;
  readonly plannedWeek: IsoDay | null;
  readonly carried: number;
  readonly series: { readonly series_id: string; readonly series_day: string } | null;
  readonly ways: readonly TaskWay[];
  readonly templateTaskId: string | null;
  readonly position: number;
  readonly startDay: IsoDay;
  readonly dueDay: IsoDay;
}

/** Where a task leads beside the ordinary next ones: back to an earlier task, or to an ending of the engagement. */
export interface TaskWay {
  readonly id: string;
  readonly toId: string | null;
  readonly ending: string | null;
  readonly reason: string;
}

/** The part of a task an outside maker does, by column. */
export interface OutsideColumns {
  readonly outside_maker: string;
  readonly outside_turnaround: number;
  readonly outside_buffer: number;
  readonly outside_needed_on: string | null;
  readonly outside_state: OutsideState;
}

/** A field of a task, and the columns it stands in. */
interface Definition<Name extends TaskField> {
  readonly columns: readonly string[];
  /** Fields of one group change together and are undone together. Left out: the field alone. */
  readonly group?: string;
  /** What a new task begins with; fields without it are always given. */
  readonly first?: TaskValues[Name];
  /** Whether a copy of the task has the same: what it is, not where it stands or how far it is. */
  readonly isCopied?: true;
}

const COPIED = { isCopied: true } as const;

/**
 * The one list of fields: it drives insert, copy, images, difference and undo. What hangs on a
 * task in tables of its own is in `TASK_PARTS`.
 */
const DEFINITIONS: { readonly [Name in TaskField]: Definition<Name> } = {
  title: { columns: ['title'], ...COPIED },
  description: { columns: ['description'], first: '', ...COPIED },
  kind: { columns: ['kind'], first: 'work', ...COPIED },
  roleId: { columns: ['role_id'], first: null, ...COPIED },
  priority: { columns: ['priority'], first: 'normal', ...COPIED },
  status: { columns: ['status'], group: 'status', first: 'queued' },
  waitingOn: { columns: ['waiting_on'], group: 'status', first: null },
  waitingSince: { columns: ['waiting_since'], group: 'status', first: null },
  realStart: { columns: ['real_start'], group: 'status', first: null },
  doneOn: { columns: ['done_on'], group: 'status', first: null },
  estimateMinutes: { columns: ['estimate_minutes'], first: null, ...COPIED },
  days: { columns: ['days'], first: 1, ...COPIED },
  fixedDay: { columns: ['fixed_day'], first: null },
  notBefore: { columns: ['not_before'], first: null },
  anchor: { columns: ['anchor_at', 'anchor_offset'], first: { anchor_at: 'phase-start', anchor_offset: 0 } },
  phaseId: { columns: ['phase_id'], group: 'place' },
  parentId: { columns: ['parent_id'], group: 'place', first: null },
  deliverableId: { columns: ['deliverable_id'], first: null, ...COPIED },
  labels: { columns: ['labels'], first: [], ...COPIED },
  pageLinks: { columns: ['page_links'], first: [], ...COPIED },
  customFields: { columns: ['custom_fields'], first: [], ...COPIED },
  outside: {
    columns: ['outside_maker', 'outside_turnaround', 'outside_buffer', 'outside_needed_on', 'outside_state'],
    ...{ first: null, ...COPIED },
  },
  isShownToClient: { columns: ['is_shown_to_client'], first: false, ...COPIED },
  isChargeable: { columns: ['is_chargeable'], first: true, ...COPIED },
  mayStartEarly: { columns: ['may_start_early'], first: false, ...COPIED },
  plannedWeek: { columns: ['planned_week'], group: 'week', first: null },
  carried: { columns: ['carried'], group: 'week', first: 0 },
  series: { columns: ['series_id', 'series_day'], first: null },
  ways: { columns: ['ways'], first: [] },
  templateTaskId: { columns: ['template_task_id'], first: null },
  position: { columns: ['position'] },
  startDay: { columns: ['start_day'], group: 'dates' },
  dueDay: { columns: ['due_day'], group: 'dates' },
};

const FIELDS = Object.entries(DEFINITIONS) as readonly (readonly [TaskField, Definition<TaskField>])[];

/** The columns of all fields. */
export const FIELD_COLUMNS: readonly string[] = FIELDS.flatMap(([, { columns }]) => columns);

/** Columns that nobody decides, with what a new task begins with; identity is always given. */
export const COMPUTED_COLUMNS: Readonly<Record<string, unknown>> = {
  ...{ id: undefined, agency_id: undefined, engagement_id: undefined, number: undefined, expected_day: undefined },
  ...{ version: 1, logged_minutes: 0, steps_done: 0, steps_all: 0, reopened: 0, brief_by: null, is_group: false },
  ...{ slack: 0, is_critical: false, missed_days: 0, open_predecessors: 0, baseline_start: null, baseline_due: null },
};

/** What hangs on a task and is changed as a whole. */
export const TASK_PARTS = ['assignees', 'after', 'files'] as const;
export type TaskPart = (typeof TASK_PARTS)[number];

const definitionOf = (name: string): Definition<TaskField> | undefined => DEFINITIONS[name as TaskField];

/** What a field holds in a row: the value of its column, or its columns by name; null when all of those are empty. */
function valueIn(row: TaskRow, { columns }: Definition<TaskField>): unknown {
  const [first] = columns as readonly [string, ...string[]];
  if (columns.length === 1) return row[first] ?? null;
  if (columns.every((column) => (row[column] ?? null) === null)) return null;
  return Object.fromEntries(columns.map((column) => [column, row[column] ?? null]));
}

/** What a field of a task holds in a row. */
export function presentValue(row: TaskRow, name: string): unknown {
  const definition = definitionOf(name);
  return definition === undefined ? null : valueIn(row, definition);
}

/** The columns of a field with the values they get when it is set to what `presentValue` answered. */
export function columnsFor(name: string, value: unknown): Record<string, unknown> {
  const definition = definitionOf(name);
  if (definition === undefined) return {};
  const [first] = definition.columns as readonly [string, ...string[]];
  if (definition.columns.length === 1) return { [first]: value };
  const values = (value ?? {}) as Record<string, unknown>;
  return Object.fromEntries(definition.columns.map((column) => [column, values[column] ?? null]));
}

/** What stands in the fields of a task. */
export const valuesOf = (row: TaskRow): TaskValues =>
  Object.fromEntries(FIELDS.map(([name, definition]) => [name, valueIn(row, definition)])) as unknown as TaskValues;

/** A row with other values in some of its fields. */
export const withValues = <Row extends TaskRow>(row: Row, values: Partial<TaskValues>): Row =>
  Object.assign({ ...row }, ...Object.entries(values).map(([name, value]) => columnsFor(name, value))) as Row;

/** The row of a new task: what is given, and for the rest what a new task begins with. */
export function firstRowOf(values: Partial<TaskValues>): Record<string, unknown> {
  const given = values as Partial<Record<TaskField, unknown>>;
  const fields = FIELDS.map(([name, { first }]) => columnsFor(name, name in given ? given[name] : first));
  return Object.assign({ ...COMPUTED_COLUMNS }, ...fields) as Record<string, unknown>;
}

/** What a copy of a task begins with. Work outside is to be briefed anew, for whenever it is needed then. */
export function copiedValues(row: TaskRow): Partial<TaskValues> {
  const values = Object.fromEntries(
    FIELDS.filter(([, { isCopied }]) => isCopied === true).map(([name, definition]) => [name, valueIn(row, definition)]),
  ) as Partial<TaskValues>;
  const outside = values.outside ?? null;
  return { ...values, outside: outside === null ? null : { ...outside, outside_needed_on: null, outside_state: 'to-brief' } };
}

/** The group a field is undone with. */
export const groupOf = (name: string): string => definitionOf(name)?.group ?? name;

/** The fields that differ between two rows of one task. */
export function rowChanges(before: TaskRow, after: TaskRow): FieldChange[] {
  return FIELDS.flatMap(([field, definition]): FieldChange[] => {
    const [from, to] = [valueIn(before, definition), valueIn(after, definition)];
    return isDeepStrictEqual(from, to) ? [] : [{ field, from, to }];
  });
}
