import type { EngagementPlan, Notices } from '@crew/contract';
import { FOLLOWED_EVENTS } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';
import { areas } from '../areas.ts';
import { FollowEvents } from './follow-events.ts';

const { harness, lead } = testWorld();

const pending = async (): Promise<number> =>
  (await harness.database.row<{ count: number }>('SELECT count(*)::int AS count FROM event WHERE is_pending'))?.count ?? -1;
const notices = async (): Promise<number> =>
  (await harness.database.row<{ count: number }>(`SELECT count(*)::int AS count FROM notice WHERE kind = 'assigned'`))?.count ?? -1;

/** Gives every task of an engagement to Mak, each as a change of its own. */
async function giveAll(id: string): Promise<number> {
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const mak = harness.ids.people['Mak'];
  const open = tasks.filter((task) => task.kind === 'work' && !task.assignees.some(({ id: person }) => person === mak));
  for (const { id: task, version } of open) await lead.patch(`/tasks/${task}`, { version, assigneeIds: [mak] }).expect(200);
  return open.length;
}

test('every kind that is followed has a follower, and no follower waits for another', () => {
  const wanted = new Set(areas.flatMap((area) => (area.followers ?? []).flatMap(({ kinds }) => kinds)));
  expect([...wanted].sort()).toEqual([...FOLLOWED_EVENTS].sort());
});

test('two processes that follow at once look at each event once', async () => {
  const id = await startSmall(lead, harness);
  await harness.settle();
  const before = await notices();
  const other = await harness.beside();
  const given = await giveAll(id);
  expect(await pending()).toBeGreaterThanOrEqual(given);
  await Promise.all([harness.app.get(FollowEvents).run(), other.app.get(FollowEvents).run()]);
  expect(await pending()).toBe(0);
  expect((await notices()) - before).toBe(given);
  await other.close();
});

test('what a process leaves half done is as if it had not begun', async () => {
  await giveAll(await startSmall(lead, harness));
  const [waiting, before] = [await pending(), await notices()];
  await harness.database.rows(`ALTER TABLE notice ADD CONSTRAINT broken CHECK (kind <> 'assigned') NOT VALID`);
  await harness.app.get(FollowEvents).run();
  await harness.database.rows('ALTER TABLE notice DROP CONSTRAINT broken');
  expect(await notices()).toBe(before);
  // What could not be followed stays pending; what tells nobody anything went through.
  const left = await pending();
  expect(left).toBeGreaterThan(0);
  expect(left).toBeLessThanOrEqual(waiting);
  const other = await harness.beside();
  await other.app.get(FollowEvents).run();
  expect(await pending()).toBe(0);
  expect(await notices()).toBe(before + left);
  await other.close();
});

test('what is only tried out is not followed', async () => {
  const id = await startSmall(lead, harness);
  await harness.settle();
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const [first] = tasks;
  await lead.post(`/engagements/${id}/changes/preview`, { tasks: [{ id: first?.id, version: first?.version, days: 9 }] }).expect(200);
  expect(await pending()).toBe(0);
  expect(((await lead.get('/notices').expect(200)).body as Notices).unread).toBe(0);
});
