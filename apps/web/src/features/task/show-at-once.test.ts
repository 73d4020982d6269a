import { planTask, taskSheet } from '../../../test/samples.ts';
import { changed, notShownAtOnce } from './show-at-once.ts';

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

test('people are shown when all of them are known here, and never guessed', () => {
  const ida = { id: 'i', name: 'Ida Wren', initials: 'IW', roles: ['Writer'], roleIds: ['w'], access: 'member' as const, week: [] };
  expect(changed(planTask, { assigneeIds: ['i'] }, [ida])).toEqual({
    ...planTask,
    assignees: [{ id: 'i', name: 'Ida Wren', initials: 'IW' }],
  });
  expect(changed(planTask, { assigneeIds: ['i', 'x'] }, [ida])).toEqual(planTask);
});

test('what is given whole and not shown at once is told, so that nothing is put over it unseen', () => {
  expect(notShownAtOnce({ title: 'Signs', labels: ['urgent'], fixedDay: null, fileIds: [], after: [], assigneeIds: [] })).toEqual([
    'fileIds',
    'after',
  ]);
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
