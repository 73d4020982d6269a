import { planTask, taskSheet } from '../../../test/samples.ts';
import { changed } from './show-at-once.ts';

test.each([
  [{ status: 'waiting' as const }, { status: 'waiting', waitingOn: 'client' }],
  [
    { status: 'waiting' as const, waitingOn: 'supplier' as const },
    { status: 'waiting', waitingOn: 'supplier' },
  ],
  [
    { title: 'Posts set', priority: 'high' as const },
    { title: 'Posts set', priority: 'high' },
  ],
  [{ fixedDay: null }, { fixedDay: null }],
  [{ estimateMinutes: null }, { estimateMinutes: null }],
])('%j is shown at once', (change, expected) => {
  expect(changed(planTask, change)).toEqual({ ...planTask, ...expected });
});

test('going on ends the wait on the screen too', () => {
  expect(changed({ ...planTask, status: 'waiting', waitingOn: 'client' }, { status: 'active' })).toMatchObject({ waitingOn: null });
});

test('people are not guessed: their names come with the answer', () => {
  expect(changed(planTask, { assigneeIds: ['x'] })).toEqual(planTask);
});

test('what a list does not show of a task is not put there', () => {
  const line = { id: 't1', title: 'Signs set' };
  expect(changed(line, { status: 'done', priority: 'high', title: 'Done signs' })).toEqual({ id: 't1', title: 'Done signs' });
});

test('the task it was is left as it was', () => {
  const before = JSON.stringify(taskSheet);
  changed(taskSheet, { status: 'done', title: 'Other' });
  expect(JSON.stringify(taskSheet)).toBe(before);
});
