import { undoneWords } from './undone-words.ts';

const kept = (field: string, title = 'Boards', by: string | null = 'Noor Haddad') => ({ subjectId: 't', title, field, by });

test.each([
  ['nothing kept', [], 'Undone.'],
  ['one field', [kept('title')], 'Undone, except for what changed since: Noor Haddad changed the title of “Boards”.'],
  ['a task that stays', [kept('added')], 'Undone, except for what changed since: “Boards” stays, because Noor Haddad has worked on it.'],
  ['a task that is gone', [kept('deleted', 'Boards', null)], 'Undone, except for what changed since: someone deleted “Boards”.'],
  [
    'more than are named',
    [kept('status'), kept('after'), kept('days'), kept('labels')],
    'Undone, except for what changed since: Noor Haddad changed the status of “Boards”; Noor Haddad changed the dependencies of “Boards”; and 2 more changes.',
  ],
])('%s', (_rule, fields, words) => {
  expect(undoneWords(fields)).toBe(words);
});
