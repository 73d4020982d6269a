import fc from 'fast-check';
import {
  TASK_SORT,
  type Desk,
  type EngagementPlan,
  type TaskPage,
  type TaskQuery,
  type TaskRow,
  type WeekPlan,
  type Workload,
} from '@crew/contract';
import { startSmall, testWorld, type Caller } from '../../../test/harness.ts';

const { harness, lead } = testWorld();
let ids: string[];
let fred: Caller;

beforeAll(async () => {
  const roles = await harness.database.rows<{ id: string; name: string }>('SELECT id, name FROM role ORDER BY name');
  const people = harness.ids.people;
  ids = [
    await startSmall(lead, harness, { name: 'Able', roles: roles.map(({ id }) => ({ roleId: id, personId: people['Dora'] })) }),
    await startSmall(lead, harness, {
      name: 'Baker',
      clientId: harness.ids.otherClient,
      roles: [{ roleId: roles[0]?.id, personId: null }],
    }),
    await startSmall(lead, harness, { name: 'Charlie', likelihood: 40, start: '2027-01-11' }),
  ];
  fred = await harness.as('Fred');
  const [task] = (await planOf(ids[2] as string)).tasks;
  await lead.patch(`/tasks/${task?.id}`, { version: task?.version, assigneeIds: [people['Fred']] }).expect(200);
});

const ask = async (query: TaskQuery, by: Caller = lead): Promise<TaskPage> =>
  (await by.post('/tasks/query', query).expect(200)).body as TaskPage;
const idsOf = (rows: readonly { readonly id: string }[]): string[] => rows.map(({ id }) => id);
const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;

/** Every page of a query, one after the other. */
async function askAll(query: TaskQuery): Promise<TaskRow[]> {
  const rows: TaskRow[] = [];
  for (let after: string | null | undefined; after !== null;) {
    const page: TaskPage = await ask(after === undefined ? query : { ...query, after });
    rows.push(...page.rows);
    after = page.next;
  }
  return rows;
}

/** What a filter says of a task, said once more without SQL. */
const MATCHES: { readonly [Key in keyof NonNullable<TaskQuery['filter']>]: (task: TaskRow, value: never) => boolean } = {
  engagementIds: (task, list: string[]) => list.includes(task.engagement.id),
  assigneeIds: (task, list: string[]) => task.assignees.some(({ id }) => list.includes(id)),
  isUnassigned: (task, value: boolean) => (task.assignees.length === 0) === value,
  statuses: (task, list: string[]) => list.includes(task.status),
  isOpen: (task, value: boolean) => !['done', 'dropped'].includes(task.status) === value,
  kinds: (task, list: string[]) => list.includes(task.kind),
  priorities: (task, list: string[]) => list.includes(task.priority),
  labels: (task, list: string[]) => task.labels.some((label) => list.includes(label)),
  dueFrom: (task, day: string) => task.due >= day,
  dueTo: (task, day: string) => task.due <= day,
  startTo: (task, day: string) => task.start <= day,
  text: (task, text: string) => text.split(' ').every((word) => task.title.toLowerCase().includes(word.toLowerCase())),
};

test('a filter answers the tasks of which all of it is true, in any order, on pages of any length', async () => {
  const [sketch, ink] = (await planOf(ids[0] as string)).tasks;
  await lead.patch(`/tasks/${sketch?.id}`, { version: sketch?.version, labels: ['rush', 'room 2'], priority: 'high' }).expect(200);
  await lead.patch(`/tasks/${ink?.id}`, { version: ink?.version, status: 'active' }).expect(200);
  const all = await askAll({});
  const people = Object.values(harness.ids.people);
  const days = [...new Set(all.flatMap(({ start, due }) => [start, due]))].sort();
  const some = <Item>(items: readonly Item[]) => fc.subarray([...items], { minLength: 1 });
  const fields = fc.record(
    {
      ...{ engagementIds: some(ids), assigneeIds: some(people), isUnassigned: fc.boolean(), isOpen: fc.boolean() },
      ...{
        statuses: some(['queued', 'active'] as const),
        kinds: some(['work', 'client'] as const),
        priorities: some(['high', 'normal'] as const),
      },
      ...{ labels: some(['rush', 'room 2', 'none']), dueFrom: fc.constantFrom(...days), dueTo: fc.constantFrom(...days) },
      ...{ startTo: fc.constantFrom(...days), text: fc.constantFrom('k', 'in', 'LOOKS client', '%', 'paint') },
    },
    { requiredKeys: [] },
  );
  // All of them at once would be true of nothing.
  const filter = fc
    .tuple(fields, fc.shuffledSubarray(Object.keys(MATCHES), { maxLength: 3 }))
    .map(([chosen, keys]) => Object.fromEntries(Object.entries(chosen).filter(([key]) => keys.includes(key))) as typeof chosen);
  const order = fc.record({ sort: fc.constantFrom(...TASK_SORT), isDescending: fc.boolean(), limit: fc.integer({ min: 1, max: 6 }) });
  const seen = { some: 0, none: 0 };
  await fc.assert(
    fc.asyncProperty(filter, order, async (chosen, by) => {
      const keys = Object.keys(chosen) as (keyof typeof chosen)[];
      const expected = all.filter((task) => keys.every((key) => MATCHES[key]?.(task, chosen[key] as never)));
      const found = await askAll({ filter: chosen, ...by });
      expect(idsOf(found).sort()).toEqual(idsOf(expected).sort());
      const { sums } = await ask({ filter: chosen, ...by });
      expect(sums).toMatchObject({
        count: expected.length,
        remainingMinutes: expected.reduce((sum, task) => sum + task.remainingMinutes, 0),
      });
      seen[expected.length > 0 ? 'some' : 'none']++;
    }),
    { numRuns: 100 },
  );
  expect(Math.min(seen.some, seen.none)).toBeGreaterThan(2);
});

test.each<[NonNullable<TaskQuery['sort']>, (left: TaskRow, right: TaskRow) => boolean]>([
  ['due', (left, right) => left.due <= right.due],
  ['start', (left, right) => left.start <= right.start],
  ['title', (left, right) => left.title.toLowerCase() <= right.title.toLowerCase()],
  ['priority', (left, right) => !(left.priority === 'normal' && right.priority === 'high')],
  ['plan', (left, right) => left.engagement.name <= right.engagement.name],
])('sorted by %s, each stands before the next, and the other way round backwards', async (sort, isBefore) => {
  const [forwards, backwards] = [await askAll({ sort, limit: 4 }), await askAll({ sort, limit: 3, isDescending: true })];
  for (const [index, task] of forwards.slice(1).entries()) expect(isBefore(forwards[index] as TaskRow, task)).toBe(true);
  expect(idsOf(backwards)).toEqual(idsOf(forwards).reverse());
});

test.each([
  ['assignee', (task: TaskRow) => (task.assignees.length === 0 ? [null] : task.assignees.map(({ name }) => name))],
  ['engagement', (task: TaskRow) => [task.engagement.name]],
  ['client', (task: TaskRow) => [task.engagement.client.name]],
  ['status', (task: TaskRow) => [task.status]],
  ['role', (task: TaskRow) => [task.role]],
] as const)('counted by %s, each group has its tasks', async (groupBy, namesOf) => {
  const { groups } = await ask({ groupBy });
  const all = await askAll({});
  const expected = new Map<string | null, number>();
  for (const task of all) for (const name of namesOf(task)) expected.set(name, (expected.get(name) ?? 0) + 1);
  expect(new Map(groups.map(({ name, count }) => [name, count]))).toEqual(expected);
});

test('a place of another list, or none at all, is refused', async () => {
  const { next } = await ask({ sort: 'due', limit: 1 });
  for (const after of [next as string, 'nonsense', Buffer.from('[1]').toString('base64url')])
    expect((await lead.post('/tasks/query', { sort: 'title', after }).expect(400)).body).toMatchObject({ field: 'after' });
});

test('a freelancer is answered own tasks only, in rows, sums and groups', async () => {
  const own = harness.ids.people['Fred'] as string;
  const { rows, sums, groups } = await ask({ groupBy: 'engagement' }, fred);
  const expected = await askAll({ filter: { assigneeIds: [own] } });
  expect(expected.length).toBeGreaterThan(0);
  expect(idsOf(rows).sort()).toEqual(idsOf(expected).sort());
  expect(sums.count).toBe(expected.length);
  expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(expected.length);
});

describe('the screens show what the query answers', () => {
  test('a plan', async () => {
    for (const id of ids) {
      const { tasks } = await planOf(id);
      const rows = await askAll({ filter: { engagementIds: [id] }, sort: 'plan' });
      expect(
        rows.map(
          ({ engagement: _e, phase: _p, remainingMinutes: _r, isReady: _i, plannedWeek: _w, carried: _c, doneOn: _d, ...task }) => task,
        ),
      ).toEqual(tasks);
    }
  });

  test('a desk', async () => {
    for (const person of Object.values(harness.ids.people)) {
      const desk = (await lead.get(`/desk?person=${person}`).expect(200)).body as Desk;
      const rows = await askAll({
        filter: { assigneeIds: [person], isOpen: true, isGroup: false, engagementStates: ['proposal', 'open'] },
      });
      const ready = rows.filter(({ id, isReady }) => isReady && id !== desk.now?.id);
      const shown = [...desk.ready, ...desk.overdue];
      expect(idsOf(shown).sort()).toEqual(idsOf(ready).sort());
      for (const task of shown)
        expect(rows).toContainEqual(expect.objectContaining({ id: task.id, due: task.due, remainingMinutes: task.remainingMinutes }));
    }
  });

  test('the week plan and the load', async () => {
    const kinds = ['work', 'review', 'meeting', 'order'] as const;
    const work = { isOpen: true, isGroup: false, kinds: [...kinds] };
    const week = (await lead.get('/week-plan').expect(200)).body as WeekPlan;
    // Of the week after the two that are planned only what nothing stands in front of.
    const placed = (await askAll({ filter: { ...work, engagementStates: ['open'], placedOrStartTo: '2026-12-13' } })).filter(
      (task) => task.plannedWeek !== null || task.openPredecessors === 0 || task.start <= '2026-12-06',
    );
    expect(week.tasks.map(({ id, minutes }) => [id, minutes]).sort()).toEqual(
      placed.map((task) => [task.id, task.remainingMinutes]).sort(),
    );
    const load = (await lead.get('/workload?from=2026-11-23&to=2027-03-31').expect(200)).body as Workload;
    const loading = await askAll({ filter: { ...work, engagementStates: ['proposal', 'open'], startTo: '2027-03-31' } });
    const loaded = new Map([...load.unassigned, ...load.rows.flatMap(({ tasks }) => tasks)].map((task) => [task.id, task]));
    expect([...loaded.keys()].sort()).toEqual(idsOf(loading).sort());
    // Of a proposal only what is likely to come counts.
    for (const task of loading)
      if (loaded.get(task.id)?.likelihood === null) expect(loaded.get(task.id)?.minutes).toBe(task.remainingMinutes);
  });
});
