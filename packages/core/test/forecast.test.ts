import fc from 'fast-check';
import {
  forecast,
  openForecast,
  readRatios,
  schedule,
  type Forecast,
  type ForecastInput,
  type ForecastTask,
  type Schedule,
  type ScheduleInput,
  type CalendarInput,
  type IsoDay,
} from '../src/index.ts';
import { galleryPlan } from './examples.ts';

function forecasted(input: ForecastInput): Forecast {
  const result = forecast(input);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}
function scheduled(input: ScheduleInput): Schedule {
  const result = schedule(input);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}

const { promise: _none, ...open } = galleryPlan;
const asPlanned = [{ planned: 4, real: 4 }];
const calendar: CalendarInput = { week: [450, 450, 450, 450, 450, 0, 0], closed: [] };
const one = (task: Partial<ForecastTask> = {}): ForecastInput => ({
  calendar,
  start: '2026-12-07',
  phases: [{ id: 'p' }],
  tasks: [{ id: 'draw', phase: 'p', days: 10, ...task }],
});
const from = (...reals: number[]) => reals.map((real) => ({ role: 'designer', planned: 10, real }));

describe('an agency whose work takes what was planned', () => {
  test('finishes on the day of the schedule, whatever the seed', () => {
    const { finish } = scheduled(galleryPlan);
    for (const seed of [0, 1, 77]) {
      const { dates, chance } = forecasted({ ...galleryPlan, record: asPlanned, runs: 200, seed });
      expect(dates).toEqual({ p50: finish, p80: finish, p95: finish });
      expect(chance).toBe(100);
    }
  });

  test('does not wait for what stands beside the plan', () => {
    const { finish } = scheduled(one());
    const call = { id: 'call', phase: 'p', days: 1, fixed: '2027-03-01', isDetached: true } as const;
    const beside = one();
    const { dates, tasks } = forecasted({ ...beside, tasks: [...beside.tasks, call], record: asPlanned, runs: 100 });
    expect(dates.p95).toBe(finish);
    expect(tasks.find((task) => task.id === 'call')?.onChain ?? 0).toBe(0);
  });

  test('places late anchors, milestones, what is under way and nested tasks as the schedule does', () => {
    const tasks: ForecastTask[] = [
      ...galleryPlan.tasks.filter((task) => task.id !== 'objects' && task.id !== 'visit'),
      { id: 'visit', phase: 'research', days: 2, actual: { start: '2026-12-16' }, remaining: 3 },
      { id: 'objects', phase: 'research', days: 0 },
      { id: 'list', phase: 'research', parent: 'objects', days: 4, after: [{ task: 'visit', type: 'SF', lag: 6 }] },
      { id: 'check', phase: 'research', parent: 'objects', days: 2, after: [{ task: 'list', type: 'FF', lag: 1 }] },
      { id: 'notice', phase: 'concept', days: 1, anchor: { at: 'before-phase-end', offset: 2 } },
      { id: 'invite', phase: 'concept', days: 2, anchor: { at: 'before-promise', offset: 1 } },
    ];
    const plan = { ...open, today: '2026-12-18', tasks } as const;
    const { dates } = forecasted({ ...plan, record: asPlanned, runs: 50 });
    expect(dates.p50).toBe(scheduled(plan).finish);
  });

  test('whatever the network: forecast and schedule agree', () => {
    const link = fc.record({ to: fc.nat(8), type: fc.constantFrom('FS', 'SS', 'FF', 'SF' as const), lag: fc.integer({ min: -2, max: 4 }) });
    const task = fc.record({
      days: fc.nat(6),
      phase: fc.nat(2),
      dependencies: fc.array(link, { maxLength: 2 }),
      offset: fc.nat(3),
      kind: fc.nat(9),
    });
    let late = 0;
    fc.assert(
      fc.property(fc.array(task, { minLength: 1, maxLength: 9 }), (given) => {
        const tasks = given.map((each, index): ForecastTask => {
          const isLate = each.kind === 0;
          if (isLate) late++;
          return {
            id: `t${index}`,
            phase: `p${each.phase}`,
            days: each.days,
            ...(each.kind === 1 ? { fixed: '2026-12-21' as const } : {}),
            ...(each.kind === 2 ? { notBefore: '2026-12-17' as const } : {}),
            anchor: { at: isLate ? 'before-phase-end' : 'phase-start', offset: each.offset },
            after: each.dependencies
              .filter((dependency) => dependency.to < index && (given[dependency.to]?.phase ?? 0) <= each.phase)
              .map((dependency) => ({ task: `t${dependency.to}`, type: dependency.type, lag: dependency.lag })),
          };
        });
        const phases = [0, 1, 2].map((phase) => ({
          id: `p${phase}`,
          ...(phase === 0 ? {} : { after: { phase: `p${phase - 1}`, edge: 'finish' as const, lag: 0 } }),
        }));
        const plan = { calendar, start: '2026-12-07', phases, tasks } as const;
        expect(forecasted({ ...plan, record: asPlanned, runs: 2 }).dates.p95).toBe(scheduled(plan).finish);
      }),
    );
    expect(late).toBeGreaterThan(10);
  });
});

describe('the record decides', () => {
  test('half of the runs of one task take what half of the record took', () => {
    const record = from(...new Array<number>(8).fill(10), ...new Array<number>(8).fill(15));
    const { dates, chance, spread } = forecasted({ ...one({ role: 'designer' }), promise: '2026-12-18', record });
    expect(dates).toEqual({ p50: '2026-12-18', p80: '2026-12-25', p95: '2026-12-25' });
    expect(chance).toBeGreaterThan(47);
    expect(chance).toBeLessThan(53);
    expect(spread).toHaveLength(6);
    expect(spread.reduce((sum, day) => sum + day.runs, 0)).toBe(10_000);
  });

  test('a role with eight finished tasks speaks for itself, one with seven is counted with all others', () => {
    const slow = { role: 'slow', planned: 2, real: 6 };
    const quick = { role: 'quick', planned: 2, real: 2 };
    const eight = readRatios([...new Array<typeof slow>(8).fill(slow), ...new Array<typeof quick>(20).fill(quick)]);
    expect(eight.sourceOf('slow')).toEqual({ from: 'role', n: 8 });
    expect(Math.min(...eight.ofRole('slow'))).toBe(3);
    const seven = readRatios([...new Array<typeof slow>(7).fill(slow), ...new Array<typeof quick>(20).fill(quick)]);
    expect(seven.sourceOf('slow')).toEqual({ from: 'agency', n: 27 });
    expect(new Set(seven.ofRole('slow'))).toEqual(new Set([1, 3]));
  });

  test('with no record it assumes middle 1.0 and an 80th percentile of 1.4', () => {
    const ratios = readRatios([]).ofRole('anybody');
    const at = (share: number): number => ratios[Math.floor(share * ratios.length)] as number;
    expect(at(0.5)).toBeCloseTo(1, 2);
    expect(at(0.8)).toBeCloseTo(1.4, 2);
    expect(readRatios([{ planned: 0, real: 3 }]).sourceOf(null)).toEqual({ from: 'assumed', n: 0 });
    const { dates } = forecasted({ ...one({ days: 100 }), runs: 2000 });
    expect(dates.p50 < dates.p80 && dates.p80 < dates.p95).toBe(true);
  });

  test('what is done keeps its days, what is under way takes a share of what is left', () => {
    const record = from(...new Array<number>(8).fill(20));
    const over = one({ role: 'designer', actual: { start: '2026-12-07', finish: '2026-12-08' } });
    expect(forecasted({ ...over, today: '2026-12-09', record, runs: 10 })).toMatchObject({ dates: { p95: '2026-12-08' }, tasks: [] });
    const begun = one({ role: 'designer', actual: { start: '2026-12-07' }, remaining: 2 });
    expect(forecasted({ ...begun, today: '2026-12-14', record, runs: 10 }).dates.p50).toBe('2026-12-17');
  });
});

describe('what drives it', () => {
  test('a task that is always longer is always on the longest chain, what lies beside never', () => {
    const tasks: ForecastTask[] = [
      { id: 'long', phase: 'p', days: 20 },
      { id: 'short', phase: 'p', days: 2 },
      {
        id: 'last',
        phase: 'p',
        days: 1,
        after: [
          { task: 'long', type: 'FS' },
          { task: 'short', type: 'FS' },
        ],
      },
    ];
    const record = [
      { planned: 10, real: 9 },
      { planned: 10, real: 12 },
    ];
    const answer = forecasted({ calendar, start: '2026-12-07', phases: [{ id: 'p' }], tasks, record, runs: 500 });
    expect(answer.tasks).toEqual([
      { id: 'long', onChain: 100 },
      { id: 'short', onChain: 0 },
      { id: 'last', onChain: 100 },
    ]);
  });

  test('two equal roads share it, also through a phase that follows another', () => {
    const tasks: ForecastTask[] = [
      { id: 'left', phase: 'a', days: 10 },
      { id: 'right', phase: 'a', days: 10 },
      { id: 'build', phase: 'b', days: 5 },
    ];
    const phases = [{ id: 'a' }, { id: 'b', after: { phase: 'a', edge: 'finish' as const, lag: 1 } }];
    const { tasks: often } = forecasted({ calendar, start: '2026-12-07', phases, tasks });
    const of = (id: string): number => often.find((task) => task.id === id)?.onChain ?? 0;
    expect(of('build')).toBe(100);
    expect(of('left')).toBeGreaterThan(45);
    expect(of('right')).toBeGreaterThan(45);
    expect(of('left') + of('right')).toBeLessThanOrEqual(101);
  });

  test('a fixed day cuts the chain: what comes before it does not drive the finish', () => {
    const tasks: ForecastTask[] = [
      { id: 'before', phase: 'p', days: 3 },
      { id: 'opening', phase: 'p', days: 1, fixed: '2027-02-01', after: [{ task: 'before', type: 'FS' }] },
    ];
    const { tasks: often } = forecasted({ calendar, start: '2026-12-07', phases: [{ id: 'p' }], tasks, runs: 100 });
    expect(often).toEqual([
      { id: 'before', onChain: 0 },
      { id: 'opening', onChain: 100 },
    ]);
  });
});

describe('people who are away', () => {
  const week = [450, 450, 450, 450, 450, 0, 0];
  const leave = { from: '2026-12-14', to: '2026-12-27' } as const;
  const emeka = { id: 'emeka', week, off: [leave] };
  const finishOf = (input: ForecastInput): string => forecasted({ ...input, record: asPlanned, runs: 5 }).dates.p95;

  test('work waits for its person: two weeks of leave on the longest chain are two weeks', () => {
    expect(finishOf({ ...one({ who: ['emeka'] }), people: [emeka] })).toBe('2027-01-01');
    expect(finishOf({ ...one({ who: ['emeka'] }), people: [{ id: 'emeka', week }] })).toBe('2026-12-18');
    expect(finishOf({ ...one(), people: [emeka] })).toBe('2026-12-18');
  });

  test('only days on which all of them are wholly away stand still', () => {
    const tavi = { id: 'tavi', week, off: [{ from: '2026-12-16', to: '2026-12-17' }] } as const;
    expect(finishOf({ ...one({ who: ['emeka', 'tavi'] }), people: [emeka, tavi] })).toBe('2026-12-22');
    const half = { id: 'emeka', week, off: [{ from: '2026-12-14', to: '2026-12-15', minutes: 225 }] } as const;
    expect(finishOf({ ...one({ who: ['emeka'] }), people: [half] })).toBe('2026-12-18');
    const twice = { ...half, off: [...half.off, { from: '2026-12-15', to: '2026-12-15', minutes: 225 }] } as const;
    expect(finishOf({ ...one({ who: ['emeka'] }), people: [twice] })).toBe('2026-12-21');
    const threeDays = { id: 'emeka', week: [450, 450, 450, 0, 0, 0, 0], off: [] };
    expect(finishOf({ ...one({ who: ['emeka'] }), people: [threeDays] })).toBe('2026-12-18');
  });

  test('a fixed day and a start that was are kept, and the rest waits', () => {
    expect(finishOf({ ...one({ who: ['emeka'], days: 2, fixed: '2026-12-14' }), people: [emeka] })).toBe('2026-12-29');
    const begun = one({ who: ['emeka'], actual: { start: '2026-12-07' }, remaining: 6 });
    expect(finishOf({ ...begun, today: '2026-12-10', people: [emeka] })).toBe('2026-12-31');
  });

  test('what has to end with other work ends with it, however long its person was away before', () => {
    const tasks: ForecastTask[] = [
      { id: 'build', phase: 'p', days: 18 },
      { id: 'film', phase: 'p', days: 5, who: ['emeka'], after: [{ task: 'build', type: 'FF' }] },
    ];
    expect(finishOf({ ...one(), tasks, people: [emeka] })).toBe('2026-12-30');
  });

  test('whatever one person does: away is as if the studio were closed', () => {
    const task = fc.record({ days: fc.nat(5), phase: fc.nat(1), after: fc.option(fc.nat(5)), type: fc.constantFrom('FS', 'SS' as const) });
    const day = fc.integer({ min: 1, max: 28 });
    let later = 0;
    fc.assert(
      fc.property(fc.array(task, { minLength: 1, maxLength: 7 }), day, fc.nat(9), (given, from, length) => {
        // A milestone before all work stands on the first open day, and that day itself moves when the studio is closed.
        fc.pre(from > 1 || given.every(({ days }) => days > 0));
        const dayOf = (date: number) => `2026-12-${String(Math.min(31, date)).padStart(2, '0')}` as IsoDay;
        const closed = Array.from({ length: length + 1 }, (_, index) => dayOf(from + index));
        const tasks = given.map((each, index): ForecastTask => ({
          ...{ id: `t${index}`, phase: `p${each.phase}`, days: each.days },
          after:
            each.after === null || each.after >= index || (given[each.after]?.phase ?? 0) > each.phase
              ? []
              : [{ task: `t${each.after}`, type: each.type }],
        }));
        const phases = [{ id: 'p0' }, { id: 'p1', after: { phase: 'p0', edge: 'finish' as const, lag: 0 } }];
        const plan: ForecastInput = { calendar, start: '2026-12-01', phases, tasks };
        const away = { id: 'emeka', week, off: [{ from: dayOf(from), to: dayOf(from + length) }] };
        const waiting = finishOf({ ...plan, tasks: tasks.map((each) => ({ ...each, who: ['emeka'] })), people: [away] });
        expect(waiting).toBe(finishOf({ ...plan, calendar: { ...calendar, closed } }));
        if (waiting > finishOf(plan)) later++;
      }),
    );
    expect(later).toBeGreaterThan(10);
  });
});

describe('runs', () => {
  test('the same seed gives the same, another seed nearly the same', () => {
    const plan = { ...galleryPlan, runs: 4000 };
    expect(forecasted({ ...plan, seed: 5 })).toEqual(forecasted({ ...plan, seed: 5 }));
    const [first, second] = [forecasted({ ...plan, seed: 5 }), forecasted({ ...plan, seed: 6 })];
    expect(first.spread).not.toEqual(second.spread);
    expect(Math.abs((first.chance ?? 0) - (second.chance ?? 0))).toBeLessThan(5);
  });

  test('simulated in parts, elsewhere, in another order: the same answer', () => {
    const plan = { ...galleryPlan, runs: 2300, seed: 9 };
    const [here, there] = [openForecast(plan), openForecast(plan)];
    expect(here.chunks).toBe(5);
    for (const chunk of [3, 1, 4, 0, 2]) here.add(there.chunkOf(chunk));
    expect(here.answer()).toEqual(forecasted(plan));
  });

  test('the order of the record and of the tasks changes no date', () => {
    const record = from(4, 9, 10, 11, 12, 14, 18, 30);
    const plan = { ...one({ role: 'designer' }), record, runs: 1000 };
    expect(forecasted({ ...plan, record: [...record].reverse() })).toEqual(forecasted(plan));
  });
});

test.each([
  [{ runs: 0 }, 'runs'],
  [{ runs: 2_000_000 }, 'runs'],
  [{ seed: -1 }, 'seed'],
  [{ record: [{ planned: 1 }] }, 'record[0].real'],
  [{ record: [{ planned: 1, real: 1, role: 3 }] }, 'record[0].role'],
  [{ start: 'soon' }, 'start'],
  [{ tasks: [{ id: 'draw', phase: 'p', days: 1, who: ['nobody'] }] }, 'tasks[draw].who'],
  [{ people: [{ id: 'a', week: [1] }] }, 'people[a].week'],
])('%j is refused at its place', (wrong, at) => {
  expect(forecast({ ...one(), ...wrong } as ForecastInput)).toMatchObject({ ok: false, problem: { at } });
});
