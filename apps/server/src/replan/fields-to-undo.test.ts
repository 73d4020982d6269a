import fc from 'fast-check';
import { fieldsToUndo, isChangedSince } from './fields-to-undo.ts';
import type { TaskImage } from './task-images.ts';

const COLUMNS = [
  'title',
  'status',
  'waiting_on',
  'days',
  'phase_id',
  'parent_id',
  'planned_week',
  'start_day',
  'due_day',
  'slack',
] as const;
type Row = Record<(typeof COLUMNS)[number], number>;

/** Few values, so that equal and different ones both come up. */
const row: fc.Arbitrary<Row> = fc.record(
  Object.fromEntries(COLUMNS.map((column) => [column, fc.nat(2)])) as Record<keyof Row, fc.Arbitrary<number>>,
);
const people = fc.subarray(['anna', 'ben'], { minLength: 0 });
/** No two people were ever given a task at the same moment. */
let given = 0;
const image = fc.record({ row, people }).map(({ row: columns, people: names }): TaskImage => ({
  id: 't',
  row: { ...columns, version: 1, title: String(columns.title) },
  assignees: names.map((person_id) => ({ person_id, assigned_at: ++given })),
  links: [],
  steps: [],
  files: [],
}));
const three = fc.tuple(image, image, image);

test('a field goes back only where it stands as the change left it, and to what it was', () => {
  const seen = { back: 0, kept: 0 };
  fc.assert(
    fc.property(three, ([before, after, now]) => {
      const undo = fieldsToUndo(before, after, now);
      for (const [column, value] of Object.entries(undo.columns)) {
        expect(now.row[column]).toEqual(after.row[column]);
        expect(value).toEqual(before.row[column]);
        seen.back++;
      }
      seen.kept += undo.kept.length;
      // What the change did not touch is not touched by undoing it.
      const untouched = COLUMNS.filter((column) => before.row[column] === after.row[column]);
      if (untouched.length === COLUMNS.length) expect(undo.columns).toEqual({});
    }),
  );
  expect(seen.back).toBeGreaterThan(50);
  expect(seen.kept).toBeGreaterThan(20);
});

test('columns that belong together go back together or not at all', () => {
  fc.assert(
    fc.property(three, ([before, after, now]) => {
      const { columns } = fieldsToUndo(before, after, now);
      expect('status' in columns).toBe('waiting_on' in columns);
      expect('phase_id' in columns).toBe('parent_id' in columns);
      expect('start_day' in columns).toBe('due_day' in columns);
      expect('slack' in columns).toBe(false);
    }),
  );
});

test('with nothing changed since, all of it goes back and nothing is kept; when somebody was given it does not matter', () => {
  fc.assert(
    fc.property(image, image, (before, after) => {
      const now = { ...after, assignees: after.assignees.map((person) => ({ ...person, assigned_at: ++given })) };
      const { kept, columns, parts } = fieldsToUndo(before, after, now);
      expect(kept).toEqual([]);
      const back = { ...after.row, ...columns };
      for (const column of COLUMNS.filter((name) => name !== 'slack')) expect(back[column]).toEqual(before.row[column]);
      expect(parts.includes('assigneeIds')).toBe(JSON.stringify(namesOf(before)) !== JSON.stringify(namesOf(after)));
      expect(isChangedSince(after, now)).toBe(false);
    }),
  );
});

const namesOf = ({ assignees }: TaskImage): string[] => assignees.map((person) => (person as { person_id: string }).person_id).sort();
