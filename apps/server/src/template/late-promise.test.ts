import type { DryRun, EngagementPlan } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

const world = testWorld();
beforeEach(() => world.harness.clock.moveTo(TODAY));

const previewed = async (more: object): Promise<DryRun> =>
  (await world.lead.post('/engagements/preview', { templateId: world.harness.ids.template, ...more }).expect(201)).body as DryRun;

describe('a promise that cannot be kept', () => {
  test('says by how many working days, the earliest finish, and what could be left out', async () => {
    const { finish } = await previewed({ start: TODAY });
    const run = await previewed({ promise: '2026-12-02' });
    expect(run.start < TODAY).toBe(true);
    expect(run.late).toMatchObject({ start: TODAY, finish });
    // Thursday 3 and Friday 4 December lie between; the closed Friday 27 November does not.
    expect(finish).toBe('2026-12-07');
    expect(run.late?.days).toBe(3);
    const make = run.late?.omissions.find(({ name }) => name === 'Make');
    expect(make).toMatchObject({ kind: 'phase', minutes: 960, isEnough: true });
  });

  test('each omission does what it says', async () => {
    const { late } = await previewed({ promise: '2026-12-02' });
    expect(late?.omissions.length).toBeGreaterThan(2);
    const base = late?.finish as string;
    for (const { kind, id, days, isEnough } of late?.omissions ?? []) {
      const without = kind === 'phase' ? { withoutPhases: [id] } : { withoutTasks: [id] };
      const { finish } = await previewed({ start: TODAY, ...without });
      expect(finish < base).toBe(true);
      expect(finish <= '2026-12-02').toBe(isEnough);
      expect(days).toBeGreaterThan(0);
    }
    const enough = (late?.omissions ?? []).map(({ isEnough }) => isEnough);
    expect([...enough].sort((one, other) => Number(other) - Number(one))).toEqual(enough);
  });

  test('is told of a start that was asked for too; one that is kept has nothing to say', async () => {
    expect((await previewed({ start: '2026-12-07', promise: '2026-12-11' })).late).toMatchObject({ start: '2026-12-07' });
    expect((await previewed({ start: TODAY, promise: '2027-01-15' })).late).toBeNull();
    expect((await previewed({ promise: '2027-01-15' })).late).toBeNull();
    expect((await previewed({ start: TODAY })).late).toBeNull();
  });
});

test('what is done early shows the days it was really done, and its phase and engagement begin with it', async () => {
  const id = await startSmall(world.lead, world.harness, { start: '2026-12-07' });
  const plan = async (): Promise<EngagementPlan> => (await world.lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  const before = await plan();
  expect(before.engagement.start).toBe('2026-12-07');
  const ink = before.tasks.find(({ title }) => title === 'Ink');
  await world.lead.patch(`/tasks/${ink?.id}`, { version: ink?.version, status: 'done' }).expect(200);
  await world.harness.settle();
  const after = await plan();
  expect(after.tasks.find(({ title }) => title === 'Ink')).toMatchObject({ start: TODAY, due: TODAY });
  expect(after.phases[0]?.start).toBe(TODAY);
  expect(after.engagement.start).toBe(TODAY);
  const done = after.tasks.find(({ title }) => title === 'Ink');
  await world.lead.patch(`/tasks/${ink?.id}`, { version: done?.version, status: 'queued' }).expect(200);
  await world.harness.settle();
  const back = await plan();
  expect(back.engagement.start).toBe('2026-12-07');
  expect(back.tasks.find(({ title }) => title === 'Ink')?.due).toBe(ink?.due);
});
