import fc from 'fast-check';
import {
  ancestorsOf,
  descendantsOf,
  leavesUnder,
  topsAmong,
  followersOf,
  treeOf,
  schedule,
  type Schedule,
  type ScheduleInput,
  type TaskInput,
  type IsoDay,
  type CalendarInput,
} from '../src/index.ts';

const CALENDAR: CalendarInput = { week: [450, 450, 450, 450, 450, 0, 0], closed: ['2026-12-25'] };
const plan = (tasks: readonly TaskInput[], more: Partial<ScheduleInput> = {}): ScheduleInput => ({
  calendar: CALENDAR,
  start: '2026-12-14',
  phases: [{ id: 'p' }, { id: 'q', after: { phase: 'p', edge: 'finish', lag: 0 } }],
  tasks,
  ...more,
});
function solved(input: ScheduleInput): Schedule {
  const result = schedule(input);
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}
const dates = (input: ScheduleInput) => Object.fromEntries(solved(input).tasks.map((task) => [task.id, [task.start, task.finish]]));
const FS = (task: string, lag = 0) => ({ task, type: 'FS' as const, lag });

const panels: readonly TaskInput[] = [
  { id: 'visit', phase: 'p', days: 2 },
  { id: 'panels', phase: 'p', days: 9, after: [FS('visit')] },
  { id: 'copy', phase: 'p', parent: 'panels', days: 3 },
  { id: 'layout', phase: 'p', parent: 'panels', days: 2, after: [FS('copy')] },
  { id: 'facts', phase: 'p', parent: 'panels', days: 1 },
  { id: 'print', phase: 'p', days: 1, after: [FS('panels', 1)] },
];

test('a task with subtasks spans them, holds them all back together and is waited for as a whole', () => {
  expect(dates(plan(panels))).toEqual({
    visit: ['2026-12-14', '2026-12-15'],
    panels: ['2026-12-16', '2026-12-22'],
    copy: ['2026-12-16', '2026-12-18'],
    layout: ['2026-12-21', '2026-12-22'],
    facts: ['2026-12-16', '2026-12-16'],
    print: ['2026-12-24', '2026-12-24'],
  });
});

test('its own length counts for nothing, its slack is the least of its open parts', () => {
  const found = solved(plan(panels, { promise: '2026-12-28' }));
  const slackOf = (id: string) => found.tasks.find((task) => task.id === id)?.slack;
  expect(slackOf('panels')).toBe(Math.min(slackOf('copy') as number, slackOf('layout') as number, slackOf('facts') as number));
  expect(slackOf('facts')).toBe((slackOf('copy') as number) + 4);
});

test('start dependencies reach the joint before the parts, finish dependencies the one behind them', () => {
  const found = dates(
    plan([
      ...panels,
      { id: 'photos', phase: 'p', days: 2, after: [{ task: 'panels', type: 'SS', lag: 1 }] },
      { id: 'proof', phase: 'p', days: 1, after: [{ task: 'panels', type: 'FF', lag: 2 }] },
    ]),
  );
  expect(found['photos']).toEqual(['2026-12-17', '2026-12-18']);
  expect(found['proof']).toEqual(['2026-12-24', '2026-12-24']);
});

test('parts of parts go as deep as they like', () => {
  const deep = Array.from({ length: 30 }, (_, depth): TaskInput => ({
    id: `d${depth}`,
    phase: 'p',
    days: 1,
    ...(depth === 0 ? { after: [FS('first')] } : { parent: `d${depth - 1}` }),
  }));
  const found = dates(plan([{ id: 'first', phase: 'p', days: 1 }, ...deep, { id: 'last', phase: 'p', days: 1, after: [FS('d0')] }]));
  expect(found['d0']).toEqual(found['d29']);
  expect(found['last']).toEqual(['2026-12-16', '2026-12-16']);
});

describe('while it runs', () => {
  const running = (parts: readonly Partial<TaskInput>[]) =>
    plan(
      panels.map((task) => ({ ...task, ...(parts.find((part) => part.id === task.id) ?? {}) })),
      { today: '2026-12-21' },
    );

  test('once a part has begun the others are not held back by what the group waited for', () => {
    const found = dates(
      running([
        { id: 'visit', days: 20 },
        { id: 'facts', actual: { start: '2026-12-17', finish: '2026-12-17' } },
      ]),
    );
    expect(found['copy']).toEqual(['2026-12-21', '2026-12-23']);
    expect(found['panels']?.[0]).toBe('2026-12-17');
  });

  test('when all parts are over, what follows counts from the last of them', () => {
    const over = (id: string, finish: IsoDay) => ({ id, actual: { start: finish, finish } });
    const input = running([
      over('visit', '2026-12-14'),
      over('copy', '2026-12-22'),
      over('layout', '2026-12-24'),
      over('facts', '2026-12-18'),
    ]);
    expect(dates(input)['panels']).toEqual(['2026-12-18', '2026-12-24']);
    expect(dates(input)['print']).toEqual(['2026-12-29', '2026-12-29']);
    expect(solved(input).tasks[1]).toMatchObject({ slack: 0, critical: false });
  });
});

describe('what cannot be', () => {
  test.each<[string, readonly TaskInput[], object]>([
    ['a parent that is not there', [{ id: 'a', phase: 'p', days: 1, parent: 'x' }], { kind: 'unknown-id', at: 'tasks[a].parent', id: 'x' }],
    [
      'parts of each other',
      [
        { id: 'a', phase: 'p', days: 1, parent: 'b' },
        { id: 'b', phase: 'p', days: 1, parent: 'a' },
      ],
      { kind: 'loop', at: 'tasks', path: ['a', 'b'] },
    ],
    [
      'a part that waits for its own group, named by its task',
      [
        { id: 'g', phase: 'p', days: 1 },
        { id: 'a', phase: 'p', days: 1, parent: 'g', after: [FS('g')] },
      ],
      { kind: 'loop', at: 'tasks' },
    ],
    [
      'a group on a fixed day',
      [
        { id: 'g', phase: 'p', days: 1, fixed: '2026-12-16' },
        { id: 'a', phase: 'p', days: 1, parent: 'g' },
      ],
      { kind: 'invalid-field', at: 'tasks[g].fixed' },
    ],
    [
      'a group that ends before something',
      [
        { id: 'g', phase: 'p', days: 1, anchor: { at: 'before-promise', offset: 2 } },
        { id: 'a', phase: 'p', days: 1, parent: 'g' },
      ],
      { kind: 'invalid-field', at: 'tasks[g].anchor' },
    ],
  ])('%s', (_what, tasks, problem) => {
    expect(schedule(plan(tasks))).toMatchObject({ ok: false, problem });
  });

  test('a loop through groups names tasks of the plan only, each once', () => {
    const result = schedule(
      plan([
        { id: 'g', phase: 'p', days: 1, after: [FS('b')] },
        { id: 'a', phase: 'p', days: 1, parent: 'g' },
        { id: 'b', phase: 'p', days: 1, after: [FS('a')] },
      ]),
    );
    if (result.ok || result.problem.kind !== 'loop') throw new Error('a loop was expected');
    expect([...result.problem.path].sort()).toEqual(['a', 'b', 'g']);
  });
});

/** Random plans: tasks in order, each tied to earlier ones only; some gathered under groups that come last. */
const nested = fc
  .array(fc.record({ days: fc.nat(6), dependency: fc.nat(20), lag: fc.integer({ min: -1, max: 3 }), group: fc.nat(3) }), {
    minLength: 2,
    maxLength: 14,
  })
  .map((specs) => {
    const tasks = specs.map(({ days, dependency, lag }, index): TaskInput => ({
      id: `t${index}`,
      phase: 'p',
      days,
      ...(index > 0 && dependency < index ? { after: [FS(`t${dependency}`, lag)] } : {}),
    }));
    const groups = [1, 2, 3].filter((group) => specs.some((spec) => spec.group === group));
    const inGroups = tasks.map((task, index) => {
      const group = specs[index]?.group ?? 0;
      return group === 0 ? task : { ...task, parent: `g${group}` };
    });
    return { flat: tasks, deep: [...inGroups, ...groups.map((group): TaskInput => ({ id: `g${group}`, phase: 'p', days: 1 }))] };
  });

test('gathering tasks under others that wait for nothing moves none of them', () => {
  const seen = { withGroups: 0 };
  fc.assert(
    fc.property(nested, ({ flat, deep }) => {
      if (deep.length > flat.length) seen.withGroups++;
      const [plain, gathered] = [solved(plan(flat)), solved(plan(deep))];
      expect(gathered.tasks.slice(0, flat.length)).toEqual(plain.tasks);
      expect(gathered.finish).toBe(plain.finish);
    }),
  );
  expect(seen.withGroups).toBeGreaterThan(10);
});

test('every group spans exactly its parts, whatever the order of the list', () => {
  fc.assert(
    fc.property(nested, fc.boolean(), ({ deep }, isReversed) => {
      const found = new Map(solved(plan(isReversed ? [...deep].reverse() : deep)).tasks.map((task) => [task.id, task]));
      const tree = treeOf(deep);
      for (const group of tree.childrenOf.keys()) {
        const parts = descendantsOf(tree, group).map((id) => found.get(id));
        expect(found.get(group)?.start).toBe(parts.map((part) => part?.start).sort()[0]);
        expect(found.get(group)?.finish).toBe(
          parts
            .map((part) => part?.finish)
            .sort()
            .at(-1),
        );
      }
    }),
  );
});

test('what waits for a group begins after all of its parts', () => {
  fc.assert(
    fc.property(nested, ({ deep }) => {
      const groups = [...treeOf(deep).childrenOf.keys()];
      fc.pre(groups.length > 0);
      const input = plan([...deep, { id: 'after', phase: 'p', days: 1, after: groups.map((group) => FS(group)) }]);
      const found = solved(input);
      const after = found.tasks.at(-1) as { start: IsoDay };
      const tree = treeOf(deep);
      for (const id of groups.flatMap((group) => descendantsOf(tree, group))) {
        const task = found.tasks.find((candidate) => candidate.id === id) as { finish: IsoDay };
        const days = deep.find((candidate) => candidate.id === id)?.days ?? 0;
        if (days > 0) expect(task.finish < after.start).toBe(true);
      }
    }),
  );
});

test('a tree knows who is in whom at any depth', () => {
  const tree = treeOf([{ id: 'a' }, { id: 'b', parent: 'a' }, { id: 'c', parent: 'b' }, { id: 'd', parent: 'a' }]);
  expect(descendantsOf(tree, 'a')).toEqual(['b', 'c', 'd']);
  expect(ancestorsOf(tree, 'c')).toEqual(['b', 'a']);
});

test('a part moves what waits for its group, but not the other parts', () => {
  expect([...followersOf(plan(panels), ['facts'])].sort()).toEqual(['facts', 'panels', 'print']);
  expect([...followersOf(plan(panels), ['visit'])].sort()).toEqual(['copy', 'facts', 'layout', 'panels', 'print', 'visit']);
});

describe('not before a day', () => {
  const one = (more: Partial<TaskInput>, input: Partial<ScheduleInput> = {}) =>
    solved(plan([{ id: 'draw', phase: 'p', days: 2, ...more }], input)).tasks[0];

  test.each<[string, Partial<TaskInput>, readonly [string, string]]>([
    ['a task begins on it', { notBefore: '2026-12-17' }, ['2026-12-17', '2026-12-18']],
    ['a closed day means the next open one', { notBefore: '2026-12-25' }, ['2026-12-28', '2026-12-29']],
    ['a day that has passed asks nothing', { notBefore: '2026-11-02' }, ['2026-12-14', '2026-12-15']],
    ['a milestone stands at the end of it', { notBefore: '2026-12-17', days: 0 }, ['2026-12-17', '2026-12-17']],
    ['a fixed day is stronger', { notBefore: '2026-12-17', fixed: '2026-12-15' }, ['2026-12-15', '2026-12-16']],
    [
      'a late anchor gives way to it',
      { notBefore: '2026-12-17', anchor: { at: 'before-promise', offset: 0 } },
      ['2026-12-17', '2026-12-18'],
    ],
  ])('%s', (_rule, more, [start, finish]) => {
    expect(one(more)).toMatchObject({ start, finish });
  });

  test('a group hands it to all of its parts', () => {
    const found = dates(
      plan([
        { id: 'g', phase: 'p', days: 1, notBefore: '2026-12-17' },
        { id: 'a', phase: 'p', days: 1, parent: 'g' },
      ]),
    );
    expect(found['a']).toEqual(['2026-12-17', '2026-12-17']);
  });

  test('a day that does not exist is refused where it stands', () => {
    const result = schedule(plan([{ id: 'draw', phase: 'p', days: 1, notBefore: '2026-02-30' }]));
    expect(result).toMatchObject({ ok: false, problem: { kind: 'invalid-day', at: 'tasks[draw].notBefore' } });
  });
});

test('a tree of a part of a list has what is missing left out, and no circles', () => {
  const tree = treeOf([
    { id: 'a', parent: 'gone' },
    { id: 'b', parent: 'a' },
    { id: 'x', parent: 'y' },
    { id: 'y', parent: 'x' },
  ]);
  expect([...tree.parentOf]).toEqual([['b', 'a']]);
  expect(leavesUnder(tree, ['a', 'b', 'x'])).toEqual(['b', 'x']);
  expect(topsAmong(tree, ['b', 'a', 'y'])).toEqual(['a', 'y']);
});
