import fc from 'fast-check';
import {
  addWorkingDays,
  compileCalendar,
  formatDay,
  parseDay,
  schedule,
  templateFromPlan,
  toSchedulePlan,
  type DependencyType,
  type IsoDay,
  type PlannedEngagement,
  type PlannedTask,
} from '../src/index.ts';

const task = (id: string, more: Partial<PlannedTask> = {}): PlannedTask => ({
  ...{ id, phaseId: 'p', parentId: null, title: id, description: '', kind: 'work', roleId: 'r', estimateMinutes: 60, days: 2 },
  ...{ anchor: { at: 'phase-start', offset: 0 }, after: [], steps: [], priority: 'normal', labels: [], deliverable: null, pageLinks: [] },
  ...{
    files: [],
    customFields: [],
    outside: null,
    isShownToClient: false,
    isChargeable: true,
    fixedDay: null,
    notBefore: null,
    start: '2026-12-14',
  },
  ...{ realStart: null, doneOn: null, loggedMinutes: 0, isDropped: false, roleOfAssignee: null, helperRoleIds: [] },
  ...more,
});
const CUSTOM_FIELDS = [
  { id: 'size', name: 'Size', kind: 'choice' as const },
  { id: 'proof', name: 'Proof by', kind: 'date' as const },
  { id: 'folder', name: 'Folder', kind: 'link' as const },
];
const plan = (tasks: readonly PlannedTask[]): PlannedEngagement => ({
  ...{
    name: 'Loom floor',
    description: '',
    ways: [],
    customFields: CUSTOM_FIELDS,
    calendar: { week: [450, 450, 450, 450, 450, 0, 0], closed: ['2026-12-25'] },
    tasks,
  },
  phases: [
    {
      ...{
        id: 'p',
        name: 'Only',
        roleId: null,
        stateLine: 'On',
        rounds: null,
        afterPhaseId: null,
        afterEdge: 'finish',
        afterLag: 0,
        checks: [],
      },
      start: '2026-12-14',
    },
  ],
});
const only = (more: Partial<PlannedTask>, measure: 'planned' | 'real' = 'planned') => {
  const { content, notes } = templateFromPlan(plan([task('a', more)]), measure);
  return { ...content.tasks[0], notes };
};

test.each<[string, Partial<PlannedTask>, object]>([
  ['what only follows others keeps its own anchor', { anchor: { at: 'before-promise', offset: 12 } }, { at: 'before-promise', offset: 12 }],
  ['a fixed day becomes working days since its phase began', { fixedDay: '2026-12-17' }, { at: 'phase-start', offset: 3 }],
  ['an earliest day too, closed days left out', { notBefore: '2026-12-28' }, { at: 'phase-start', offset: 9 }],
  ['the day the phase began is no offset at all', { fixedDay: '2026-12-14' }, { at: 'phase-start', offset: 0 }],
])('%s', (_rule, more, anchor) => {
  expect(only(more)).toMatchObject({ anchor, notes: [] });
});

test('a day before the phase cannot be told, and that is said', () => {
  expect(only({ fixedDay: '2026-12-10' })).toMatchObject({
    anchor: { at: 'phase-start', offset: 0 },
    notes: ['“a” had a day before its phase began; it now begins with the phase.'],
  });
});

test('people become roles: that of the task, else that of who did it, else it is said', () => {
  expect(only({ roleId: 'r', roleOfAssignee: 's' })).toMatchObject({ roleId: 'r', personId: null });
  expect(only({ roleId: null, roleOfAssignee: 's' })).toMatchObject({ roleId: 's', notes: [] });
  expect(only({ roleId: null })).toMatchObject({ roleId: null, notes: ['“a” has no role: nobody with one did it.'] });
  expect(only({ roleId: null, kind: 'client' })).toMatchObject({ roleId: null, notes: [] });
});

test('as it went: what is finished brings what it really took, the rest what was planned', () => {
  const done = { realStart: '2026-12-23', doneOn: '2026-12-28', loggedMinutes: 128 } as const;
  expect(only(done, 'real')).toMatchObject({ days: 3, estimateMinutes: 135 });
  expect(only(done)).toMatchObject({ days: 2, estimateMinutes: 60 });
  expect(only({ realStart: '2026-12-23', loggedMinutes: 128 }, 'real')).toMatchObject({ days: 2, estimateMinutes: 60 });
});

test('what was dropped is left out, with dependencies to it; its parts stand by themselves', () => {
  const { content } = templateFromPlan(
    plan([
      task('gone', { isDropped: true }),
      task('part', { parentId: 'gone' }),
      task('next', { after: [{ taskId: 'gone', type: 'FS', lag: 0 }] }),
    ]),
    'planned',
  );
  expect(content.tasks.map(({ id, parentId, after }) => [id, parentId, after])).toEqual([
    ['part', null, []],
    ['next', null, []],
  ]);
});

test('what in custom fields belongs to one engagement is opened, and said; the rest stays', () => {
  const { customFields, notes } = only({
    customFields: [
      { fieldId: 'size', value: 'A2' },
      { fieldId: 'proof', value: '2026-12-16' },
      { fieldId: 'folder', value: null },
    ],
  });
  expect(customFields).toEqual([
    { fieldId: 'size', value: 'A2' },
    { fieldId: 'proof', value: null },
    { fieldId: 'folder', value: null },
  ]);
  expect(notes).toEqual(['“Proof by” of “a” is open: what stood there belongs to this engagement.']);
});

test('who helps becomes a role that helps, once, and not beside the same role', () => {
  expect(only({ helperRoleIds: ['drawer', 'r'] })).toMatchObject({ roleId: 'r', helperRoleIds: ['drawer'] });
  expect(only({ kind: 'client', helperRoleIds: ['drawer'] })).toMatchObject({ roleId: null, helperRoleIds: [] });
});

describe('as it actually went', () => {
  const went = (id: string, realStart: IsoDay, doneOn: IsoDay, more: Partial<PlannedTask> = {}): PlannedTask =>
    task(id, { realStart, doneOn, ...more });
  const after = (taskId: string, lag = 0, type: DependencyType = 'FS') => ({ taskId, type, lag });
  const saved = (tasks: readonly PlannedTask[]) =>
    Object.fromEntries(
      templateFromPlan(plan(tasks), 'real').content.tasks.map(({ id, anchor, after: waits }) => [
        id,
        [anchor.offset, ...waits.map(({ taskId, lag }) => `${taskId} ${lag}`)],
      ]),
    );

  test('what began with its phase or right behind what it waited for says nothing more', () => {
    const tasks = [
      went('a', '2026-12-14', '2026-12-16', { fixedDay: '2026-12-14' }),
      went('b', '2026-12-17', '2026-12-18', { after: [after('a')], notBefore: '2026-12-17' }),
    ];
    expect(saved(tasks)).toEqual({ a: [0], b: [0, 'a 0'] });
  });

  test('what began later lies behind what it waited for last, or behind its phase', () => {
    const tasks = [
      went('a', '2026-12-14', '2026-12-14'),
      went('b', '2026-12-15', '2026-12-18'),
      went('c', '2026-12-28', '2026-12-29', { after: [after('a'), after('b', 1)] }),
      went('d', '2026-12-17', '2026-12-17'),
    ];
    // From Friday 18 to Monday 28 lie four open days; Friday 25 is closed.
    expect(saved(tasks)).toEqual({ a: [0], b: [1], c: [0, 'a 0', 'b 4'], d: [3] });
  });

  test('what began before a predecessor ended overlaps it by that much', () => {
    const tasks = [went('a', '2026-12-14', '2026-12-17'), went('b', '2026-12-16', '2026-12-21', { after: [after('a')] })];
    expect(saved(tasks)).toEqual({ a: [0], b: [0, 'a -2'] });
  });

  test('scheduled from the day its phase began, every finished task lies where it really lay', () => {
    const calendar = plan([]).calendar;
    const open = (index: number): IsoDay => {
      const compiled = compileCalendar(calendar);
      if (!compiled.ok) throw new Error('calendar');
      return formatDay(addWorkingDays(compiled.value, parseDay('2026-12-14') as number, index));
    };
    const one = fc.record({
      start: fc.nat(9),
      length: fc.integer({ min: 1, max: 5 }),
      waits: fc.array(
        fc.record({ on: fc.nat(5), type: fc.constantFrom<DependencyType>('FS', 'SS', 'FF', 'SF'), lag: fc.integer({ min: -2, max: 2 }) }),
        {
          maxLength: 2,
        },
      ),
    });
    let lagged = 0;
    fc.assert(
      fc.property(fc.array(one, { minLength: 1, maxLength: 6 }), (given) => {
        const tasks = given.map(({ start, length, waits }, index) =>
          went(`t${index}`, open(start), open(start + length - 1), {
            days: length,
            after: [...new Map(waits.filter(({ on }) => on < index).map(({ on, type, lag }) => [on, after(`t${on}`, lag, type)])).values()],
          }),
        );
        const { content } = templateFromPlan(plan(tasks), 'real');
        const result = schedule({ calendar, start: '2026-12-14', ...toSchedulePlan(content) });
        if (!result.ok) throw new Error(result.problem.kind);
        expect(result.value.tasks.map((each) => [each.start, each.finish])).toEqual(
          tasks.map(({ realStart, doneOn }) => [realStart, doneOn]),
        );
        if (content.tasks.some(({ after: waits }, index) => waits.some(({ lag }, place) => lag !== tasks[index]?.after[place]?.lag)))
          lagged++;
      }),
    );
    expect(lagged).toBeGreaterThan(20);
  });
});
