import type { EngagementPlan, PlanChanged, PlanTask, WeekPlan, Workload } from '@crew/contract';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';
import { KeepLoad } from './keep-load.ts';

const { harness, lead } = testWorld();

const WINDOW = '?from=2026-11-16&to=2027-03-31';
const read = async (): Promise<Workload> => (await lead.get(`/workload${WINDOW}`).expect(200)).body as Workload;
const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (id: string, title: string): Promise<PlanTask> =>
  (await planOf(id)).tasks.find((task) => task.title === title) as PlanTask;

const readWeeks = async (): Promise<WeekPlan> => (await lead.get('/week-plan').expect(200)).body as WeekPlan;

/** What is kept and brought up to date is what computing everything anew gives, in the grid and in the week's planning. */
async function staysTrue(): Promise<{ readonly grid: Workload; readonly weeks: WeekPlan }> {
  const [grid, weeks] = [await read(), await readWeeks()];
  const agency = await harness.database.row<{ id: string }>('SELECT id FROM agency');
  harness.app.get(KeepLoad).forget(agency?.id ?? '');
  expect(grid).toEqual(await read());
  harness.app.get(KeepLoad).forget(agency?.id ?? '');
  expect(weeks).toEqual(await readWeeks());
  return { grid, weeks };
}

const rename = async (id: string, name: string): Promise<void> => {
  const { version } = (await planOf(id)).engagement;
  await lead.patch(`/engagements/${id}`, { version, name }).expect(200);
};

/** Hands the first phase off and picks it up, later than it was planned. */
async function passOn(id: string): Promise<void> {
  const handoff = (await planOf(id)).phases[0]?.handoffId;
  const receiverId = harness.ids.people['Mak'];
  await lead.post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'In a hurry', receiverId }).expect(200);
  await staysTrue();
  await lead.post(`/handoffs/${handoff}/pick-up`, { version: 2 }).expect(200);
}

test('whatever changes, the grid is what computing everything anew would be', async () => {
  const first = await startSmall(lead, harness, { name: 'First' });
  const before = await staysTrue();
  const second = await startSmall(lead, harness, { name: 'Second', likelihood: 50 });
  const both = await staysTrue();
  expect(both).not.toEqual(before);
  const people = harness.ids.people;
  const edit = async (title: string, change: object): Promise<void> => {
    const { id, version } = await taskOf(first, title);
    await lead.patch(`/tasks/${id}`, { version, ...change }).expect(200);
  };
  const steps: readonly (readonly [string, () => Promise<unknown>])[] = [
    ['a task takes longer', () => edit('Sketch', { days: 9, estimateMinutes: 3000 })],
    ['another does it', () => edit('Sketch', { assigneeIds: [people['Mak']] })],
    ['nobody does it', () => edit('Sketch', { assigneeIds: [] })],
    ['it is under way', () => edit('Sketch', { status: 'active' })],
    ['it is done', () => edit('Sketch', { status: 'done' })],
    [
      'it is put into a week',
      async () => lead.post('/week-plan/places', { tasks: [{ taskId: (await taskOf(first, 'Ink')).id, week: TODAY }] }).expect(200),
    ],
    ['it is called otherwise', () => edit('Ink', { title: 'Inking' })],
    ['time is logged', async () => lead.post(`/tasks/${(await taskOf(first, 'Inking')).id}/time`, { day: TODAY, minutes: 90 }).expect(201)],
    [
      'one is added',
      async () => lead.post(`/engagements/${first}/tasks`, { phaseId: (await planOf(first)).phases[0]?.id, title: 'Extra' }).expect(201),
    ],
    ['the client gets another colour', () => harness.database.rows(`UPDATE client SET hue = 'plum' WHERE id = $1`, [harness.ids.client])],
    ['the engagement is called otherwise', () => rename(first, 'First and last')],
    ['its next phase is picked up', () => passOn(first)],
    ['a proposal is accepted', () => lead.post(`/engagements/${second}/accept`).expect(200)],
    [
      'somebody is away',
      () => lead.post(`/crew/${people['Mak']}/time-off`, { from: '2026-12-01', to: '2026-12-04', note: '' }).expect(201),
    ],
    ['a day is closed', () => lead.post('/calendar/closed-days', { days: [{ day: '2026-12-09', name: 'Fair' }] }).expect(201)],
    [
      'a colleague joins',
      () => lead.post('/invitations', { people: [{ name: 'Nora West', email: 'nora@small.example', roles: ['Maker'] }] }).expect(201),
    ],
    ['a day goes by', async () => harness.clock.moveTo('2026-11-24')],
  ];
  let last = await staysTrue();
  for (const [name, step] of steps) {
    await step();
    await harness.settle();
    const now = await staysTrue();
    expect([name, JSON.stringify(now) === JSON.stringify(last)]).toEqual([name, false]);
    last = now;
  }
});

test('a change that is undone leaves the grid as it was', async () => {
  const id = await startSmall(lead, harness, { name: 'Undone' });
  const { id: task, version } = await taskOf(id, 'Cut');
  const before = (await staysTrue()).grid.rows.map((row) => row.load);
  const changed = await lead
    .post(`/engagements/${id}/changes`, { tasks: [{ id: task, version, days: 8, estimateMinutes: 2400 }] })
    .expect(201);
  expect((await staysTrue()).grid.rows.map((row) => row.load)).not.toEqual(before);
  await lead.post(`/changes/${(changed.body as PlanChanged).changeId}/undo`).expect(200);
  expect((await staysTrue()).grid.rows.map((row) => row.load)).toEqual(before);
});

test('many who ask at once get the same, also while something changes', async () => {
  const id = await startSmall(lead, harness, { name: 'At once' });
  const { id: task, version } = await taskOf(id, 'Cut');
  const answers = await Promise.all([
    ...Array.from({ length: 6 }, read),
    lead.patch(`/tasks/${task}`, { version, estimateMinutes: 4000 }).then(() => read()),
  ]);
  const { grid: now } = await staysTrue();
  expect(answers.at(-1)).toEqual(now);
});

test('days too far away to be kept are computed for the asking', async () => {
  const far = (await lead.get('/workload?from=2029-08-01&to=2029-08-31').expect(200)).body as Workload;
  expect(far.dates).toHaveLength(31);
  expect(far.rows.flatMap((row) => row.load).every((minutes) => minutes === 0)).toBe(true);
});
