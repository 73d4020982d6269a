import { TASK_FIELD } from '@crew/contract';
import { getMetadataArgsStorage } from 'typeorm';
import {
  columnsFor,
  COMPUTED_COLUMNS,
  copiedValues,
  FIELD_COLUMNS,
  firstRowOf,
  presentValue,
  rowChanges,
  type TaskRow,
} from './task-fields.ts';
import { Task } from './task.entity.ts';

const snake = (property: string): string => property.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
const COLUMNS = getMetadataArgsStorage()
  .columns.filter(({ target }) => target === Task)
  .map(({ propertyName, options }) => ({ column: snake(propertyName), options }));

test('every column of a task is a field somebody decides, or is computed', () => {
  const known = [...FIELD_COLUMNS, ...Object.keys(COMPUTED_COLUMNS)];
  expect([...known].sort()).toEqual(COLUMNS.map(({ column }) => column).sort());
});

test('a new task begins with what the table would begin with', () => {
  const row = firstRowOf({});
  for (const { column, options } of COLUMNS) {
    const { default: expected, nullable } = options as { default?: unknown; nullable?: boolean };
    if (expected !== undefined) expect([column, row[column]]).toEqual([column, expected === '{}' ? [] : expected]);
    else if (nullable === true) expect([column, row[column] ?? null]).toEqual([column, null]);
  }
});

test('what is read of a field is what its columns are set to', () => {
  const row: TaskRow = Object.fromEntries(FIELD_COLUMNS.map((column) => [column, `${column} value`]));
  for (const from of [row, {} as TaskRow]) {
    const back = Object.assign({}, ...TASK_FIELD.map((field) => columnsFor(field, presentValue(from, field)))) as TaskRow;
    expect(back).toEqual(Object.fromEntries(FIELD_COLUMNS.map((column) => [column, from[column] ?? null])));
  }
});

test('a copy is the same but for where it stands, how far it is, and when', () => {
  const row: TaskRow = Object.fromEntries(FIELD_COLUMNS.map((column) => [column, `${column} value`]));
  const copied = firstRowOf(copiedValues(row));
  const changed = rowChanges(row, copied).map(({ field }) => field);
  expect(changed.sort()).toEqual(
    [
      ...[
        'status',
        'waitingOn',
        'waitingSince',
        'realStart',
        'doneOn',
        'fixedDay',
        'notBefore',
        'anchor',
        'phaseId',
        'parentId',
        'outside',
        'ways',
      ],
      ...['plannedWeek', 'carried', 'series', 'templateTaskId', 'position', 'startDay', 'dueDay'],
    ].sort(),
  );
  expect(copied).toMatchObject({ outside_maker: 'outside_maker value', outside_state: 'to-brief', outside_needed_on: null });
});
