import fc from 'fast-check';
import { rowChanges, TASK_PARTS, withValues, type TaskValues } from '../task/task-fields.ts';
import { fieldsToUndo, mergeChanges } from './fields-to-undo.ts';
import type { TaskImage } from '../task/task-images.ts';

const COLUMNS = ['title', 'status', 'waiting_on', 'days', 'phase_id', 'parent_id', 'planned_week', 'start_day', 'due_day'] as const;
type Row = Record<(typeof COLUMNS)[number], number>;

/** Few values, so that equal and different ones both come up. */
const row: fc.Arbitrary<Row> = fc.record(
  Object.fromEntries(COLUMNS.map((column) => [column, fc.nat(2)])) as Record<keyof Row, fc.Arbitrary<number>>,
);
const people = fc.subarray(['anna', 'ben'], { minLength: 0 });
const image = fc.record({ row, people }).map(({ row: columns, people: names }): TaskImage => ({
  id: 't',
  row: { ...columns, version: 1, title: String(columns.title), is_group: false } as unknown as TaskImage['row'],
  assignees: names.map((personId) => ({ personId, share: 1 })),
  after: [],
  steps: [],
  files: [],
}));
/** Values of fields, by column. */
const columnsOf = (values: Partial<TaskValues>): Record<string, unknown> => withValues<Record<string, unknown>>({}, values);
const three = fc.tuple(image, image, image);

/** What a change from one image to another is kept as. */
const changesOf = (before: TaskImage, after: TaskImage) => [
  ...rowChanges(before.row, after.row),
  ...TASK_PARTS.filter((part) => JSON.stringify(before[part]) !== JSON.stringify(after[part])).map((part) => ({
    ...{ field: part, from: before[part], to: after[part] },
  })),
];

test('a field goes back only where it stands as the change left it, and to what it was', () => {
  const seen = { back: 0, kept: 0 };
  fc.assert(
    fc.property(three, ([before, after, now]) => {
      const undo = fieldsToUndo(changesOf(before, after), now);
      for (const [column, value] of Object.entries(columnsOf(undo.values))) {
        expect(now.row[column]).toEqual(after.row[column]);
        expect(value).toEqual(before.row[column]);
        seen.back++;
      }
      seen.kept += undo.kept.length;
      // What the change did not touch is not touched by undoing it.
      const untouched = COLUMNS.filter((column) => before.row[column] === after.row[column]);
      for (const column of untouched) expect(column in columnsOf(undo.values)).toBe(false);
    }),
  );
  expect(seen.back).toBeGreaterThan(50);
  expect(seen.kept).toBeGreaterThan(20);
});

test('fields that belong together go back together or not at all', () => {
  const seen = { together: 0, apart: 0 };
  fc.assert(
    fc.property(three, ([before, after, now]) => {
      const columns = columnsOf(fieldsToUndo(changesOf(before, after), now).values);
      for (const [one, other] of [
        ['status', 'waiting_on'],
        ['phase_id', 'parent_id'],
        ['start_day', 'due_day'],
      ] as const) {
        if (before.row[one] === after.row[one] || before.row[other] === after.row[other]) continue;
        expect(one in columns).toBe(other in columns);
        if (one in columns) seen.together++;
        else seen.apart++;
      }
    }),
    { numRuns: 1000 },
  );
  expect(Math.min(seen.together, seen.apart)).toBeGreaterThan(30);
});

test('with nothing changed since, all of it goes back and nothing is kept', () => {
  fc.assert(
    fc.property(image, image, (before, after) => {
      const { kept, values, parts } = fieldsToUndo(changesOf(before, after), after);
      expect(kept).toEqual([]);
      const back = withValues<Record<string, unknown>>(after.row, values);
      for (const column of COLUMNS) expect(back[column]).toEqual(before.row[column]);
      expect(parts.assignees ?? after.assignees).toEqual(before.assignees);
    }),
  );
});

test('changes in a row undo as one change from the first to the last', () => {
  fc.assert(
    fc.property(three, ([first, second, third]) => {
      const merged = mergeChanges([...changesOf(first, second), ...changesOf(second, third)]);
      const byField = (changes: readonly { readonly field: string }[]) => [...changes].sort((a, b) => (a.field < b.field ? -1 : 1));
      expect(byField(merged)).toEqual(byField(changesOf(first, third)));
    }),
  );
});
