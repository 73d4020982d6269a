import { WINDOW_HEADER, type EngagementPlan, type PeopleHere, type PlanTask, type PresenceKind } from '@crew/contract';
import { ChangesFeed } from '../live/changes-feed.ts';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

const { harness, lead } = testWorld();

let maker: Caller;
let id: string;
let task: PlanTask;

beforeAll(async () => {
  maker = await harness.as('Mak');
  id = await startSmall(lead, harness, { name: 'Quay' });
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  task = tasks.find(({ title }) => title === 'Sketch') as PlanTask;
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY, '10:00');
  await harness.database.rows('DELETE FROM presence');
});

const atTask = (): { readonly kind: PresenceKind; readonly id: string } => ({ kind: 'task', id: task.id });
const atPlan = (): { readonly kind: PresenceKind; readonly id: string } => ({ kind: 'engagement', id });
const shows = (who: Caller, shown: readonly object[], window = 'window-one'): Promise<unknown> =>
  who.post('/presence', { shown }).set(WINDOW_HEADER, window).expect(204);
const namesAt = async (who: Caller, thing: string): Promise<string[]> =>
  ((await who.get(`/presence/${thing}`).expect(200)).body as PeopleHere).people.map(({ name }) => name);

test('others at the same plan and task are named, oneself is not', async () => {
  await shows(maker, [atPlan(), atTask()]);
  await shows(lead, [atPlan()], 'window-two');
  expect(await namesAt(lead, `engagements/${id}`)).toEqual(['Mak Reyes']);
  expect(await namesAt(lead, `tasks/${task.id}`)).toEqual(['Mak Reyes']);
  expect(await namesAt(maker, `engagements/${id}`)).toEqual(['Lena Park']);
  expect(await namesAt(maker, `tasks/${task.id}`)).toEqual([]);
});

test('who goes elsewhere is gone, unless another window of theirs is still there', async () => {
  await shows(maker, [atTask()]);
  await shows(maker, [atTask()], 'window-two');
  await shows(maker, [atPlan()]);
  expect(await namesAt(lead, `tasks/${task.id}`)).toEqual(['Mak Reyes']);
  await shows(maker, [], 'window-two');
  expect(await namesAt(lead, `tasks/${task.id}`)).toEqual([]);
  expect(await namesAt(lead, `engagements/${id}`)).toEqual(['Mak Reyes']);
});

test('a window that falls silent is gone after a while, and its rows with it', async () => {
  await shows(maker, [atTask()]);
  harness.clock.moveTo(TODAY, '10:01');
  expect(await namesAt(lead, `tasks/${task.id}`)).toEqual(['Mak Reyes']);
  harness.clock.moveTo(TODAY, '10:02');
  expect(await namesAt(lead, `tasks/${task.id}`)).toEqual([]);
  await shows(lead, [], 'window-two');
  expect(await harness.database.rows('SELECT 1 FROM presence')).toEqual([]);
});

test('coming and leaving are announced, staying is not', async () => {
  const heard: string[] = [];
  const hearing = harness.app.get(ChangesFeed).all.subscribe((one) => heard.push(one === 'everything' ? one : one.topics));
  await shows(maker, [atTask()]);
  await shows(maker, [atTask()]);
  await shows(maker, []);
  // What is announced comes in order: once this is heard, nothing of before is still on its way.
  await lead.patch(`/tasks/${task.id}`, { version: task.version, priority: 'high' }).expect(200);
  while (!heard.some((topics) => topics.includes(`engagement:${id}`))) await new Promise((resolve) => setImmediate(resolve));
  hearing.unsubscribe();
  expect(heard.filter((topics) => topics.startsWith('presence'))).toEqual([`presence:${task.id}`, `presence:${task.id}`]);
});

test('nobody is seen at what the reader may not see, and what is not there is left out', async () => {
  const freelancer = await harness.as('Fred');
  await shows(lead, [atPlan(), atTask()]);
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const others = tasks.find(({ assignees }) => assignees.length === 0) as PlanTask;
  await freelancer.get(`/presence/tasks/${others.id}`).expect(404);
  await shows(
    freelancer,
    [
      { kind: 'task', id: others.id },
      { kind: 'task', id: '00000000-0000-4000-8000-000000000000' },
    ],
    'window-two',
  );
  expect(await harness.database.rows('SELECT 1 FROM presence WHERE subject_id <> ALL($1)', [[id, task.id]])).toEqual([]);
});

test.each([[[[]]], [[[[]]]], [[{}]], [[{ kind: 'handoff', id: '00000000-0000-4000-8000-000000000000' }]]])(
  '%j is refused in words',
  async (shown) => {
    const refused = (await lead.post('/presence', { shown }).expect(400)).body as { message: string };
    expect(refused.message).toMatch(/^[A-Z].*\.$/);
  },
);

test('two windows say what they show at the same moment', async () => {
  await Promise.all([1, 2, 3, 4].map((window) => shows(maker, [atPlan(), atTask()], `window-${window}0000`)));
  await Promise.all([1, 2, 3, 4].map((window) => shows(maker, window === 1 ? [atTask()] : [], `window-${window}0000`)));
  expect([await namesAt(lead, `tasks/${task.id}`), await namesAt(lead, `engagements/${id}`)]).toEqual([['Mak Reyes'], []]);
});
