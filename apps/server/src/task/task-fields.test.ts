import { getMetadataArgsStorage } from 'typeorm';
import { columnsFor, COMPUTED_COLUMNS, TASK_FIELDS, valueIn, type TaskRow } from './task-fields.ts';
import { Task } from './task.entity.ts';

const snake = (property: string): string => property.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

test('every column of a task is a field somebody decides, or is computed', () => {
  const columns = getMetadataArgsStorage()
    .columns.filter(({ target }) => target === Task)
    .map(({ propertyName }) => snake(propertyName));
  const known = [...TASK_FIELDS.flatMap((field) => field.columns), ...COMPUTED_COLUMNS];
  expect([...known].sort()).toEqual([...columns].sort());
});

test('what is read of a field is what its columns are set to', () => {
  const row: TaskRow = Object.fromEntries(TASK_FIELDS.flatMap(({ columns }) => columns.map((column) => [column, `${column} value`])));
  const empty: TaskRow = {};
  for (const field of TASK_FIELDS) {
    expect(columnsFor(field.field, valueIn(row, field))).toEqual(Object.fromEntries(field.columns.map((column) => [column, row[column]])));
    expect(columnsFor(field.field, valueIn(empty, field))).toEqual(Object.fromEntries(field.columns.map((column) => [column, null])));
  }
});
