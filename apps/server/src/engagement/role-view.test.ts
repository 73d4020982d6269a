import type { EngagementPlan, EngagementTrack } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();

test('a role sees what runs in a phase it owns, and what is handed to it, nothing else', async () => {
  const id = await startSmall(lead, harness);
  const { phases } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const [first, second] = phases;
  const roles = [first, second].map((phase) => phase?.roleId as string);
  expect(new Set(roles).size).toBe(2);
  const seenBy = async (roleId: string | undefined): Promise<string[]> =>
    ((await lead.get(`/engagements?role=${roleId}`).expect(200)).body as EngagementTrack[]).map((track) => track.id);
  expect([await seenBy(roles[0]), await seenBy(roles[1])]).toEqual([[id], []]);

  const words = { version: 1, words: 'Here it is.', reason: 'The client is in a hurry' };
  await lead.post(`/handoffs/${first?.handoffId}/hand-off`, words).expect(200);
  expect([await seenBy(roles[0]), await seenBy(roles[1])]).toEqual([[], [id]]);
});

test('it comes with what is the role’s in it: the phase, its open tasks, and what is due next', async () => {
  const id = await startSmall(lead, harness);
  const { phases, tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const [draw, make] = phases;
  const stands = async (...roleIds: (string | null | undefined)[]) =>
    ((await lead.get(`/engagements?role=${roleIds.join(',')}`).expect(200)).body as EngagementTrack[]).find((track) => track.id === id)
      ?.stands;
  const sketch = tasks.find((task) => task.title === 'Sketch');
  expect(await stands(draw?.roleId)).toEqual({
    ...{ phase: 'Draw', stateLine: 'Being drawn', isComing: false, until: draw?.finish, openTasks: 2, nextDue: sketch?.due },
    phaseIds: [draw?.id],
  });
  expect((await stands(draw?.roleId, make?.roleId))?.phaseIds.length).toBe(2);
  await lead.post(`/handoffs/${draw?.handoffId}/hand-off`, { version: 1, words: '', reason: 'time' }).expect(200);
  expect(await stands(make?.roleId)).toMatchObject({ phase: 'Make', isComing: true, openTasks: 2 });
  const all = (await lead.get('/engagements').expect(200)).body as EngagementTrack[];
  expect(all.find((track) => track.id === id)?.stands).toBeNull();
});

test('a role that is no id is refused with its field', async () => {
  for (const role of ['writer', '', `${crypto.randomUUID()},writer`])
    expect((await lead.get(`/engagements?role=${role}`).expect(400)).body).toMatchObject({ field: 'role' });
});
