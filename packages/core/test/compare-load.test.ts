import fc from 'fast-check';
import {
  compareLoad,
  formatDay,
  load,
  parseDay,
  type LoadDay,
  type LoadDifference,
  type LoadInput,
  type LoadTaskInput,
  type IsoDay,
} from '../src/index.ts';

const WEEK = [480, 480, 480, 480, 480, 0, 0];
const TODAY = '2026-11-23';
const ahead: { from: IsoDay; to: IsoDay } = { from: TODAY, to: '2026-12-20' };
const shown: { from: IsoDay; to: IsoDay } = { from: '2026-11-16', to: '2026-12-06' };
const people = ['ana', 'ben', 'cy'].map((id) => ({
  id,
  week: WEEK,
  off: id === 'cy' ? [{ from: '2026-11-30', to: '2026-12-02' } as const] : [],
}));
const facts = (tasks: readonly LoadTaskInput[]): Omit<LoadInput, 'from' | 'to'> => ({
  calendar: { week: WEEK, closed: ['2026-11-27'] },
  today: TODAY,
  defaultMinutes: 60,
  people,
  tasks,
});
function differences(before: readonly LoadTaskInput[], after: readonly LoadTaskInput[]): LoadDifference[] {
  const result = compareLoad({ load: facts(before), tasks: after, ahead, shown });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}
const task = (id: string, person: string, more: Partial<LoadTaskInput> = {}): LoadTaskInput => ({
  ...{ id, assignees: [{ person }], estimate: 960, start: '2026-11-24', due: '2026-11-25' },
  ...more,
});

test('a task that is given to somebody else touches both, nobody more', () => {
  const found = differences([task('a', 'ana'), task('b', 'cy')], [task('a', 'ben'), task('b', 'cy')]);
  expect(found.map(({ person, before, after }) => [person, before.peak.load, after.peak.load])).toEqual([
    ['ana', 480, 0],
    ['ben', 0, 480],
  ]);
  expect(found[1]?.load).toHaveLength(21);
  expect(found[1]?.load.slice(7, 11)).toEqual([0, 480, 480, 0]);
});

test('what is done, gone or new counts as well, and nothing where nothing differs', () => {
  expect(differences([task('a', 'ana')], [task('a', 'ana', { done: true })])[0]?.after.peak.load).toBe(0);
  expect(differences([task('a', 'ana')], [])[0]?.before.peak.load).toBe(480);
  expect(differences([], [task('a', 'ana')])[0]?.after.peak.load).toBe(480);
  expect(differences([task('a', 'ana')], [task('a', 'ana')])).toEqual([]);
});

test('an unusable task is named', () => {
  const bad = compareLoad({ load: facts([]), tasks: [task('a', 'nobody')], ahead, shown });
  expect(bad).toMatchObject({ ok: false, problem: { kind: 'unknown-id', at: 'tasks[a].assignees' } });
});

const anyTask = (id: string): fc.Arbitrary<LoadTaskInput> =>
  fc
    .record({
      people: fc.uniqueArray(fc.constantFrom('ana', 'ben', 'cy'), { maxLength: 2 }),
      estimate: fc.integer({ min: 0, max: 3000 }),
      start: fc.integer({ min: -5, max: 25 }),
      days: fc.integer({ min: 0, max: 6 }),
      done: fc.boolean(),
    })
    .map(({ people: who, estimate, start, days, done }) => {
      const first = (parseDay(TODAY) as number) + start;
      return { id, assignees: who.map((person) => ({ person })), estimate, start: formatDay(first), due: formatDay(first + days), done };
    });
const plans = fc.tuple(...['a', 'b', 'c', 'd', 'e'].map(anyTask));

/** The busiest day the plain way: the first of those with the highest share of what is open; work without any is fullest. */
function fullnessOf(days: readonly LoadDay[]) {
  const share = (day: LoadDay): number => (day.capacity === 0 ? (day.load > 0 ? Infinity : -1) : day.load / day.capacity);
  const peak = days.reduce((best, day) => (share(day) > share(best) ? day : best));
  return {
    over: days.reduce((sum, day) => sum + day.over, 0),
    peak: { date: peak.date, load: peak.load, capacity: peak.capacity },
  };
}

test('law: it answers what two whole loads would', () => {
  let touched = 0;
  fc.assert(
    fc.property(plans, plans, fc.integer({ min: 0, max: 5 }), (before, other, kept) => {
      // Some tasks stay as they are, some are others.
      const after = before.map((one, index) => (index < kept ? one : (other[index] as LoadTaskInput)));
      const whole = (tasks: readonly LoadTaskInput[]) => {
        const [days, window] = [load({ ...facts(tasks), ...ahead }), load({ ...facts(tasks), ...shown })];
        if (!days.ok || !window.ok) throw new Error('no load');
        return people.map((_, index) => ({
          fullness: fullnessOf(days.value.people[index]?.days ?? []),
          days: days.value.people[index]?.days.map((day) => day.load),
          shown: window.value.people[index]?.days.map((day) => day.load),
        }));
      };
      const [was, is] = [whole(before), whole(after)];
      const expected = people.flatMap(({ id }, index) => {
        if (JSON.stringify(was[index]?.days) === JSON.stringify(is[index]?.days)) return [];
        return [{ person: id, before: was[index]?.fullness, after: is[index]?.fullness, load: is[index]?.shown }];
      });
      touched += expected.length;
      expect(differences(before, after)).toEqual(expected);
    }),
  );
  expect(touched).toBeGreaterThan(50);
});
