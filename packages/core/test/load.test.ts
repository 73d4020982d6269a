import fc from 'fast-check';
import {
  load,
  openBook,
  ownDays,
  parseDay,
  splitByLargestRemainder,
  type LoadInput,
  type LoadTaskInput,
  type IsoDay,
} from '../src/index.ts';
import { decemberLoad } from './examples.ts';

function loaded(input: LoadInput) {
  const result = load(input);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}

describe('the written example', () => {
  const answer = loaded(decemberLoad);
  const dates = [21, 22, 23, 24, 28, 29, 30, 31].map((day) => `2026-12-${day}` as IsoDay);
  test.each([
    ['tavi', '286/450 286/450 365/450 183/225 80/450 0/450 225/450 225/450'],
    ['jonah', '360/360 140/360 201/360 200/360 0/0 0/0 30/360 30/360'],
  ])('%s carries %s', (id, expected) => {
    const days = answer.people.find((person) => person.id === id)?.days ?? [];
    const shown = dates.map((date) => days.find((day) => day.date === date)).map((day) => `${day?.load}/${day?.capacity}`);
    expect(shown.join(' ')).toBe(expected);
  });
  test('every calendar day is there, closed ones without capacity, and the unestimated task is counted', () => {
    expect(answer.people[0]?.days).toHaveLength(11);
    expect(answer.people[0]?.days.find((day) => day.date === '2026-12-25')).toEqual({ date: '2026-12-25', capacity: 0, load: 0, over: 0 });
    expect(answer.unestimated).toBe(1);
  });
});

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const day = fc.integer({ min: 1, max: 60 }).map((offset) => new Date(Date.UTC(2026, 11, offset)).toISOString().slice(0, 10) as IsoDay);
const week: fc.Arbitrary<LoadInput> = fc
  .record({
    tasks: fc.array(
      fc.record({
        estimate: fc.option(fc.nat(1500), { nil: undefined }),
        days: fc.tuple(day, day),
        people: fc.subarray(['a', 'b', 'c'], { minLength: 1 }),
        shares: fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 3, maxLength: 3 }),
        placed: fc.array(fc.record({ day, minutes: fc.nat(400) }), { maxLength: 3 }),
      }),
      { maxLength: 10 },
    ),
    off: fc.option(fc.tuple(day, day), { nil: undefined }),
    reserve: fc.integer({ min: 0, max: 100 }),
  })
  .map(({ tasks, off, reserve }) => ({
    calendar: { week: WEEK, closed: ['2026-12-25'] },
    today: '2026-12-07',
    from: '2026-12-01',
    to: '2028-06-30',
    defaultMinutes: 90,
    people: [
      {
        id: 'a',
        week: WEEK,
        ...(off === undefined ? {} : { off: [{ from: [...off].sort()[0] as IsoDay, to: [...off].sort()[1] as IsoDay }] }),
      },
      { id: 'b', week: [0, 0, 200, 0, 100, 0, 0], reserve: Math.min(reserve, 40) },
      { id: 'c', week: [0, 0, 0, 0, 0, 0, 0], reserve },
    ],
    tasks: tasks.map((task, index) => ({
      id: `t${index}`,
      ...(task.estimate === undefined ? {} : { estimate: task.estimate }),
      start: [...task.days].sort()[0] as IsoDay,
      due: [...task.days].sort()[1] as IsoDay,
      assignees: task.people.map((person, index) => ({
        person,
        share: task.shares[index] as number,
        ...(index === 0 ? { placed: task.placed } : {}),
      })),
    })),
  }));

const totalOf = (input: LoadInput) =>
  loaded(input)
    .people.flatMap((person) => person.days)
    .reduce((sum, cell) => sum + cell.load, 0);

describe('laws', () => {
  test('minutes are conserved, whoever is away', () => {
    fc.assert(
      fc.property(week, (input) => {
        const planned = input.tasks.reduce((sum, task) => sum + (task.estimate ?? 90), 0);
        expect(totalOf(input)).toBe(planned);
      }),
      { numRuns: 50 },
    );
  });

  test('nothing lands before today', () => {
    fc.assert(
      fc.property(week, (input) => {
        const past = loaded(input).people.flatMap((person) => person.days.filter((cell) => cell.date < input.today));
        expect(past.every((cell) => cell.load === 0)).toBe(true);
      }),
    );
  });

  test('the order of people and tasks does not matter', () => {
    fc.assert(
      fc.property(week, (input) => {
        const turned = loaded({ ...input, people: [...input.people].reverse(), tasks: [...input.tasks].reverse() });
        expect([...turned.people].reverse()).toEqual(loaded(input).people);
      }),
    );
  });

  test('taking a task off the book leaves exactly what was there before', () => {
    fc.assert(
      fc.property(week, (input) => {
        const { book } = openBook(input);
        const before = book.load.slice();
        const item = {
          minutes: 777,
          first: parseDay('2026-12-08') as number,
          last: parseDay('2026-12-30') as number,
          people: [0, 1],
          shares: [2, 3],
          placed: [[{ day: parseDay('2026-12-09') as number, minutes: 60 }], null],
        };
        book.add(item);
        expect(book.load).not.toEqual(before);
        book.remove(item);
        expect(book.load).toEqual(before);
      }),
      { numRuns: 30 },
    );
  });

  test('the parts of a split add up and differ from the exact share by less than one', () => {
    const weights = fc.array(fc.nat(500), { minLength: 1, maxLength: 20 }).filter((list) => list.some((weight) => weight > 0));
    fc.assert(
      fc.property(fc.nat(100_000), weights, (whole, list) => {
        const parts = [...splitByLargestRemainder(whole, list)];
        const total = list.reduce((sum, weight) => sum + weight, 0);
        expect(parts.reduce((sum, part) => sum + part, 0)).toBe(whole);
        parts.forEach((part, index) => expect(Math.abs(part - (whole * (list[index] as number)) / total)).toBeLessThan(1));
      }),
    );
  });
});

describe('what somebody put on days of their own', () => {
  const from: IsoDay = '2026-12-07';
  const one = (more: Partial<LoadTaskInput>, placed: readonly { readonly day: IsoDay; readonly minutes: number }[]): LoadInput => ({
    ...{ calendar: { week: WEEK, closed: [] }, today: '2026-12-08', from, to: '2026-12-13', defaultMinutes: 60 },
    people: [{ id: 'a', week: WEEK }],
    tasks: [{ id: 't', estimate: 600, start: '2026-12-08', due: '2026-12-11', assignees: [{ person: 'a', placed }], ...more }],
  });
  const minutes = (input: LoadInput): number[] => loaded(input).people[0]?.days.map((cell) => cell.load) ?? [];

  test.each<[string, readonly (readonly [IsoDay, number])[], number[]]>([
    ['counts on its day, the rest on the other days', [['2026-12-09', 300]], [0, 100, 300, 100, 100, 0, 0]],
    ['counts on a day outside its dates, and beyond capacity', [['2026-12-12', 500]], [0, 25, 25, 25, 25, 500, 0]],
    [
      'counts only as far as the work reaches, in order of day',
      [
        ['2026-12-11', 400],
        ['2026-12-08', 400],
      ],
      [0, 400, 0, 0, 200, 0, 0],
    ],
    ['is left aside before today', [['2026-12-07', 300]], [0, 150, 150, 150, 150, 0, 0]],
    ['of no minutes holds no day', [['2026-12-09', 0]], [0, 150, 150, 150, 150, 0, 0]],
  ])('%s', (_words, placed, expected) => {
    expect(
      minutes(
        one(
          {},
          placed.map(([on, much]) => ({ day: on, minutes: much })),
        ),
      ),
    ).toEqual(expected);
  });

  test('with every day of its own held, the rest fills the days behind', () => {
    const every = (['2026-12-08', '2026-12-09', '2026-12-10', '2026-12-11'] as const).map((on) => ({ day: on, minutes: 100 }));
    const answer = loaded({ ...one({}, every), to: '2026-12-15' });
    expect(answer.people[0]?.days.map((cell) => cell.load)).toEqual([0, 100, 100, 100, 100, 0, 0, 200, 0]);
  });

  test('no more than their own part of it counts', () => {
    const shared = [{ person: 'a', placed: [{ day: '2026-12-09' as IsoDay, minutes: 450 }] }, { person: 'b' }];
    const answer = loaded({
      ...one({ assignees: shared }, []),
      people: [
        { id: 'a', week: WEEK },
        { id: 'b', week: WEEK },
      ],
    });
    expect(answer.people.map(({ days }) => days.map((cell) => cell.load))).toEqual([
      [0, 0, 300, 0, 0, 0, 0],
      [0, 75, 75, 75, 75, 0, 0],
    ]);
  });

  test.each<[string, object, string]>([
    ['a day that is none', { day: '2026-02-30', minutes: 10 }, 'tasks[t].assignees.placed.day'],
    ['less than nothing', { day: '2026-12-09', minutes: -1 }, 'tasks[t].assignees.placed.minutes'],
    ['no list', 7 as unknown as object, 'tasks[t].assignees.placed'],
  ])('%s is named with its place', (_words, wrong, at) => {
    const placed = typeof wrong === 'number' ? wrong : [wrong];
    expect(load(one({ assignees: [{ person: 'a', placed }] } as object, []))).toMatchObject({ ok: false, problem: { at } });
  });

  test('one person’s days name what lies on them, and add up to the same load', () => {
    const seen = { placed: 0, spread: 0 };
    fc.assert(
      fc.property(week, (input) => {
        for (const person of ['a', 'b', 'c']) {
          const own = ownDays(input, person);
          if (!own.ok) throw new Error(JSON.stringify(own.problem));
          expect(own.value.map(({ parts: _parts, ...cell }) => cell)).toEqual(loaded(input).people.find(({ id }) => id === person)?.days);
          for (const { load: sum, parts } of own.value) {
            expect(parts.reduce((total, part) => total + part.minutes, 0)).toBe(sum);
            for (const part of parts) seen[part.isPlaced ? 'placed' : 'spread']++;
          }
        }
      }),
      { numRuns: 30 },
    );
    expect(seen.placed > 0 && seen.spread > 0).toBe(true);
    expect(ownDays(one({}, []), 'nobody')).toMatchObject({ ok: false, problem: { kind: 'unknown-id', at: 'person' } });
  });
});

describe('unusable input', () => {
  test.each<[string, object, string, string]>([
    [
      'an unknown person',
      { tasks: [{ id: 't', assignees: [{ person: 'x' }], start: '2026-12-21', due: '2026-12-22' }] },
      'unknown-id',
      'tasks[t].assignees',
    ],
    ['due before start', { tasks: [{ id: 't', assignees: [], start: '2026-12-22', due: '2026-12-21' }] }, 'invalid-field', 'tasks[t].due'],
    ['a reserve above 100', { people: [{ id: 'a', week: WEEK, reserve: 120 }], tasks: [] }, 'invalid-field', 'people[a].reserve'],
    ['a window that ends before it begins', { to: '2026-12-01' }, 'invalid-field', 'to'],
  ])('%s is named with its place', (_name, more, kind, at) => {
    expect(load({ ...decemberLoad, ...more })).toMatchObject({ ok: false, problem: { kind, at } });
  });
});

test('a task alone lies on its days as its minutes split by their capacity', () => {
  const capacities = fc
    .array(fc.constantFrom(0, 225, 450), { minLength: 1, maxLength: 5 })
    .filter((days) => days.some((minutes) => minutes > 0));
  const seen = { even: 0, uneven: 0 };
  fc.assert(
    fc.property(capacities, fc.nat(3000), (days, estimate) => {
      seen[new Set(days.filter((minutes) => minutes > 0)).size === 1 ? 'even' : 'uneven']++;
      const personWeek = Array.from({ length: 7 }, (_, weekday) => days[weekday] ?? 0);
      const last = `2026-12-${String(6 + days.length).padStart(2, '0')}` as IsoDay;
      const answer = loaded({
        ...{ calendar: { week: WEEK, closed: [] }, today: '2026-12-07', from: '2026-12-07', to: last, defaultMinutes: 60 },
        people: [{ id: 'a', week: personWeek }],
        tasks: [{ id: 't', estimate, start: '2026-12-07', due: last, assignees: [{ person: 'a' }] }],
      });
      expect(answer.people[0]?.days.map((one) => one.load)).toEqual([...splitByLargestRemainder(estimate, days)]);
    }),
  );
  expect(seen.even > 0 && seen.uneven > 0).toBe(true);
});
