import { earliestChange, formatDay, parseDay, type DatedWork, type EarliestChange, type LoadInput, type IsoDay } from '../src/index.ts';

const WEEK = [480, 480, 480, 480, 480, 0, 0];
const base: Omit<LoadInput, 'from' | 'to'> = {
  calendar: { week: WEEK, closed: [] },
  today: '2026-11-23',
  defaultMinutes: 60,
  people: [{ id: 'ana', week: WEEK, off: [] }],
  tasks: [{ id: 'busy', assignees: [{ person: 'ana' }], estimate: 5 * 480, start: '2026-11-30', due: '2026-12-04' }],
};
const on = (start: IsoDay, minutes: number): DatedWork => ({ person: 'ana', minutes, start, due: start });
const plus = (day: IsoDay, days: number): IsoDay => formatDay((parseDay(day) as number) + days);
const MONDAYS = ['2026-11-23', '2026-11-30', '2026-12-07'] as const;
const changes = (before: number, after: number) =>
  MONDAYS.map((from) => ({ from, before: [on(from, before)], after: [on(from, after), on(plus(from, 7), after)] }));

function found(candidates: Parameters<typeof earliestChange>[0]['candidates'], load = base): EarliestChange {
  const result = earliestChange({ load, candidates });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}

test('it waits for the first day from which nobody is put further over', () => {
  expect(found(changes(0, 240))).toEqual({ from: '2026-12-07', alone: [] });
});

test('work that goes on either way is no reason to wait', () => {
  const candidates = MONDAYS.map((from) => ({
    from,
    before: [on('2026-11-30', 240)],
    after: [on('2026-11-30', 240), on('2026-12-14', 60)],
  }));
  expect(found(candidates).from).toBe('2026-11-23');
});

test('what the change alone asks too much is told, and does not keep it from being found', () => {
  expect(found(changes(0, 600))).toEqual({ from: '2026-12-07', alone: [{ person: 'ana', minutes: 240 }] });
});

test('where none fits it says so, and whom the first would put over by itself', () => {
  const full: Omit<LoadInput, 'from' | 'to'> = {
    ...base,
    tasks: [{ id: 'busy', assignees: [{ person: 'ana' }], estimate: 30 * 480, start: '2026-11-23', due: '2027-01-01' }],
  };
  expect(found(changes(0, 600), full)).toEqual({ from: null, alone: [{ person: 'ana', minutes: 240 }] });
});

test('the books are left as they were: asking twice answers the same', () => {
  expect(found([...changes(0, 240), ...changes(0, 240)]).from).toBe('2026-12-07');
});

test('an unknown person is named', () => {
  const candidates = [{ from: '2026-11-23', before: [], after: [{ ...on('2026-11-23', 60), person: 'nobody' }] }] as const;
  expect(earliestChange({ load: base, candidates })).toMatchObject({
    ok: false,
    problem: { kind: 'unknown-id', at: 'candidates[0].after.person' },
  });
});
