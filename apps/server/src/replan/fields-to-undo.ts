import type { TaskImage } from './task-images.ts';

/** Columns that are changed together or not at all, by the name people know them by. A column that stands in none is its own field. */
const GROUPS: Readonly<Record<string, readonly string[]>> = {
  status: ['status', 'waiting_on', 'waiting_since', 'real_start', 'done_on'],
  place: ['phase_id', 'parent_id'],
  anchor: ['anchor_at', 'anchor_offset'],
  outside: ['outside_maker', 'outside_turnaround', 'outside_buffer', 'outside_needed_on', 'outside_state', 'brief_by'],
  dates: ['start_day', 'due_day'],
  repeats: ['series_id', 'series_day'],
};
const GROUP_OF = new Map(Object.entries(GROUPS).flatMap(([group, columns]) => columns.map((column) => [column, group] as const)));

/** Columns that are nobody's decision: identity, what is counted, and what the planner computes anew. */
const NOT_DECIDED = new Set([
  ...['id', 'agency_id', 'engagement_id', 'number', 'version', 'logged_minutes', 'steps_done', 'steps_all', 'reopened'],
  ...['is_group', 'expected_day', 'slack', 'is_critical', 'missed_days', 'open_predecessors'],
]);

/** Fields whose difference nobody is told of: others moved the task, or stood it in another row, without touching it. */
const UNSAID = new Set(['dates', 'position']);

/** What hangs on a task and is changed as a whole, by the name people know it by. */
const PARTS = { assigneeIds: 'assignees', after: 'links', files: 'files' } as const;
type PartName = keyof typeof PARTS;

/** What undoing a change does to one task. */
export interface TaskUndo {
  readonly id: string;
  /** The columns that go back, with what they go back to. */
  readonly columns: Readonly<Record<string, unknown>>;
  /** The parts that go back to how they are in the image. */
  readonly parts: readonly PartName[];
  /** Fields that somebody changed since; they stay. */
  readonly kept: readonly string[];
}

/**
 * Field by field: what the change set goes back to what it was, where it still stands as the
 * change left it. What the change did not touch is left alone, whoever touched it since.
 */
export function fieldsToUndo(before: TaskImage, after: TaskImage, now: TaskImage): TaskUndo {
  const columns: Record<string, unknown> = {};
  const kept: string[] = [];
  for (const [field, members] of fieldsOf(before)) {
    if (same(members, before.row, after.row)) continue;
    if (same(members, after.row, now.row)) for (const column of members) columns[column] = before.row[column];
    else if (!UNSAID.has(field) && !same(members, before.row, now.row)) kept.push(camel(field));
  }
  const parts: PartName[] = [];
  for (const [name, key] of Object.entries(PARTS) as [PartName, (typeof PARTS)[PartName]][]) {
    const [was, became, is] = [before, after, now].map((image) => textOf(image[key])) as [string | null, string | null, string | null];
    // What was kept before tasks had files says nothing of them.
    if (was === null || was === became) continue;
    if (is === became) parts.push(name);
    else if (is !== was) kept.push(name);
  }
  return { id: before.id, columns, parts, kept };
}

/** Whether anything of a task was decided anew since a change left it: then it is somebody's work. That it became part of a baseline is not. */
export function isChangedSince(after: TaskImage, now: TaskImage): boolean {
  const fields = [...fieldsOf(after)].filter(([field]) => !UNSAID.has(field) && !field.startsWith('baseline_'));
  return (
    fields.some(([, members]) => !same(members, after.row, now.row)) ||
    Object.values(PARTS).some((key) => textOf(after[key]) !== textOf(now[key])) ||
    textOf(after.steps) !== textOf(now.steps)
  );
}

/** The fields of an image's columns; columns that came later than the image are not in it. */
function fieldsOf(image: TaskImage): ReadonlyMap<string, readonly string[]> {
  const fields = new Map<string, string[]>();
  for (const column of Object.keys(image.row)) {
    if (NOT_DECIDED.has(column)) continue;
    const field = GROUP_OF.get(column) ?? column;
    fields.set(field, [...(fields.get(field) ?? []), column]);
  }
  return fields;
}

type Row = Readonly<Record<string, unknown>>;
const same = (columns: readonly string[], left: Row, right: Row): boolean =>
  columns.every((column) => JSON.stringify(left[column]) === JSON.stringify(right[column]));

/** Rows as text that does not hang on their order, nor on when somebody was given a task. */
function textOf(rows: readonly object[] | undefined): string | null {
  if (rows === undefined) return null;
  return JSON.stringify(
    rows
      .map((row) =>
        JSON.stringify(
          Object.entries(row)
            .filter(([key]) => !key.startsWith('assigned_'))
            .sort(),
        ),
      )
      .sort(),
  );
}

const camel = (column: string): string => column.replace(/_id$/, '').replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());
