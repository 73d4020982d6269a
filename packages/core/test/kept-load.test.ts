import fc from 'fast-check';
import { KeptLoad, load, type LoadInput, type LoadTaskInput, type IsoDay } from '../src/index.ts';

const WEEK = [480, 480, 480, 480, 480, 0, 0];
const TODAY = '2026-11-23';
const crew: Omit<LoadInput, 'from' | 'tasks'> = {
  calendar: { week: WEEK, closed: ['2026-11-27'] },
  today: TODAY,
  to: '2027-03-31',
  defaultMinutes: 60,
  people: ['ana', 'ben', 'cy'].map((id) => ({ id, week: WEEK, off: id === 'cy' ? [{ from: '2026-11-30', to: '2026-12-02' }] : [] })),
};
const shown: { from: IsoDay; to: IsoDay } = { from: '2026-11-16', to: '2027-01-15' };
const open = (): KeptLoad => {
  const result = KeptLoad.open(crew);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
};
const daysOf = (kept: KeptLoad) => {
  const result = kept.days(shown);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
};
const whole = (tasks: readonly LoadTaskInput[]) => {
  const result = load({ ...crew, ...shown, tasks });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value.people.map((person) => person.days);
};
const day = (offset: number): IsoDay => new Date(Date.UTC(2026, 10, 23 + offset)).toISOString().slice(0, 10) as IsoDay;

const anyTask = fc
  .record({
    place: fc.nat(7),
    people: fc.uniqueArray(fc.constantFrom('ana', 'ben', 'cy'), { maxLength: 3 }),
    share: fc.integer({ min: 1, max: 4 }),
    placed: fc.array(fc.record({ day: fc.integer({ min: -5, max: 30 }).map((offset) => day(offset)), minutes: fc.nat(300) }), {
      maxLength: 2,
    }),
    estimate: fc.option(fc.nat(3000), { nil: undefined }),
    start: fc.integer({ min: -10, max: 40 }),
    days: fc.nat(9),
    done: fc.boolean(),
    likelihood: fc.option(fc.nat(100), { nil: undefined }),
  })
  .map(({ place, people, share, placed, estimate, start, days, done, likelihood }) => ({
    ...{ place, start: day(start), due: day(start + days), done },
    assignees: people.map((person, index) => (index === 0 ? { person, share, placed } : { person })),
    ...(estimate === undefined ? {} : { estimate }),
    ...(likelihood === undefined ? {} : { likelihood }),
  }));
/** Groups given anew, again and again: other tasks, the same ones otherwise, or none. */
const anyHistory = fc.array(
  fc.tuple(fc.constantFrom('trail', 'signs', 'panels'), fc.uniqueArray(anyTask, { selector: ({ place }) => place, maxLength: 6 })),
  {
    minLength: 1,
    maxLength: 8,
  },
);

test('whatever is given anew, it answers what computing the whole would', () => {
  fc.assert(
    fc.property(anyHistory, (history) => {
      const kept = open();
      const now = new Map<string, LoadTaskInput[]>();
      for (const [group, tasks] of history) {
        const named = tasks.map(({ place, ...task }) => ({ id: `${group} ${place}`, ...task }));
        kept.replace(group, named);
        now.set(group, named);
      }
      const tasks = [...now.values()].flat();
      expect(daysOf(kept)).toEqual(whole(tasks));
      expect(
        kept
          .tasks()
          .map(({ id }) => id)
          .sort(),
      ).toEqual(tasks.map(({ id }) => id).sort());
    }),
    { numRuns: 300 },
  );
});

test('a group that cannot be read leaves everything as it was', () => {
  const kept = open();
  const good = { id: 'a', assignees: [{ person: 'ana' }], estimate: 960, start: '2026-11-24', due: '2026-11-25' } as const;
  kept.replace('trail', [good]);
  const before = daysOf(kept);
  const bad = kept.replace('trail', [
    { ...good, estimate: 60 },
    { ...good, id: 'b', assignees: [{ person: 'nobody' }] },
  ]);
  expect(bad).toMatchObject({ ok: false, problem: { kind: 'unknown-id', at: 'tasks[b].assignees' } });
  expect(daysOf(kept)).toEqual(before);
  expect(kept.names()).toEqual(['trail']);
  kept.replace('trail', []);
  expect(kept.names()).toEqual([]);
});

test('days that are not kept are refused, days before today are empty', () => {
  const kept = open();
  const refused = (from: IsoDay, to: IsoDay) => kept.days({ from, to });
  expect(refused(TODAY, '2027-04-01')).toMatchObject({ ok: false, problem: { at: 'to', expected: 'a day that is kept' } });
  expect(refused('2026-12-02', '2026-12-01')).toMatchObject({ ok: false, problem: { at: 'to' } });
  const past = kept.days({ from: '2026-11-20', to: '2026-11-20' });
  expect(past.ok && past.value[0]).toEqual([{ date: '2026-11-20', capacity: 480, load: 0, over: 0 }]);
  expect(KeptLoad.open({ ...crew, calendar: { week: [0, 0, 0, 0, 0, 0, 0], closed: [] } }).ok).toBe(false);
});
