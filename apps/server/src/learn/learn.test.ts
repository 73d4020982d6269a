import type { EngagementPlan, LearnedTask, LearnedTemplate, TemplateContentView, TaskEdited } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const learned = async (): Promise<LearnedTemplate> =>
  (await lead.get(`/templates/${harness.ids.template}/learned`).expect(200)).body as LearnedTemplate;
const of = async (title: string): Promise<LearnedTask> => (await learned()).tasks.find((task) => task.title === title) as LearnedTask;
const accept = async (proposals: readonly string[], more: object = {}) =>
  lead.post(`/templates/${harness.ids.template}/learned`, { revision: (await learned()).revision, proposals, ...more });

/** An engagement whose sketch and ink took so many minutes and days. */
async function run(name: string, sketch: number, ink: number): Promise<string> {
  const id = await startSmall(lead, harness, { name });
  await harness.database.rows(
    `UPDATE task SET status = 'done', real_start = '2026-11-02', done_on = '2026-11-05', logged_minutes = CASE title WHEN 'Sketch' THEN $2::int ELSE $3::int END
     WHERE engagement_id = $1 AND title IN ('Sketch', 'Ink')`,
    [id, sketch, ink],
  );
  return id;
}

beforeAll(async () => {
  await run('First', 700, 950);
  await run('Second', 730, 960);
  await run('Third', 760, 980);
});

test('each task says what it took, in the middle and mostly, with the runs behind it', async () => {
  const sketch = await of('Sketch');
  expect(sketch).toMatchObject({
    phase: 'Draw',
    estimateMinutes: 480,
    days: 2,
    n: 3,
    minutes: { p20: 700, middle: 730, p80: 760 },
    dropped: 0,
  });
  expect(sketch.workingDays).toEqual({ p20: 4, middle: 4, p80: 4 });
  expect(sketch.runs.map((each) => [each.engagement.name, each.minutes, each.days]).sort()).toEqual([
    ['First', 700, 4],
    ['Second', 730, 4],
    ['Third', 760, 4],
  ]);
  expect((await learned()).engagements).toBe(3);
});

test('only what is off by enough is proposed', async () => {
  expect((await of('Sketch')).proposals.map((proposal) => proposal.kind)).toEqual(['effort', 'length']);
  expect((await of('Ink')).proposals).toMatchObject([{ kind: 'length', from: 3, to: 4 }]);
  expect((await of('Cut')).proposals).toEqual([]);
});

test('steps that people add, and tasks nobody planned, are told', async () => {
  const plans = await harness.database.rows<{ id: string }>(`SELECT id FROM task WHERE title = 'Sketch'`);
  for (const { id } of plans) await lead.post(`/tasks/${id}/steps`, { title: 'Show the lead' }).expect(201);
  expect((await of('Sketch')).proposals).toContainEqual(expect.objectContaining({ kind: 'add-step', title: 'Show the lead', runs: 3 }));
  for (const name of ['First', 'Second']) {
    const row = await harness.database.row<{ id: string }>('SELECT id FROM engagement WHERE name = $1', [name]);
    const { phases } = (await lead.get(`/engagements/${row?.id}/plan`).expect(200)).body as EngagementPlan;
    const { body } = await lead.post(`/engagements/${row?.id}/tasks`, { phaseId: phases[0]?.id, title: 'Scan old panels' }).expect(201);
    const { task } = body as TaskEdited;
    await lead.patch(`/tasks/${task.id}`, { version: task.version, status: 'done' }).expect(200);
    await harness.settle();
  }
  expect((await learned()).extras).toMatchObject([{ title: 'Scan old panels', phase: 'Draw', minutes: null, days: 1, runs: [{}, {}] }]);
});

test('one that is added again and again is taken into the template in one step, as it usually was', async () => {
  const rows = await harness.database.rows<{ id: string }>(`SELECT id FROM task WHERE title = 'Scan old panels'`);
  for (const { id } of rows) await lead.post(`/tasks/${id}/time`, { day: '2026-11-23', minutes: 100 }).expect(201);
  const [extra] = (await learned()).extras;
  expect(extra?.minutes).toBe(105);
  const after = (await (await accept([extra?.id as string])).body) as TemplateContentView;
  const added = after.content.tasks.find((task) => task.title === 'Scan old panels');
  expect(added).toMatchObject({ estimateMinutes: 105, days: 1, kind: 'work', after: [] });
  expect(after.content.phases.find(({ id }) => id === added?.phaseId)?.name).toBe('Draw');
  // What the template has now is an addition no more.
  expect((await learned()).extras).toEqual([]);
});

test('what most runs drop can be left out of the template, with its dependencies', async () => {
  await harness.database.rows(`UPDATE task SET status = 'dropped', done_on = NULL WHERE title = 'Ink' AND status = 'done'`);
  expect((await of('Ink')).proposals).toMatchObject([{ kind: 'drop-task', runs: 3, of: 3 }]);
  const after = (await (await accept([(await of('Ink')).proposals[0]?.id as string])).body) as TemplateContentView;
  expect(after.content.tasks.map((task) => task.title)).not.toContain('Ink');
  expect(after.content.tasks.find((task) => task.title === 'Client looks')?.after).toEqual([]);
});

test('what is chosen becomes the next version, and nothing else; running work keeps its own', async () => {
  const before = (await lead.get(`/templates/${harness.ids.template}/content`).expect(200)).body as TemplateContentView;
  const [effort, , step] = (await of('Sketch')).proposals;
  const after = (await (
    await accept([effort?.id as string, step?.id as string], { note: 'Sketches take longer' })
  ).body) as TemplateContentView;
  expect([after.version, after.isChanged]).toEqual([before.version + 1, false]);
  const sketch = after.content.tasks.find((task) => task.title === 'Sketch');
  expect([sketch?.estimateMinutes, sketch?.days, sketch?.steps]).toEqual([735, 2, ['Front', 'Back', 'Show the lead']]);
  expect((await of('Sketch')).proposals.map((proposal) => proposal.kind)).toEqual(['length']);
  const kept = await harness.database.rows<{ minutes: number }>(
    `SELECT DISTINCT estimate_minutes AS minutes FROM task WHERE title = 'Sketch'`,
  );
  expect(kept).toEqual([{ minutes: 480 }]);
});

test('what no longer holds is refused, and a stale template too; neither makes a version', async () => {
  const { version, revision } = await learned();
  expect((await accept([`effort ${harness.ids.template}`])).status).toBe(400);
  await lead
    .post(`/templates/${harness.ids.template}/learned`, { revision: revision - 1, proposals: [(await of('Sketch')).proposals[0]?.id] })
    .expect(409);
  expect((await learned()).version).toBe(version);
  await (await harness.as('Mak')).get(`/templates/${harness.ids.template}/learned`).expect(200);
});
