import fc from 'fast-check';
import {
  earliestStart,
  load,
  schedule,
  type EarliestStart,
  type EarliestStartInput,
  type IsoDay,
  type CalendarInput,
} from '../src/index.ts';

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const calendar: CalendarInput = { week: WEEK, closed: ['2026-12-25'] };

/** Ines is full until Friday 11 December; the new work is two days of drawing, then one of printing by Rafe. */
const base: EarliestStartInput = {
  load: {
    ...{ calendar, today: '2026-12-07', defaultMinutes: 60 },
    people: [
      { id: 'ines', week: WEEK },
      { id: 'rafe', week: WEEK, off: [{ from: '2026-12-16', to: '2026-12-18' }] },
    ],
    tasks: [{ id: 'old', assignees: [{ person: 'ines' }], estimate: 5 * 450, start: '2026-12-07', due: '2026-12-11' }],
  },
  plan: {
    calendar,
    phases: [{ id: 'p' }],
    tasks: [
      { id: 'draw', phase: 'p', days: 2 },
      { id: 'print', phase: 'p', days: 1, after: [{ task: 'draw', type: 'FS' }] },
    ],
  },
  work: [
    { task: 'draw', person: 'ines', minutes: 900 },
    { task: 'print', person: 'rafe', minutes: 300 },
  ],
  from: '2026-12-07',
};

function found(input: EarliestStartInput): EarliestStart {
  const result = earliestStart(input);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}

test('it starts when everybody has room, and says when it would be finished', () => {
  // From the 14th Ines is free; until the 18th Rafe is away, and would print later than planned.
  expect(found(base)).toEqual({
    ...{ start: '2026-12-17', finish: '2026-12-21', fits: true, tried: 8 },
    ...{ teams: [], over: [], alone: [] },
  });
});

test('with room at once it starts at once', () => {
  expect(found({ ...base, load: { ...base.load, tasks: [] } })).toMatchObject({ start: '2026-12-07', tried: 0 });
});

test('somebody who is over already does not stand in the way of work that is not theirs', () => {
  const late = { id: 'late', assignees: [{ person: 'rafe' }], estimate: 4500, start: '2026-11-02', due: '2026-11-06' } as const;
  const work = [{ task: 'draw', person: 'ines', minutes: 900 }];
  expect(found({ ...base, work, load: { ...base.load, tasks: [late] } }).start).toBe('2026-12-07');
});

test('what is too much by itself is told apart: it starts where nothing else makes it worse', () => {
  const work = [{ task: 'draw', person: 'ines', minutes: 2000 }];
  expect(found({ ...base, work })).toMatchObject({ start: '2026-12-14', alone: [{ person: 'ines', minutes: 1100 }] });
});

test('where nothing fits, the start that adds least is told, with whom it puts over', () => {
  const busy = (id: string, estimate: number, start: IsoDay, due: IsoDay) => ({
    id,
    assignees: [{ person: 'ines' }],
    estimate,
    start,
    due,
  });
  const tasks = [
    busy('first', 4 * 450, '2026-12-07', '2026-12-10'),
    busy('second', 2 * 350, '2026-12-11', '2026-12-14'),
    busy('third', 60_000, '2026-12-15', '2027-06-30'),
  ];
  const work = [{ task: 'draw', person: 'ines', minutes: 900 }];
  const least = found({ ...base, work, load: { ...base.load, tasks }, tries: 20 });
  expect(least).toMatchObject({ start: '2026-12-11', fits: false, over: [{ person: 'ines', minutes: 700 }] });
});

describe('work of a role', () => {
  const noor = { id: 'noor', week: WEEK };
  const team = { id: 'designer', holders: ['ines', 'noor'], work: [{ task: 'draw', minutes: 900 }] };
  const withTeam = (more: object = {}): EarliestStartInput => ({
    ...base,
    load: { ...base.load, people: [...base.load.people, noor] },
    ...{ work: [], teams: [team] },
    ...more,
  });

  test('goes to whoever of the role has room on that day, also to somebody who had none on the day asked for', () => {
    expect(found(withTeam())).toMatchObject({ start: '2026-12-07', teams: [{ id: 'designer', person: 'noor' }] });
    const away = { ...noor, off: [{ from: '2026-12-07', to: '2027-01-31' }] } as const;
    const load = { ...base.load, people: [...base.load.people, away] };
    expect(found(withTeam({ load }))).toMatchObject({ start: '2026-12-14', teams: [{ id: 'designer', person: 'ines' }] });
  });

  test('counts what one of them has from another role of the same work', () => {
    const both = [
      { ...team, holders: ['noor'] },
      { id: 'printer', holders: ['noor', 'rafe'], work: [{ task: 'draw', minutes: 300 }] },
    ];
    expect(found(withTeam({ teams: both })).teams).toEqual([
      { id: 'designer', person: 'noor' },
      { id: 'printer', person: 'rafe' },
    ]);
  });

  test('that nobody holds is nobody’s', () => {
    expect(found(withTeam({ teams: [{ ...team, holders: [] }] }))).toMatchObject({ start: '2026-12-07', teams: [] });
  });
});

test('a start on a closed day is the next open one', () => {
  expect(found({ ...base, from: '2026-12-25' }).start).toBe('2026-12-28');
});

test('the start it finds overloads nobody, and every earlier one does, by the plain way', () => {
  const work = fc.record({
    minutes: fc.integer({ min: 200, max: 440 }),
    busy: fc.array(fc.nat(9), { minLength: 2, maxLength: 14 }),
    days: fc.integer({ min: 1, max: 4 }),
  });
  let later = 0;
  fc.assert(
    fc.property(work, ({ minutes, busy, days }) => {
      const dayAt = (offset: number): IsoDay => new Date(Date.UTC(2026, 11, 7 + offset)).toISOString().slice(0, 10) as IsoDay;
      const tasks = busy.map((offset, index) => ({
        ...{ id: `b${index}`, assignees: [{ person: 'ines' }], estimate: 450, start: dayAt(offset), due: dayAt(offset + 1) },
      }));
      const input: EarliestStartInput = {
        ...base,
        load: { ...base.load, tasks },
        plan: { ...base.plan, tasks: [{ id: 'draw', phase: 'p', days }] },
        work: [{ task: 'draw', person: 'ines', minutes }],
        tries: 40,
      };
      const overWith = (start: IsoDay): number => {
        const plan = schedule({ ...input.plan, start });
        if (!plan.ok) throw new Error('no plan');
        const at = plan.value.tasks[0] as { start: IsoDay; finish: IsoDay };
        const added = { id: 'new', assignees: [{ person: 'ines' }], estimate: minutes, start: at.start, due: at.finish };
        const sum = (all: typeof tasks): number => {
          const loaded = load({ ...input.load, from: '2026-12-07', to: '2027-09-30', tasks: all });
          if (!loaded.ok) throw new Error('no load');
          return loaded.value.people[0]?.days.reduce((total, day) => total + day.over, 0) ?? 0;
        };
        return sum([...tasks, added]) - sum(tasks);
      };
      const answer = found(input);
      const starts = Array.from({ length: answer.fits ? answer.tried : 40 }, (_, index) => index);
      const openDays: IsoDay[] = [];
      for (let offset = 0; openDays.length <= 40; offset++) {
        const day = new Date(Date.UTC(2026, 11, 7 + offset));
        if (day.getUTCDay() % 6 !== 0 && (day.toISOString().slice(0, 10) as IsoDay) !== '2026-12-25')
          openDays.push(day.toISOString().slice(0, 10) as IsoDay);
      }
      if (answer.fits) expect(overWith(answer.start)).toBeLessThan(30);
      for (const index of starts.slice(-6)) expect(overWith(openDays[index] as IsoDay)).toBeGreaterThanOrEqual(30);
      if (answer.fits && answer.tried > 0) later++;
    }),
    { numRuns: 60 },
  );
  expect(later).toBeGreaterThan(5);
});

test.each([
  [{ tries: 0 }, 'tries'],
  [{ work: [{ task: 'dance', person: 'ines', minutes: 5 }] }, 'work.task'],
  [{ work: [{ task: 'draw', person: 'ghost', minutes: 5 }] }, 'work.person'],
  [{ from: 'soon' }, 'from'],
  [{ teams: [{ id: 'x', holders: ['ghost'], work: [{ task: 'draw', minutes: 5 }] }] }, 'work.person'],
])('%j is refused at its place', (wrong, at) => {
  expect(earliestStart({ ...base, ...wrong } as EarliestStartInput)).toMatchObject({ ok: false, problem: { at } });
});
