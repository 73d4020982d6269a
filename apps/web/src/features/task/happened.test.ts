import type { HappenedLine } from '@crew/contract';
import { happenedWords } from './happened.ts';

const line = (what: string, ...changes: HappenedLine['changes'][number][]): HappenedLine => ({
  id: '1',
  at: '2026-11-23T10:00:00Z',
  who: 'Odalys',
  what,
  changes,
});

test.each<[string, HappenedLine]>([
  ['added the task', line('added')],
  ['logged time', line('time-logged')],
  [
    'changed the status from not begun to under way',
    line('changed', { field: 'status', from: 'queued', to: 'active' }, { field: 'realStart', from: null, to: '2026-11-23' }),
  ],
  ['changed the effort from none to 2.5 h', line('changed', { field: 'estimateMinutes', from: null, to: 150 })],
  [
    'changed the length from 2 to 4 working days, the first day to 2026-11-30',
    line('changed', { field: 'days', from: 2, to: 4 }, { field: 'fixedDay', from: null, to: '2026-11-30' }),
  ],
  ['changed it to follow the plan again', line('changed', { field: 'fixedDay', from: '2026-11-30', to: null })],
  ['changed who does it', line('changed', { field: 'assigneeIds', from: [], to: ['1'] })],
  ['changed it', line('changed')],
])('“%s”', (words, happened) => {
  expect(happenedWords(happened)).toBe(words);
});
