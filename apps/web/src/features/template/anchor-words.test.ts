import type { TemplateTaskView } from '@crew/contract';
import { anchorWords } from './anchor-words.ts';

type When = Pick<TemplateTaskView, 'anchor' | 'after' | 'days'>;
const at = (anchor: When['anchor'], after: When['after'] = [], days = 2): When => ({ anchor, after, days });
const dependency = (type: When['after'][number]['type'], lag = 0): When['after'][number] => ({
  taskId: '1',
  title: 'Storyline',
  type,
  lag,
});
const START = { at: 'phase-start', offset: 0 } as const;

test.each<[string, When]>([
  ['at the start', at(START)],
  ['at the start, a moment', at(START, [], 0)],
  ['day 2 of the phase', at({ at: 'phase-start', offset: 1 })],
  ['day 5 of the engagement', at({ at: 'engagement-start', offset: 4 })],
  ['ends 3 days before the phase does', at({ at: 'before-phase-end', offset: 3 })],
  ['ends 12 days before the promise', at({ at: 'before-promise', offset: 12 })],
  ['after Storyline', at(START, [dependency('FS')])],
  ['2 days after Storyline', at(START, [dependency('FS', 2)])],
  ['1 day before the end of Storyline', at(START, [dependency('FS', -1)])],
  ['with the start of Storyline', at(START, [dependency('SS')])],
  ['1 day after the start of Storyline', at(START, [dependency('SS', 1)])],
  ['1 day before the start of Storyline', at(START, [dependency('SS', -1)])],
  ['ends with Storyline', at(START, [dependency('FF')])],
  ['ends 2 days after Storyline does', at(START, [dependency('FF', 2)])],
  ['ends 1 day before Storyline starts', at(START, [dependency('SF', -1)])],
  ['ends with the phase', at({ at: 'before-phase-end', offset: 0 })],
  ['ends on the promised day', at({ at: 'before-promise', offset: 0 })],
  ['ends when Storyline starts', at(START, [dependency('SF')])],
  ['after Storyline and ends 12 days before the promise', at({ at: 'before-promise', offset: 12 }, [dependency('FS')])],
])('“%s”', (words, when) => {
  expect(anchorWords(when)).toBe(words);
});
