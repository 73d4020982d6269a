import fc from 'fast-check';
import { load, openRooms, type IsoDay, type LoadInput, type LoadTaskInput, type Room } from '../src/index.ts';

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const base: LoadInput = {
  calendar: { week: WEEK, closed: ['2026-12-25'] },
  ...{ today: '2026-12-07', from: '2026-12-07', to: '2027-02-26', defaultMinutes: 60 },
  people: [
    { id: 'ines', week: WEEK },
    { id: 'rafe', week: [0, 450, 450, 450, 0, 0, 0] },
    { id: 'noor', week: WEEK, off: [{ from: '2026-12-07', to: '2026-12-11' }] },
  ],
  tasks: [{ id: 'full', assignees: [{ person: 'ines' }], estimate: 450, start: '2026-12-07', due: '2026-12-07' }],
};
const poster = (estimate: number, more: Partial<LoadTaskInput> = {}): LoadTaskInput => ({
  ...{ id: 'poster', assignees: [], estimate, start: '2026-12-07', due: '2026-12-08' },
  ...more,
});

function rooms(input: LoadInput, tasks: readonly LoadTaskInput[], people = ['ines', 'rafe', 'noor']): readonly Room[] {
  const ask = openRooms(input);
  if (!ask.ok) throw new Error(JSON.stringify(ask.problem));
  const answer = ask.value(tasks, people);
  if (!answer.ok) throw new Error(JSON.stringify(answer.problem));
  return answer.value;
}

test('room on Tuesday does not help on a full Monday, the days are those the task would take', () => {
  // Ines has 450 minutes free in the two days, and 300 of work: half of it lies on the full day.
  expect(rooms(base, [poster(300)])).toEqual([
    { id: 'ines', capacity: 900, free: 300, over: 150 },
    { id: 'rafe', capacity: 450, free: 150, over: 0 },
    { id: 'noor', capacity: 0, free: 0, over: 0 },
  ]);
});

test('several tasks are taken together, and asking leaves nothing behind', () => {
  const ask = openRooms(base);
  if (!ask.ok) throw new Error('no load');
  const two = [poster(300), poster(300, { id: 'flyer', start: '2026-12-08' })];
  const [first, again] = [ask.value(two, ['rafe']), ask.value(two, ['rafe'])];
  expect(first).toEqual({ ok: true, value: [{ id: 'rafe', capacity: 450, free: 0, over: 150 }] });
  expect(again).toEqual(first);
});

test('what it says is what the whole load says with and without the work', () => {
  const day = fc
    .integer({ min: 0, max: 20 })
    .map((offset) => new Date(Date.UTC(2026, 11, 5 + offset)).toISOString().slice(0, 10) as IsoDay);
  const work = fc
    .record({ estimate: fc.integer({ min: 0, max: 3000 }), days: fc.tuple(day, day) })
    .map(({ estimate, days: [one, other] }) => poster(estimate, one < other ? { start: one, due: other } : { start: other, due: one }));
  const seen = { over: 0, free: 0 };
  fc.assert(
    fc.property(fc.array(work, { maxLength: 4 }), work, (tasks, asked) => {
      const others = tasks.map((task, index) => ({ ...task, id: `t${index}`, assignees: [{ person: 'ines' }] }));
      const sums = (all: readonly LoadTaskInput[]) => {
        const answer = load({ ...base, tasks: all });
        if (!answer.ok) throw new Error(JSON.stringify(answer.problem));
        return answer.value.people[0]?.days ?? [];
      };
      const [before, after] = [sums(others), sums([...others, { ...asked, assignees: [{ person: 'ines' }] }])];
      const over = (days: typeof after): number => days.reduce((sum, each) => sum + each.over, 0);
      const first = asked.start < base.today ? base.today : asked.start;
      const last = asked.due < first ? first : asked.due;
      const theirs = after.filter(({ date }) => date >= first && date <= last);
      const [room] = rooms({ ...base, tasks: others }, [asked], ['ines']);
      expect(room).toEqual({
        id: 'ines',
        capacity: theirs.reduce((sum, { capacity }) => sum + capacity, 0),
        free: theirs.reduce((sum, { capacity, load: minutes }) => sum + Math.max(0, capacity - minutes), 0),
        over: over(after) - over(before),
      });
      if ((room?.over ?? 0) > 0) seen.over++;
      if ((room?.free ?? 0) > 0) seen.free++;
    }),
    { numRuns: 200 },
  );
  expect(seen.over > 0 && seen.free > 0).toBe(true);
});

test.each([
  [[poster(60)], ['ghost'], 'people'],
  [[poster(60, { due: '2026-12-01' })], ['ines'], 'tasks[poster].due'],
])('%j of %j is refused at its place', (tasks, people, at) => {
  const ask = openRooms(base);
  expect(ask.ok && ask.value(tasks, people)).toMatchObject({ ok: false, problem: { at } });
});
