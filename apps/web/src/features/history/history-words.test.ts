import { TASK_FIELD, type HistoryLine } from '@crew/contract';
import { changeWords } from './field-words.ts';
import { doerWords, historyWords, thingWords } from './history-words.ts';

const TODAY = '2026-11-23';

const line = (kind: HistoryLine['kind'], changes: HistoryLine['changes'] = [], more: Partial<HistoryLine> = {}): HistoryLine => ({
  ...{
    id: '1',
    at: '2026-11-23T10:00:00Z',
    kind,
    changes,
    note: null,
    changeId: 'c',
    canUndo: true,
    redoId: null,
    isUndoing: false,
    runId: null,
    effects: 0,
  },
  by: { kind: 'person', job: null, person: { id: 'p', name: 'Odalys Renn', initials: 'OR' }, name: 'Odalys Renn' },
  subject: { kind: 'task', id: 't', name: 'Concept boards' },
  engagement: null,
  ...more,
});

/** A line as it is read aloud. */
function said(what: HistoryLine): string {
  const words = historyWords(what, TODAY);
  const changes = words.changes.map(({ label, from, to }) =>
    [label, from === null || from === 'none' ? '' : `${from} →`, to ?? ''].filter((part) => part !== '').join(' '),
  );
  return [`${words.did} ${thingWords(what)}`, changes.join(', '), words.said === null ? '' : `“${words.said}”`]
    .filter((part) => part !== '')
    .join(' ');
}

test.each<[string, HistoryLine]>([
  ['added Concept boards', line('task-added')],
  ['changed the effort of Concept boards 4 h → 5 h', line('task-changed', [{ field: 'estimateMinutes', from: 240, to: 300 }])],
  ['changed the effort of Concept boards to 5 h', line('task-changed', [{ field: 'estimateMinutes', from: null, to: 300 }])],
  [
    'changed Concept boards length 2 working days → 4 working days, fixed date Mon 30 Nov',
    line('task-changed', [
      { field: 'days', from: 2, to: 4 },
      { field: 'fixedDay', from: null, to: '2026-11-30' },
      { field: 'position', from: 1, to: 2 },
    ]),
  ],
  ['changed the description of Concept boards', line('task-changed', [{ field: 'description', from: 'a', to: 'b' }])],
  [
    'changed the status of Concept boards not begun → under way',
    line('task-status-changed', [
      { field: 'status', from: 'queued', to: 'active' },
      { field: 'realStart', from: null, to: TODAY },
    ]),
  ],
  ['assigned Concept boards nobody → Noor Haddad', line('task-assigned', [{ field: 'assignees', from: [], to: ['Noor Haddad'] }])],
  [
    'rescheduled Concept boards start Tue 24 Nov → Thu 26 Nov, due date Wed 25 Nov → Fri 27 Nov',
    line('task-rescheduled', [
      { field: 'startDay', from: '2026-11-24', to: '2026-11-26' },
      { field: 'dueDay', from: '2026-11-25', to: '2026-11-27' },
    ]),
  ],
  ['ticked the step “Outline” of Concept boards', line('step-changed', [{ field: 'isDone', from: false, to: true }], { note: 'Outline' })],
  ['logged 1.5 h on Concept boards', line('time-logged', [{ field: 'minutes', from: null, to: 90 }])],
  ['handed off Concept boards “All yours.”', line('handed-off', [], { note: 'All yours.' })],
  ['changed the dependencies of Concept boards FS Draft → none', line('task-changed', [{ field: 'after', from: ['FS Draft'], to: [] }])],
])('“%s”', (words, what) => {
  expect(said(what)).toBe(words);
});

test('a job is named by what it does, and who is gone as such', () => {
  expect(doerWords({ kind: 'job', job: 'plan', person: null, name: null })).toBe('Planner');
  expect(doerWords({ kind: 'person', job: null, person: null, name: null })).toBe('Somebody who left');
});

test('what concerns the whole agency names no thing, what is gone is said to be', () => {
  const settings = line('settings-changed', [], { subject: { kind: 'agency', id: 'a', name: null } });
  expect(thingWords(settings)).toBe('');
  expect(thingWords(line('task-added', [], { subject: { kind: 'task', id: 't', name: null } }))).toBe('something removed since');
});

const ofAgency = { subject: { kind: 'agency', id: 'a', name: null } } as const;
test.each([
  ['changed the time zone UTC → Europe/London', line('settings-changed', [{ field: 'zone', from: 'UTC', to: 'Europe/London' }], ofAgency)],
  ['changed the logo', line('settings-changed', [{ field: 'logo', from: null, to: 'f00' }], ofAgency)],
  [
    'renamed the role Writer → Author',
    line('role-renamed', [{ field: 'name', from: 'Writer', to: 'Author' }], { ...ofAgency, note: 'Writer' }),
  ],
  ['deleted the role “Gilder”', line('role-removed', [{ field: 'name', from: 'Gilder', to: null }], { ...ofAgency, note: 'Gilder' })],
  [
    'renamed a label on all tasks: print → press',
    line('label-changed', [{ field: 'label', from: 'print', to: 'press' }], { ...ofAgency, note: 'print' }),
  ],
])('of the agency: “%s”', (words, what) => {
  // There is no thing to name in between.
  expect(said(what).replace(/\s+/g, ' ').trim()).toBe(words);
});

test('every field of a task has words, but for those that follow from others', () => {
  const untold = TASK_FIELD.filter((field) => changeWords([{ field, from: null, to: null }], TODAY).length === 0);
  expect(untold).toEqual(['waitingSince', 'realStart', 'doneOn', 'carried', 'series', 'ways', 'templateTaskId', 'position']);
});
