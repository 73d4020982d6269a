import fc from 'fast-check';
import {
  compileCalendar,
  isOpen,
  parseDay,
  schedule,
  scheduleBack,
  type Schedule,
  type ScheduleInput,
  type TaskInput,
  type IsoDay,
} from '../src/index.ts';
import { galleryDates, galleryPlan } from './examples.ts';
import { plainSchedule } from './plain-schedule.ts';

function solved(input: ScheduleInput): Schedule {
  const result = schedule(input);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const plain = (more: Partial<ScheduleInput>): ScheduleInput => ({
  calendar: { week: WEEK, closed: [] },
  start: '2026-12-14',
  phases: [{ id: 'p' }],
  tasks: [],
  ...more,
});

describe('the written example', () => {
  const plan = solved(galleryPlan);

  test.each(galleryDates)('%s runs %s to %s with slack %i', (id, start, finish, slack) => {
    const task = plan.tasks.find((candidate) => candidate.id === id);
    expect(task).toEqual({ id, start, finish, slack, critical: slack <= 0 });
  });

  test('phases span their tasks and nothing conflicts', () => {
    expect(plan.phases).toEqual([
      { id: 'kickoff', start: '2026-12-14', finish: '2026-12-15' },
      { id: 'research', start: '2026-12-16', finish: '2026-12-24' },
      { id: 'concept', start: '2026-12-30', finish: '2027-01-11' },
    ]);
    expect(plan.conflicts).toEqual([]);
    expect(plan.finish).toBe('2027-01-11');
  });
});

describe('what stands beside the plan', () => {
  const call = { id: 'call', phase: 'p', days: 1, fixed: '2027-02-01', isDetached: true } as const;
  const draw = { id: 'draw', phase: 'p', days: 5 } as const;
  const check = { id: 'check', phase: 'q', days: 1 } as const;
  const phases = [{ id: 'p' }, { id: 'q', after: { phase: 'p', edge: 'finish', lag: 0 } }] as const;

  test('neither its phase, nor what follows, nor the finish waits for it', () => {
    const without = solved(plain({ phases, tasks: [draw, check] }));
    const beside = solved(plain({ phases, tasks: [call, draw, check] }));
    expect(beside.tasks.slice(1)).toEqual(without.tasks);
    expect(beside.phases).toEqual(without.phases);
    expect(beside.finish).toBe(without.finish);
    expect(beside.tasks[0]).toMatchObject({ start: '2027-02-01', finish: '2027-02-01', critical: false });
    expect(beside.conflicts).toEqual([]);
  });

  test('a phase that has not begun does not hold it, and a promise plans back without it', () => {
    const early = solved(plain({ phases, tasks: [draw, { ...call, phase: 'q', fixed: '2026-12-15' }, check] }));
    expect(early.tasks[1]).toMatchObject({ start: '2026-12-15', critical: false });
    expect(early.conflicts).toEqual([]);
    const back = scheduleBack(plain({ phases, promise: '2026-12-21', tasks: [call, draw, check] }));
    expect(back).toMatchObject({ ok: true, value: { start: '2026-12-14', finish: '2026-12-21' } });
  });

  test('one that is late misses nothing: its day is its own', () => {
    const late = solved(plain({ phases, today: '2026-12-18', tasks: [draw, check, { ...call, fixed: '2026-12-15' }] }));
    expect(late.tasks[2]).toMatchObject({ start: '2026-12-15', finish: '2026-12-15' });
    expect(late.conflicts).toEqual([]);
  });

  test('with subtasks it is still beside the plan', () => {
    const parts: TaskInput[] = [
      { id: 'report', phase: 'p', days: 0, notBefore: '2027-02-01', isDetached: true },
      { id: 'gather', phase: 'p', parent: 'report', days: 1, isDetached: true },
    ];
    const plan = solved(plain({ phases, tasks: [draw, check, ...parts] }));
    expect(plan.finish).toBe('2026-12-21');
    expect(plan.tasks[3]).toMatchObject({ start: '2027-02-01', critical: false });
  });
});

describe('fixed days', () => {
  test('a fixed day that is too early stays and says by how many working days the plan misses it', () => {
    const plan = solved(
      plain({
        tasks: [
          { id: 'draw', phase: 'p', days: 5 },
          { id: 'meet', phase: 'p', days: 1, fixed: '2026-12-16', after: [{ task: 'draw', type: 'FS' }] },
        ],
      }),
    );
    expect(plan.tasks[1]).toMatchObject({ start: '2026-12-16', finish: '2026-12-16', slack: 0 });
    expect(plan.tasks[0]?.slack).toBe(-3);
    expect(plan.conflicts).toEqual([{ task: 'meet', days: 3 }]);
  });

  test('what follows a fixed day before the start counts from that day', () => {
    const plan = solved(
      plain({
        tasks: [
          { id: 'early', phase: 'p', days: 1, fixed: '2026-12-09' },
          { id: 'next', phase: 'p', days: 1, after: [{ task: 'early', type: 'FS', lag: 5 }] },
        ],
      }),
    );
    expect(plan.tasks.map((task) => task.start)).toEqual(['2026-12-09', '2026-12-17']);
  });

  test('a fixed milestone is shown on its day', () => {
    const plan = solved(plain({ tasks: [{ id: 'opening', phase: 'p', days: 0, fixed: '2026-12-18' }] }));
    expect(plan.tasks[0]).toMatchObject({ start: '2026-12-18', finish: '2026-12-18' });
  });
});

describe('late anchors', () => {
  const tasks: TaskInput[] = [
    { id: 'build', phase: 'p', days: 10 },
    { id: 'pack', phase: 'p', days: 2, anchor: { at: 'before-phase-end', offset: 1 } },
    { id: 'invite', phase: 'p', days: 1, anchor: { at: 'before-promise', offset: 5 } },
  ];

  test('end the given number of days before the phase end and before the promise', () => {
    const plan = solved(plain({ tasks, promise: '2027-01-15' }));
    expect(plan.tasks[1]).toMatchObject({ start: '2026-12-23', finish: '2026-12-24' });
    expect(plan.tasks[2]).toMatchObject({ start: '2027-01-08', finish: '2027-01-08' });
  });

  test('without a promise count back from the end of everything else', () => {
    expect(solved(plain({ tasks })).tasks[2]).toMatchObject({ start: '2026-12-18' });
  });

  test('move later and report a conflict when their predecessors force them', () => {
    const forced = solved(
      plain({ tasks: [tasks[0] as TaskInput, { ...(tasks[1] as TaskInput), after: [{ task: 'build', type: 'FS' }] }] }),
    );
    expect(forced.tasks[1]).toMatchObject({ start: '2026-12-28' });
    expect(forced.conflicts).toEqual([{ task: 'pack', days: 3 }]);
  });
});

describe('while it runs', () => {
  test('done work keeps its days, work under way ends no earlier than its remaining days, the rest starts today', () => {
    const plan = solved(
      plain({
        today: '2026-12-21',
        tasks: [
          { id: 'done', phase: 'p', days: 2, actual: { start: '2026-12-12', finish: '2026-12-19' } },
          { id: 'active', phase: 'p', days: 2, actual: { start: '2026-12-16' }, remaining: 3 },
          { id: 'queued', phase: 'p', days: 2 },
          { id: 'later', phase: 'p', days: 1, after: [{ task: 'active', type: 'FS' }] },
        ],
      }),
    );
    expect(plan.tasks.map((task) => [task.start, task.finish])).toEqual([
      ['2026-12-12', '2026-12-19'],
      ['2026-12-16', '2026-12-23'],
      ['2026-12-21', '2026-12-22'],
      ['2026-12-24', '2026-12-24'],
    ]);
  });

  test('a phase that was picked up starts on its real day whatever went before', () => {
    const plan = solved(
      plain({
        today: '2026-12-21',
        phases: [{ id: 'p' }, { id: 'q', after: { phase: 'p', edge: 'finish', lag: 0 }, actual: { start: '2026-12-18' } }],
        tasks: [
          { id: 'long', phase: 'p', days: 20 },
          { id: 'next', phase: 'q', days: 1 },
        ],
      }),
    );
    expect(plan.phases[1]).toEqual({ id: 'q', start: '2026-12-18', finish: '2026-12-21' });
  });

  test('an end dependency still holds back the end of work under way', () => {
    const plan = solved(
      plain({
        today: '2026-12-14',
        tasks: [
          { id: 'build', phase: 'p', days: 6 },
          { id: 'watch', phase: 'p', days: 1, actual: { start: '2026-12-14' }, after: [{ task: 'build', type: 'FF', lag: 1 }] },
        ],
      }),
    );
    expect(plan.tasks[1]).toMatchObject({ start: '2026-12-14', finish: '2026-12-22' });
  });
});

describe('planning back from a promise', () => {
  test('takes the latest start that still keeps it', () => {
    const { start: _start, ...open } = galleryPlan;
    const tasks = galleryPlan.tasks.map(({ fixed: _fixed, ...task }) => task);
    const result = scheduleBack({ ...open, tasks });
    if (!result.ok) throw new Error(result.problem.kind);
    expect(result.value.finish <= '2027-01-15').toBe(true);
    const calendar = { ...galleryPlan, tasks };
    const dayLater = solved({
      ...calendar,
      start: new Date(Date.parse(result.value.start) + 86_400_000).toISOString().slice(0, 10) as IsoDay,
    });
    expect(dayLater.finish > '2027-01-15').toBe(true);
  });

  test('says so when a fixed day lies after the promise', () => {
    const { start: _start, ...open } = plain({ promise: '2026-12-18', tasks: [{ id: 'a', phase: 'p', days: 1, fixed: '2027-02-01' }] });
    expect(scheduleBack(open)).toMatchObject({ ok: false, problem: { kind: 'promise-too-early' } });
  });
});

describe('unusable input', () => {
  const task = { id: 'a', phase: 'p', days: 1 };
  test.each<[string, unknown, string, string]>([
    ['an unknown phase', { tasks: [{ ...task, phase: 'x' }] }, 'unknown-id', 'tasks[a].phase'],
    ['a repeated id', { tasks: [task, task] }, 'duplicate-id', 'tasks'],
    ['a day that does not exist', { start: '2026-02-30' }, 'invalid-day', 'start'],
    ['negative days', { tasks: [{ ...task, days: -1 }] }, 'invalid-field', 'tasks[a].days'],
    ['an unknown predecessor', { tasks: [{ ...task, after: [{ task: 'b', type: 'FS' }] }] }, 'unknown-id', 'tasks[a].after'],
    ['a week without work', { calendar: { week: [0, 0, 0, 0, 0, 0, 0], closed: [] } }, 'no-working-day', 'calendar.week'],
    ['no list of tasks', { tasks: null }, 'invalid-field', 'tasks'],
  ])('%s is named with its place', (_name, more, kind, at) => {
    expect(schedule(plain(more as Partial<ScheduleInput>))).toMatchObject({ ok: false, problem: { kind, at } });
  });

  test('a loop names its tasks in the order they wait', () => {
    const after = (id: string, before: string): TaskInput => ({ id, phase: 'p', days: 1, after: [{ task: before, type: 'FS' }] });
    const result = schedule(
      plain({ tasks: [after('print', 'proof'), after('draft', 'print'), after('proof', 'draft'), after('x', 'print')] }),
    );
    expect(result).toEqual({ ok: false, problem: { kind: 'loop', at: 'tasks', path: ['draft', 'proof', 'print'] } });
  });

  test('a loop through phases names the tasks in it', () => {
    const result = schedule(
      plain({
        phases: [{ id: 'p' }, { id: 'q', after: { phase: 'p', edge: 'finish', lag: 0 } }],
        tasks: [
          { id: 'a', phase: 'p', days: 1, after: [{ task: 'b', type: 'FS' }] },
          { id: 'b', phase: 'q', days: 1 },
        ],
      }),
    );
    expect(result).toMatchObject({ problem: { kind: 'loop', path: ['a', 'b'] } });
  });
});

const linkType = fc.constantFrom('FS' as const, 'SS' as const, 'FF' as const, 'SF' as const);
const anchor = fc.record({
  at: fc.constantFrom('phase-start' as const, 'engagement-start' as const, 'before-phase-end' as const, 'before-promise' as const),
  offset: fc.integer({ min: 0, max: 6 }),
});
const december = fc.integer({ min: 10, max: 31 }).map((day) => `2026-12-${day}` as IsoDay);

/** Engagements of up to three phases in a row and twelve tasks; dependencies only lead forwards, so there is no loop. */
const engagement: fc.Arbitrary<ScheduleInput> = fc
  .record({
    week: fc.constantFrom(WEEK, [450, 450, 450, 450, 0, 0, 0], [0, 0, 300, 0, 0, 300, 0]),
    closed: fc.array(december, { maxLength: 4 }),
    promise: fc.option(fc.constant('2027-02-01' as const), { nil: undefined }),
    lags: fc.array(fc.integer({ min: -1, max: 3 }), { minLength: 2, maxLength: 2 }),
    tasks: fc.array(
      fc.record({
        phase: fc.nat(2),
        days: fc.nat(5),
        anchor: fc.option(anchor, { nil: undefined }),
        fixed: fc.option(december, { nil: undefined, freq: 5 }),
        after: fc.array(fc.record({ back: fc.integer({ min: 1, max: 4 }), type: linkType, lag: fc.integer({ min: -2, max: 3 }) }), {
          maxLength: 2,
        }),
      }),
      { minLength: 1, maxLength: 12 },
    ),
  })
  .map(({ week, closed, promise, lags, tasks }) => {
    const sorted = [...tasks].sort((left, right) => left.phase - right.phase);
    return {
      calendar: { week, closed },
      start: '2026-12-14',
      ...(promise === undefined ? {} : { promise }),
      phases: [0, 1, 2].map((index) => ({
        id: `p${index}`,
        ...(index === 0 ? {} : { after: { phase: `p${index - 1}`, edge: 'finish' as const, lag: lags[index - 1] as number } }),
      })),
      tasks: sorted.map((task, index) => ({
        id: `t${index}`,
        phase: `p${task.phase}`,
        days: task.days,
        ...(task.anchor === undefined ? {} : { anchor: task.anchor }),
        ...(task.fixed === undefined ? {} : { fixed: task.fixed }),
        after: task.after.filter(({ back }) => index - back >= 0).map(({ back, type, lag }) => ({ task: `t${index - back}`, type, lag })),
      })),
    };
  });

describe('laws', () => {
  test('the fast schedule equals the slow plain one', () => {
    const seen = { late: false, fixed: false, conflict: false };
    fc.assert(
      fc.property(engagement, (input) => {
        const fast = solved(input);
        const slow = plainSchedule(input);
        expect(fast.tasks.map(({ id, start, finish }) => ({ id, start, finish }))).toEqual(slow.tasks);
        expect(fast.finish).toBe(slow.finish);
        seen.late ||= input.tasks.some((task) => task.anchor?.at.startsWith('before'));
        seen.fixed ||= input.tasks.some((task) => task.fixed !== undefined);
        seen.conflict ||= fast.conflicts.length > 0;
      }),
      { numRuns: 400 },
    );
    expect(seen).toEqual({ late: true, fixed: true, conflict: true });
  });

  test('nothing starts or finishes on a closed day', () => {
    fc.assert(
      fc.property(engagement, (input) => {
        const calendar = compileCalendar(input.calendar);
        if (!calendar.ok) throw new Error('calendar');
        for (const task of solved(input).tasks) {
          expect(isOpen(calendar.value, parseDay(task.start) as number)).toBe(true);
          expect(isOpen(calendar.value, parseDay(task.finish) as number)).toBe(true);
        }
      }),
    );
  });

  test('the order of tasks, phases and dependencies changes nothing but the order of the answer', () => {
    fc.assert(
      fc.property(engagement, fc.infiniteStream(fc.nat()), (input, numbers) => {
        const shuffled = <T>(list: readonly T[]): T[] =>
          list
            .map((item) => ({ item, key: numbers.next().value as number }))
            .sort((left, right) => left.key - right.key)
            .map(({ item }) => item);
        const byId = (plan: Schedule) => new Map(plan.tasks.map((task) => [task.id, task]));
        const other = solved({
          ...input,
          phases: shuffled(input.phases),
          tasks: shuffled(input.tasks.map((task) => ({ ...task, after: shuffled(task.after ?? []) }))),
        });
        const one = solved(input);
        expect(byId(other)).toEqual(byId(one));
        expect(other.finish).toBe(one.finish);
      }),
    );
  });

  test('a task that slips by its slack keeps the finish; by one day more, something breaks', () => {
    let checked = 0;
    fc.assert(
      fc.property(engagement, fc.nat(11), (input, choice) => {
        const free = { ...input, tasks: input.tasks.map(({ fixed: _fixed, anchor: _anchor, ...task }) => task) };
        const { promise: _promise, ...open } = free;
        const before = solved(open);
        const task = before.tasks[choice % before.tasks.length];
        if (task === undefined || (open.tasks.find(({ id }) => id === task.id)?.days ?? 0) === 0) return;
        const slipped = (days: number): Schedule =>
          solved({ ...open, tasks: open.tasks.map((other) => (other.id === task.id ? { ...other, days: other.days + days } : other)) });
        // Stretching a task by n days moves its end as slipping it does; dependencies from its start are left out.
        if (open.tasks.some((other) => other.after?.some((link) => link.task === task.id && link.type[0] === 'S'))) return;
        if (open.tasks.find(({ id }) => id === task.id)?.after?.some((link) => link.type[1] === 'F')) return;
        checked++;
        expect(slipped(task.slack).finish).toBe(before.finish);
        expect(slipped(task.slack + 1).finish > before.finish).toBe(true);
      }),
      { numRuns: 300 },
    );
    expect(checked).toBeGreaterThan(20);
  });

  test('every reported loop is a loop', () => {
    let loops = 0;
    fc.assert(
      fc.property(fc.array(fc.array(fc.nat(6), { maxLength: 3 }), { minLength: 2, maxLength: 7 }), (links) => {
        const tasks = links.map((after, index) => ({
          id: `t${index}`,
          phase: 'p',
          days: 1,
          after: after.filter((to) => to < links.length).map((to) => ({ task: `t${to}`, type: 'FS' as const })),
        }));
        const result = schedule(plain({ tasks }));
        if (result.ok) return;
        loops++;
        const path = result.problem.kind === 'loop' ? result.problem.path : [];
        expect(path.length).toBeGreaterThan(0);
        path.forEach((id, index) => {
          const next = tasks.find((task) => task.id === path[(index + 1) % path.length]);
          expect(next?.after.map((link) => link.task)).toContain(id);
        });
      }),
    );
    expect(loops).toBeGreaterThan(5);
  });
});
