import fc from 'fast-check';
import {
  checkTemplate,
  composeTemplate,
  diffTemplates,
  EXCHANGE_FORMAT,
  readExchange,
  schedule,
  toExchange,
  toSchedulePlan,
  type CustomFieldDefinition,
  type TemplateContent,
  type TemplatePhase,
  type TemplateTask,
  type TemplateWay,
} from '../src/index.ts';

const phase = (id: string, more: Partial<TemplatePhase> = {}): TemplatePhase => ({
  ...{ id, name: `Phase ${id}`, roleId: null, stateLine: `In ${id}`, rounds: null },
  ...{ afterPhaseId: null, afterEdge: 'finish', afterLag: 0, checks: [] },
  ...more,
});
const task = (id: string, more: Partial<TemplateTask> = {}): TemplateTask => ({
  ...{
    id,
    phaseId: 'p',
    parentId: null,
    title: `Task ${id}`,
    description: '',
    kind: 'work',
    roleId: null,
    personId: null,
    helperRoleIds: [],
    helperPersonIds: [],
  },
  ...{ estimateMinutes: null, days: 1, anchor: { at: 'phase-start', offset: 0 }, after: [], steps: [], priority: 'normal', labels: [] },
  ...{ deliverable: null, pageLinks: [], files: [], customFields: [], outside: null, isShownToClient: false, isChargeable: true },
  ...more,
});
const way = (more: Partial<TemplateWay>): TemplateWay => ({
  id: 'w',
  fromId: 'b',
  toId: null,
  ending: 'Closed',
  reason: 'not a fit',
  ...more,
});
const trail: TemplateContent = {
  name: 'Trail',
  description: 'Stops to listen to.',
  phases: [
    phase('p', { rounds: 2, roleId: 'r1', checks: [{ kind: 'word', text: 'Names checked' }] }),
    phase('q', { afterPhaseId: 'p', afterLag: 1 }),
  ],
  tasks: [
    task('a', { steps: ['One', 'Two'], labels: ['stop'], estimateMinutes: 90, roleId: 'r1' }),
    task('b', { days: 3, after: [{ taskId: 'a', type: 'SS', lag: 1 }], kind: 'client', isShownToClient: true }),
    task('g', { after: [{ taskId: 'b', type: 'FS', lag: 0 }], deliverable: 'Map' }),
    task('g1', {
      parentId: 'g',
      files: [{ fileId: 'plan', name: 'Floor plan.pdf', bytes: 5 }],
      pageLinks: [{ title: 'How we name files', url: 'https://example.org/names' }],
    }),
    task('c', {
      phaseId: 'q',
      anchor: { at: 'before-promise', offset: 12 },
      files: [
        { fileId: 'guide', name: 'How we write.txt', bytes: 4 },
        { fileId: 'plan', name: 'Floor plan.pdf', bytes: 5 },
      ],
      customFields: [
        { fieldId: 'size', value: 'A2' },
        { fieldId: 'run', value: 12.5 },
        { fieldId: 'proof', value: null },
      ],
      outside: { maker: 'Pane & Sons', turnaroundDays: 5, bufferDays: 2 },
    }),
  ],
  ways: [way({ id: 'w1', toId: 'a', ending: null, reason: 'changes' }), way({ id: 'w2' })],
};
const faults = (more: Partial<TemplateContent>): [string, string][] =>
  checkTemplate({ ...trail, ...more }).map(({ at, message }) => [at, message]);

describe('what can be started', () => {
  test('a sound template has no fault', () => {
    expect(checkTemplate(trail)).toEqual([]);
  });

  test.each<[string, Partial<TemplateContent>, string, RegExp]>([
    ['no phase', { phases: [], tasks: [], ways: [] }, 'phases', /at least one phase/],
    [
      'a phase without a state line',
      { phases: [phase('p', { rounds: 1, stateLine: ' ' }), phase('q')] },
      'phases[p].stateLine',
      /every phase has a state line/,
    ],
    [
      'two phases that say the same, whatever the case and spaces',
      { phases: [phase('p', { rounds: 1, stateLine: 'Payment asked for' }), phase('q', { stateLine: ' payment  asked for ' })] },
      'phases[q].stateLine',
      /“Phase p” and “Phase q” both say “payment {2}asked for”. Say what is different, for instance which payment./,
    ],
    ['a task without a title', { tasks: [task('a', { title: '' }), task('b')], ways: [] }, 'tasks[a].title', /needs a title/],
    ['a task in no phase', { tasks: [task('a', { phaseId: 'x' }), task('b')], ways: [] }, 'tasks[a].phaseId', /a phase that is not there/],
    [
      'a part in another phase',
      { tasks: [task('a'), task('b', { parentId: 'a', phaseId: 'q' })], ways: [] },
      'tasks[b].phaseId',
      /another phase than/,
    ],
    ['a part of itself', { tasks: [task('a', { parentId: 'b' }), task('b', { parentId: 'a' })], ways: [] }, 'tasks', /Task a → Task b/],
    [
      'a part that waits for its whole',
      { tasks: [task('a'), task('b', { parentId: 'a', after: [{ taskId: 'a', type: 'FS', lag: 0 }] })], ways: [] },
      'tasks[b].after',
      /cannot wait for it/,
    ],
    [
      'a whole that ends before something',
      { tasks: [task('a', { anchor: { at: 'before-promise', offset: 1 } }), task('b', { parentId: 'a' })], ways: [] },
      'tasks[a].anchor',
      /Give that day to one of them/,
    ],
    [
      'a loop of dependencies, naming its members',
      {
        tasks: [task('a', { after: [{ taskId: 'b', type: 'FS', lag: 0 }] }), task('b', { after: [{ taskId: 'a', type: 'FS', lag: 0 }] })],
        ways: [],
      },
      'tasks',
      /Task [ab] → Task [ab] → Task [ab]/,
    ],
    ['a way out without a reason', { ways: [way({ reason: ' ' })] }, 'ways[w].reason', /Say when the way out of “Task b” is taken/],
    ['an ending without a name', { ways: [way({ ending: '' })] }, 'ways[w].ending', /Say how it ends/],
    [
      'a way back where no rounds are agreed',
      { phases: [phase('p'), phase('q')], ways: [way({ toId: 'a', ending: null })] },
      'phases[p].rounds',
      /how many rounds/,
    ],
    ['a way from nowhere', { ways: [way({ fromId: 'x' })] }, 'ways[w].fromId', /not there/],
  ])('%s is a fault, with its place and what to do', (_what, more, at, message) => {
    const found = faults(more);
    expect(found.map(([place]) => place)).toContain(at);
    expect(found.find(([place]) => place === at)?.[1]).toMatch(message);
  });

  test('it is scheduled on the calendar with its subtasks', () => {
    const result = schedule({ calendar: { week: [1, 1, 1, 1, 1, 0, 0], closed: [] }, start: '2026-12-14', ...toSchedulePlan(trail) });
    if (!result.ok) throw new Error(result.problem.kind);
    const [g, g1] = ['g', 'g1'].map((id) => result.value.tasks.find((found) => found.id === id));
    expect(g).toMatchObject({ start: g1?.start, finish: g1?.finish });
  });
});

describe('what differs', () => {
  const diff = (after: Partial<TemplateContent>) =>
    diffTemplates(trail, { ...trail, ...after }).map(({ part, kind, name, phase: where, fields }) => [
      part,
      kind,
      name,
      where,
      fields.map((field) => field.field),
    ]);

  test('nothing differs from itself', () => {
    expect(diffTemplates(trail, trail)).toEqual([]);
  });

  test('the order in which fields are written says nothing', () => {
    const turned = JSON.parse(JSON.stringify(trail), (_key, value: unknown) =>
      typeof value === 'object' && value !== null && !Array.isArray(value) ? Object.fromEntries(Object.entries(value).reverse()) : value,
    ) as TemplateContent;
    expect(diffTemplates(trail, turned)).toEqual([]);
  });

  test('parts that came, went and changed are told by phase and name', () => {
    const tasks = [
      ...trail.tasks.filter(({ id }) => id !== 'g1').map((one) => (one.id === 'a' ? { ...one, title: 'Walk', days: 2 } : one)),
      task('n', { phaseId: 'q', title: 'New' }),
    ];
    expect(diff({ tasks })).toEqual([
      ['task', 'changed', 'Walk', 'Phase p', ['title', 'days']],
      ['task', 'added', 'New', 'Phase q', []],
      ['task', 'removed', 'Task g1', 'Phase p', []],
    ]);
    expect(diff({ ways: trail.ways.slice(0, 1) })).toEqual([['way', 'removed', 'Task b: not a fit', null, []]]);
    expect(diff({ name: 'Walk' })).toEqual([['template', 'changed', 'Walk', null, ['name']]]);
  });

  test('another order is said once a phase, and not when something only came between', () => {
    const [a, b, ...rest] = trail.tasks as [TemplateTask, TemplateTask, ...TemplateTask[]];
    expect(diff({ tasks: [b, a, ...rest] })).toEqual([['phase', 'changed', 'Phase p', 'Phase p', ['order']]]);
    expect(diff({ tasks: [a, task('n', { title: 'New' }), b, ...rest] })).toEqual([['task', 'added', 'New', 'Phase p', []]]);
  });

  test('there and back: what one way adds, the other removes', () => {
    fc.assert(
      fc.property(fc.subarray([...trail.tasks]), fc.subarray([...trail.tasks]), (left, right) => {
        const kinds = (before: TemplateTask[], after: TemplateTask[], kind: string) =>
          diffTemplates({ ...trail, tasks: before }, { ...trail, tasks: after })
            .filter((one) => one.kind === kind)
            .map((one) => one.id)
            .sort();
        expect(kinds(left, right, 'added')).toEqual(kinds(right, left, 'removed'));
      }),
    );
  });
});

describe('the open format', () => {
  const roles: Readonly<Record<string, string>> = { r1: 'Writer', r2: 'Client manager' };
  const roleId = (name: string): string | null => Object.keys(roles).find((id) => roles[id] === name) ?? null;
  const customFields: Readonly<Record<string, CustomFieldDefinition>> = {
    size: { name: 'Size', kind: 'choice', choices: ['A1', 'A2'] },
    run: { name: 'Print run', kind: 'number', choices: [] },
    proof: { name: 'Proof by', kind: 'date', choices: [] },
  };
  const people: Readonly<Record<string, string>> = { tavi: 'Tavi Lindqvist' };
  const personId = (name: string) => Object.keys(people).find((id) => people[id] === name) ?? null;
  const contents: Readonly<Record<string, string>> = { guide: 'word', plan: 'lines' };
  const names = {
    kind: 'engagement' as const,
    roleName: (id: string) => roles[id] ?? id,
    personName: (id: string) => people[id] ?? null,
    fieldOf: (id: string) => customFields[id] ?? null,
    fileOf: (id: string) => ({ name: id, type: 'text/plain', content: Buffer.from(contents[id] ?? '').toString('base64') }),
  };
  /** The agency has these fields already, or none. */
  const fieldNamed = (known: boolean) => (name: string) => {
    const found = Object.entries(customFields).find(([, field]) => known && field.name === name);
    return found === undefined ? null : { id: found[0], ...found[1] };
  };
  const counting = () => {
    let last = 0;
    return () => `id${++last}`;
  };
  const read = (file: unknown, knowsFields = true) =>
    readExchange(file, { newId: counting(), roleId, personId, customField: fieldNamed(knowsFields) });
  const travel = (content: TemplateContent) => JSON.parse(JSON.stringify(toExchange(content, names))) as Record<string, unknown>;
  /** A template without its own ids: parts by their place. */
  const plain = (content: TemplateContent): unknown => {
    const files = content.tasks.flatMap((one) => one.files.map((file) => file.fileId));
    const ids = [...[...content.phases, ...content.tasks, ...content.ways].map((part) => part.id), ...new Set(files)];
    const text = ids.reduce((now, id, index) => now.replaceAll(`"${id}"`, `"#${index}"`), JSON.stringify(content));
    return JSON.parse(text.replace(/"name":"(guide|How we write.txt|plan|Floor plan.pdf)"/g, '"name":""'));
  };

  test('a template comes back as it went', () => {
    const back = read(travel(trail));
    if (!back.ok) throw new Error(JSON.stringify(back.faults));
    expect(plain(back.content)).toEqual(plain(trail));
    expect(back).toMatchObject({ kind: 'engagement', missingRoles: [] });
  });

  test('somebody in particular travels by name; one who is not there is named, and the task follows its role', () => {
    const preset = (personId: string | null): TemplateContent => ({
      ...trail,
      tasks: trail.tasks.map((one, index) =>
        index === 0 ? { ...one, personId, helperPersonIds: personId === null ? [] : [personId] } : one,
      ),
    });
    const file = travel(preset('tavi'));
    const back = read(file);
    if (!back.ok) throw new Error(JSON.stringify(back.faults));
    expect(back.content.tasks[0]).toMatchObject({ personId: 'tavi', helperPersonIds: ['tavi'] });
    const elsewhere = readExchange(file, { newId: counting(), roleId, personId: () => null, customField: fieldNamed(true) });
    if (!elsewhere.ok) throw new Error(JSON.stringify(elsewhere.faults));
    expect(elsewhere).toMatchObject({ missingPeople: ['Tavi Lindqvist'] });
    expect(elsewhere.content.tasks[0]).toMatchObject({ personId: null, helperPersonIds: [], roleId: trail.tasks[0]?.roleId });
    // Who left the crew is nobody any more.
    expect(JSON.stringify(travel(preset('gone')))).not.toMatch(/person|helpingPeople/);
  });

  test('a file used twice travels once, with its content', () => {
    const file = travel(trail);
    expect(file['files']).toEqual([
      { key: 'f1', name: 'plan', type: 'text/plain', content: 'bGluZXM=' },
      { key: 'f2', name: 'guide', type: 'text/plain', content: 'd29yZA==' },
    ]);
    const back = read(file);
    expect(back.ok && back.newFiles.map(({ name, bytes }) => [name, bytes])).toEqual([
      ['plan', 5],
      ['guide', 4],
    ]);
  });

  test('custom fields are known by name: those the agency has are used, the others are to be made', () => {
    const known = read(travel(trail), true);
    const fresh = read(travel(trail), false);
    if (!known.ok || !fresh.ok) throw new Error('no fault was expected');
    expect(known.newFields).toEqual([]);
    expect(fresh.newFields.map(({ id: _, ...field }) => field)).toEqual(Object.values(customFields));
    const ofTask = fresh.content.tasks.find((one) => one.customFields.length > 0);
    expect(ofTask?.customFields.map((entry) => entry.fieldId)).toEqual(fresh.newFields.map((field) => field.id));
  });

  test.each<[string, (file: Record<string, unknown>) => void, string, RegExp]>([
    [
      'a field of another kind here',
      (file) => Object.assign((file['fields'] as object[])[1]!, { kind: 'text' }),
      '/fields/1/kind',
      /is a number. Rename/,
    ],
    [
      'a choice unknown here',
      (file) => Object.assign((file['fields'] as object[])[0]!, { choices: ['A1', 'A2', 'A9'] }),
      '/fields/0/choices',
      /Add “A9”/,
    ],
    [
      'a choice with nothing to choose',
      (file) => Object.assign((file['fields'] as object[])[0]!, { choices: [] }),
      '/fields/0/choices',
      /at least two/,
    ],
    ['a file that is no base64', (file) => Object.assign((file['files'] as object[])[0]!, { content: '§' }), '/files/0/content', /base64/],
    ['a file without a name', (file) => Object.assign((file['files'] as object[])[0]!, { name: ' ' }), '/files/0/name', /words/],
    ['two files with one key', (file) => Object.assign((file['files'] as object[])[1]!, { key: 'f1' }), '/files/1/key', /used twice/],
  ])('%s is a fault at its place', (_what, spoil, at, message) => {
    const file = travel(trail);
    spoil(file);
    const back = read(file);
    if (back.ok) throw new Error('a fault was expected');
    expect(back.faults.find((fault) => fault.at === at)?.message).toMatch(message);
  });

  test('a value that does not fit its field, and a file that is not there, are faults of the task', () => {
    const file = travel(trail);
    const task = (file['phases'] as { tasks: Record<string, unknown>[] }[])[1]!.tasks[0]!;
    Object.assign(task, { customFields: [{ field: 'Print run', value: 'many' }, { field: 'Colour' }], files: ['f9'] });
    const back = read(file);
    expect(back.ok ? [] : back.faults.map((fault) => fault.at)).toEqual([
      '/phases/1/tasks/0/files/0',
      '/phases/1/tasks/0/customFields/0/value',
      '/phases/1/tasks/0/customFields/1/field',
    ]);
  });

  test('whatever a sound template holds, it comes back as it went', () => {
    const anyTask = fc.record({
      days: fc.nat(20),
      estimateMinutes: fc.option(fc.nat(9000)),
      roleId: fc.constantFrom(null, 'r1', 'r2'),
      kind: fc.constantFrom('work', 'client', 'review', 'meeting', 'order', 'milestone'),
      priority: fc.constantFrom('low', 'normal', 'high'),
      steps: fc.array(fc.constantFrom('One', 'Two'), { maxLength: 3 }),
      labels: fc.array(fc.constantFrom('glass', 'room 2'), { maxLength: 2 }),
      isShownToClient: fc.boolean(),
      isChargeable: fc.boolean(),
      anchorAt: fc.constantFrom('phase-start' as const, 'engagement-start' as const),
      offset: fc.nat(9),
      dependency: fc.nat(9),
      lag: fc.integer({ min: -2, max: 4 }),
      type: fc.constantFrom('FS' as const, 'SS' as const, 'FF' as const, 'SF' as const),
    });
    fc.assert(
      fc.property(fc.array(anyTask, { minLength: 1, maxLength: 8 }), (specs) => {
        const tasks = specs.map(({ anchorAt, offset, dependency, lag, type, ...more }, index) =>
          task(`x${index}`, {
            ...more,
            anchor: { at: anchorAt, offset },
            ...(dependency < index ? { after: [{ taskId: `x${dependency}`, type, lag }] } : {}),
          }),
        );
        const content = { ...trail, tasks, ways: [] };
        const back = read(travel(content));
        if (!back.ok) throw new Error(JSON.stringify(back.faults));
        expect(plain(back.content)).toEqual(plain(content));
      }),
    );
  });

  test('roles the agency does not have are named, and their tasks are nobody’s', () => {
    const file = travel(trail);
    (file['phases'] as { tasks: { role?: string }[] }[])[0]!.tasks[0]!.role = 'Astronomer';
    const back = read(file);
    expect(back).toMatchObject({ ok: true, missingRoles: ['Astronomer'] });
    expect(back.ok && back.content.tasks[0]?.roleId).toBeNull();
  });

  test.each<[string, (file: Record<string, unknown>) => unknown, string, RegExp]>([
    ['no object at all', () => 'trail', '/', /object/],
    ['another format', (file) => ({ ...file, format: 'x' }), '/format', /nimble-crew-template\/1/],
    ['a field nobody knows', (file) => ({ ...file, colour: 'teal' }), '/colour', /no field “colour”/],
    ['a list that is none', (file) => ({ ...file, phases: {} }), '/phases', /list/],
    [
      'a key twice',
      (file) => ({ ...file, phases: [...(file['phases'] as object[]), { key: 't1', name: 'Again', stateLine: 'Again', tasks: [] }] }),
      '/phases/2/key',
      /used twice/,
    ],
  ])('%s is a fault at its place', (_what, break_, at, message) => {
    const back = read(break_(travel(trail)));
    if (back.ok) throw new Error('a fault was expected');
    expect(back.faults.map((fault) => fault.at)).toContain(at);
    expect(back.faults.find((fault) => fault.at === at)?.message).toMatch(message);
  });

  test('all faults are told at once, each with its place', () => {
    const file = travel(trail);
    const tasks = (file['phases'] as { tasks: Record<string, unknown>[] }[])[0]!.tasks;
    Object.assign(tasks[0]!, { days: -1, kind: 'dance', steps: 'one' });
    Object.assign(tasks[1]!, { title: ' ', after: [{ task: 'nowhere' }] });
    const back = read(file);
    if (back.ok) throw new Error('faults were expected');
    expect(back.faults.map((fault) => fault.at).sort()).toEqual([
      '/phases/0/tasks/0/days',
      '/phases/0/tasks/0/kind',
      '/phases/0/tasks/0/steps',
      '/phases/0/tasks/1/after/0/task',
      '/phases/0/tasks/1/title',
    ]);
  });

  test('what the parts say of each other is checked too, with the place in the file', () => {
    const file = travel(trail);
    const phases = file['phases'] as Record<string, unknown>[];
    phases[1]!['stateLine'] = phases[0]!['stateLine'];
    const back = read(file);
    expect(back).toMatchObject({ ok: false, faults: [{ at: '/phases/1/stateLine' }] });
  });

  test('a file names its format', () => {
    expect(travel(trail)['format']).toBe(EXCHANGE_FORMAT);
  });
});

describe('phases put among those of another template', () => {
  /** A row in which each phase follows one that comes before it, or none. */
  const row = (prefix: string) =>
    fc.array(fc.nat(), { minLength: 1, maxLength: 6 }).map((picks) =>
      picks.map((pick, index) => {
        const follows = index === 0 ? null : pick % (index + 1);
        return phase(`${prefix}${index}`, {
          stateLine: `In ${index}`,
          afterPhaseId: follows === null || follows === index ? null : `${prefix}${follows}`,
        });
      }),
    );

  test('all are there once, in their rows, and each still follows one before it', () => {
    let inTheMiddle = 0;
    fc.assert(
      fc.property(row('t'), row('s'), fc.nat(), (target, source, at) => {
        const places = [undefined, null, ...target.map(({ id }) => id)];
        const behindId = places[at % places.length];
        if (behindId !== undefined && behindId !== null && behindId !== target.at(-1)?.id) inTheMiddle++;
        const bare = (phases: readonly TemplatePhase[]): TemplateContent => ({ name: '', description: '', phases, tasks: [], ways: [] });
        const { phases } = composeTemplate(bare(target), bare(source), {
          ...{ phaseIds: source.map(({ id }) => id), behindId, idOf: (id: string) => id },
        });
        const ids = phases.map(({ id }) => id);
        expect(ids.filter((id) => id.startsWith('t'))).toEqual(target.map(({ id }) => id));
        expect(ids.filter((id) => id.startsWith('s'))).toEqual(source.map(({ id }) => id));
        const first = behindId === undefined ? target.length : behindId === null ? 0 : ids.indexOf(behindId) + 1;
        expect(ids.indexOf('s0')).toBe(first);
        expect(new Set(phases.map(({ stateLine }) => stateLine)).size).toBe(phases.length);
        for (const { id, afterPhaseId } of phases)
          if (afterPhaseId !== null) expect(ids.indexOf(afterPhaseId)).toBeLessThan(ids.indexOf(id));
      }),
    );
    expect(inTheMiddle).toBeGreaterThan(0);
  });
});
