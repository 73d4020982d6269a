import type { EngagementPlan, HandoffSheet, PlanTask, RuleDays, TaskSeriesView, TaskEdited, TaskSheet } from '@crew/contract';
import { startSmall, testWorld, type Caller } from '../../test/harness.ts';
import { RepeatJob } from './repeat.job.ts';

const { harness, lead } = testWorld();

/** As the queue would each minute. */
async function runJobs(): Promise<void> {
  await harness.app.get(RepeatJob).all();
  await harness.settle();
}

const planOf = async (id: string): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
const taskIn = (plan: EngagementPlan, title: string): PlanTask => plan.tasks.find((task) => task.title === title) as PlanTask;
const readSeries = async (id: string): Promise<TaskSeriesView> => (await lead.get(`/task-series/${id}`).expect(200)).body as TaskSeriesView;

/** A call in a long engagement that a rule makes repeat. */
async function withCall(more: object = {}, by: Caller = lead): Promise<{ engagementId: string; series: TaskSeriesView; taskId: string }> {
  const engagementId = await startSmall(lead, harness, { name: 'Calls', promise: '2027-03-31' });
  const plan = await planOf(engagementId);
  const made = await lead
    .post(`/engagements/${engagementId}/tasks`, { phaseId: plan.phases[0]?.id, title: 'Call', days: 1, estimateMinutes: 30 })
    .expect(201);
  const { id, version } = (made.body as TaskEdited).task;
  const dora = harness.ids.people['Dora'];
  await lead.patch(`/tasks/${id}`, { version, assigneeIds: [dora], fixedDay: '2026-11-24', isShownToClient: true }).expect(200);
  const series = (await by.post(`/tasks/${id}/series`, { rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', ...more }).expect(201))
    .body as TaskSeriesView;
  return { engagementId, series, taskId: id };
}

const calls = (plan: EngagementPlan): PlanTask[] =>
  plan.tasks.filter((task) => task.title === 'Call').sort((one, other) => (one.start < other.start ? -1 : 1));
const daysOf = (plan: EngagementPlan): string[] => calls(plan).map((task) => task.start);

test('every second Tuesday is made six weeks ahead, with people, effort and what the client sees', async () => {
  const { engagementId, series } = await withCall();
  const plan = await planOf(engagementId);
  expect(daysOf(plan)).toEqual(['2026-11-24', '2026-12-08', '2026-12-22']);
  for (const call of calls(plan))
    expect(call).toMatchObject({
      ...{ estimateMinutes: 30, isShownToClient: true, seriesId: series.id, isCritical: false },
      assignees: [{ name: 'Dora Quill' }],
    });
  expect(series.coming.slice(0, 4).map(({ on }) => on)).toEqual(['2026-11-24', '2026-12-08', '2026-12-22', '2027-01-05']);
});

test('a task on a Monday that is to repeat every second Tuesday begins on the Tuesday; one that has begun stays where it is', async () => {
  const engagementId = await startSmall(lead, harness, { name: 'From Monday', promise: '2027-03-31' });
  const sketch = taskIn(await planOf(engagementId), 'Sketch');
  expect(sketch.start).toBe('2026-11-23');
  const repeat = (id: string) => lead.post(`/tasks/${id}/series`, { rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU' });
  const series = (await repeat(sketch.id).expect(201)).body as TaskSeriesView;
  expect(series).toMatchObject({
    firstDay: '2026-11-24',
    made: [{ day: '2026-11-24', start: '2026-11-24' }, { day: '2026-12-08' }, { day: '2026-12-22' }],
  });
  const other = taskIn(await planOf(await startSmall(lead, harness, { name: 'Starting', promise: '2027-03-31' })), 'Sketch');
  await lead.patch(`/tasks/${other.id}`, { version: other.version, status: 'active' }).expect(200);
  const begun = (await repeat(other.id).expect(201)).body as TaskSeriesView;
  expect(begun.made.map(({ start }) => start)).toEqual(['2026-11-23', '2026-11-24', '2026-12-08', '2026-12-22']);
});

test('what is made has all the first one has: custom fields, files, work outside, web links, labels and steps', async () => {
  const engagementId = await startSmall(lead, harness, { name: 'All of it', promise: '2027-03-31' });
  const ink = taskIn(await planOf(engagementId), 'Ink');
  const field = (await lead.post('/custom-fields', { name: 'Sheet size', kind: 'text' }).expect(201)).body as { id: string };
  const file = (await lead.post('/files').attach('file', Buffer.from('words'), 'words.txt').expect(201)).body as { id: string };
  const given = {
    customFields: [{ fieldId: field.id, value: 'A2' }],
    pageLinks: [{ title: 'How', url: 'https://example.org' }],
    ...{ labels: ['blue'], priority: 'high', mayStartEarly: true, isChargeable: false, after: [] },
  };
  const outside = { maker: 'Glass works', turnaroundDays: 5, bufferDays: 1, state: 'briefed', neededOn: '2026-12-01' };
  await lead.patch(`/tasks/${ink.id}`, { version: ink.version, ...given, outside, fileIds: [file.id] }).expect(200);
  await lead.post(`/tasks/${ink.id}/steps`, { title: 'Outline' }).expect(201);
  await lead.post(`/tasks/${ink.id}/series`, { rule: 'FREQ=WEEKLY;BYDAY=WE' }).expect(201);
  const made = (await planOf(engagementId)).tasks.filter((task) => task.title === 'Ink').at(-1) as PlanTask;
  expect(made.id).not.toBe(ink.id);
  const sheet = (await lead.get(`/tasks/${made.id}`).expect(200)).body as TaskSheet;
  const { after: _after, ...kept } = given;
  expect(sheet).toMatchObject({ ...kept, files: [{ id: file.id, name: 'words.txt' }], steps: [{ title: 'Outline', isDone: false }] });
  expect(sheet.outside).toMatchObject({ maker: 'Glass works', turnaroundDays: 5, bufferDays: 1, state: 'to-brief', neededOn: null });
});

test('it stands beside the plan: no phase, no finish and no gate waits for it', async () => {
  const engagementId = await startSmall(lead, harness, { name: 'Alone' });
  const before = await planOf(engagementId);
  const { engagementId: other } = await withCall();
  const after = await planOf(other);
  expect(after.engagement.finish).toBe(before.engagement.finish);
  expect(after.phases.map(({ finish }) => finish)).toEqual(before.phases.map(({ finish }) => finish));
  const handoff = after.phases[0]?.handoffId as string;
  const sheet = (await lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
  expect(sheet.openTasks.map(({ title }) => title)).not.toContain('Call');
});

test('it counts in the load of the weeks it was made for', async () => {
  const { taskId } = await withCall();
  const { rows } = (await lead.get('/workload?from=2026-12-21&to=2026-12-27').expect(200)).body as {
    rows: { person: { name: string }; tasks: { title: string }[] }[];
  };
  expect(rows.find(({ person }) => person.name === 'Dora Quill')?.tasks.map(({ title }) => title)).toContain('Call');
  expect(taskId).not.toBe('');
});

test('the job goes on as days pass, once however often it runs', async () => {
  const { engagementId } = await withCall();
  harness.clock.moveTo('2026-12-14');
  await runJobs();
  const days = daysOf(await planOf(engagementId));
  expect(days).toEqual(['2026-11-24', '2026-12-08', '2026-12-22', '2027-01-05', '2027-01-19']);
  await runJobs();
  await harness.database.rows(`UPDATE task_series SET settled_on = NULL`);
  await runJobs();
  expect(daysOf(await planOf(engagementId))).toEqual(days);
  harness.clock.moveTo('2026-11-23');
});

test('one that was taken out stays out; one that was moved is not made again', async () => {
  const { engagementId } = await withCall();
  const [, second, third] = calls(await planOf(engagementId)) as [PlanTask, PlanTask, PlanTask];
  await lead
    .post(`/engagements/${engagementId}/changes`, { tasks: [{ id: second.id, version: second.version, isDeleted: true }] })
    .expect(201);
  await lead.patch(`/tasks/${third.id}`, { version: third.version, fixedDay: '2026-12-23' }).expect(200);
  await harness.database.rows(`UPDATE task_series SET settled_on = NULL`);
  await runJobs();
  expect(daysOf(await planOf(engagementId))).toEqual(['2026-11-24', '2026-12-23']);
});

test('days left out and extra days are exceptions, and can be taken back', async () => {
  const { engagementId, series } = await withCall();
  const changed = (
    await lead.patch(`/task-series/${series.id}`, { version: series.version, skipped: ['2026-12-08'], extra: ['2026-12-10'] }).expect(200)
  ).body as TaskSeriesView;
  expect(daysOf(await planOf(engagementId))).toEqual(['2026-11-24', '2026-12-10', '2026-12-22']);
  await lead.patch(`/task-series/${series.id}`, { version: changed.version, skipped: [], extra: [] }).expect(200);
  expect(daysOf(await planOf(engagementId))).toEqual(['2026-11-24', '2026-12-08', '2026-12-22']);
});

test('a closed day moves it, before or after, or leaves it out', async () => {
  for (const [onClosed, days] of [
    ['after', ['2026-11-30', '2026-12-04']],
    ['before', ['2026-11-26', '2026-12-04']],
    ['skip', ['2026-12-04']],
  ] as const) {
    const { engagementId } = await withCall({ rule: 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20261204', onClosed });
    expect(daysOf(await planOf(engagementId))).toEqual(days);
  }
});

test('another rule holds from a day on; what somebody has touched stays', async () => {
  const { engagementId, series } = await withCall();
  const second = calls(await planOf(engagementId))[1] as PlanTask;
  await lead.patch(`/tasks/${second.id}`, { version: second.version, title: 'Call', estimateMinutes: 45 }).expect(200);
  const change = { version: series.version, rule: 'FREQ=WEEKLY;BYDAY=WE', from: '2026-12-07' };
  await lead.patch(`/task-series/${series.id}`, change).expect(200);
  expect(daysOf(await planOf(engagementId))).toEqual(['2026-11-24', '2026-12-08', '2026-12-09', '2026-12-16', '2026-12-23', '2026-12-30']);
  await lead.patch(`/task-series/${series.id}`, change).expect(409);
  await lead.patch(`/task-series/${series.id}`, { version: series.version + 1, rule: change.rule, from: '2026-11-02' }).expect(400);
});

test('stopped it ends, gone on with it comes back from then on', async () => {
  const { engagementId, series } = await withCall();
  const stopped = (await lead.post(`/task-series/${series.id}/stop`, { version: series.version, from: '2026-12-10' }).expect(200))
    .body as TaskSeriesView;
  expect(daysOf(await planOf(engagementId))).toEqual(['2026-11-24', '2026-12-08']);
  expect(stopped.coming.map(({ on }) => on)).toEqual(['2026-11-24', '2026-12-08']);
  await lead.post(`/task-series/${series.id}/stop`, { version: stopped.version, from: '2026-11-23' }).expect(400);
  await lead.post(`/task-series/${series.id}/resume`, { version: stopped.version }).expect(200);
  expect(daysOf(await planOf(engagementId))).toEqual(['2026-11-24', '2026-12-08', '2026-12-22']);
  await lead.post(`/task-series/${series.id}/resume`, { version: stopped.version + 1 }).expect(409);
});

test('later ones can be made like one of them', async () => {
  const { engagementId, series } = await withCall();
  const [first] = calls(await planOf(engagementId)) as [PlanTask];
  const edit = { version: first.version, title: 'Call', estimateMinutes: 60, assigneeIds: [harness.ids.people['Mak']] };
  await lead.patch(`/tasks/${first.id}`, edit).expect(200);
  await lead.post(`/tasks/${first.id}/steps`, { title: 'Agenda' }).expect(201);
  await lead.post(`/task-series/${series.id}/like`, { version: series.version, taskId: first.id }).expect(200);
  for (const call of calls(await planOf(engagementId)))
    expect(call).toMatchObject({ estimateMinutes: 60, stepsAll: 1, assignees: [{ name: 'Mak Reyes' }] });
});

test('what was missed is kept, or dropped when the next one comes', async () => {
  const keeping = await withCall({ rule: 'FREQ=DAILY' });
  const dropping = await withCall({ rule: 'FREQ=DAILY', whenMissed: 'drop' });
  harness.clock.moveTo('2026-11-26');
  await runJobs();
  const statuses = async (id: string): Promise<string[]> =>
    calls(await planOf(id))
      .slice(0, 3)
      .map((task) => task.status);
  expect(await statuses(keeping.engagementId)).toEqual(['queued', 'queued', 'queued']);
  expect(await statuses(dropping.engagementId)).toEqual(['dropped', 'dropped', 'queued']);
  harness.clock.moveTo('2026-11-23');
});

test('it goes along into the phase that runs, or ends with its own', async () => {
  const along = await withCall();
  const bound = await withCall({ isPhaseOnly: true });
  for (const { engagementId } of [along, bound]) {
    const handoff = (await planOf(engagementId)).phases[0]?.handoffId as string;
    const { version } = (await lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
    const give = { version, words: '', reason: 'All is well', receiverId: harness.ids.people['Lena'] };
    await lead.post(`/handoffs/${handoff}/hand-off`, give).expect(200);
    await lead.post(`/handoffs/${handoff}/pick-up`, { version: version + 1 }).expect(200);
  }
  const [went, ended] = [await planOf(along.engagementId), await planOf(bound.engagementId)];
  expect(
    calls(went)
      .slice(1)
      .map(({ phaseId }) => phaseId),
  ).toEqual([went.phases[1]?.id, went.phases[1]?.id]);
  expect(daysOf(ended)).toEqual(['2026-11-24']);
});

test('subtasks of one keep it on its day', async () => {
  const { engagementId } = await withCall();
  const second = calls(await planOf(engagementId))[1] as PlanTask;
  const part = { phaseId: second.phaseId, parentId: second.id, title: 'Slides', days: 1 };
  await lead.post(`/engagements/${engagementId}/tasks`, part).expect(201);
  const plan = await planOf(engagementId);
  expect(taskIn(plan, 'Slides').start).toBe('2026-12-08');
  expect(plan.engagement.finish < '2026-12-08').toBe(true);
});

test('a template made of the engagement has it once', async () => {
  const { engagementId, series } = await withCall();
  const made = (await lead.post(`/engagements/${engagementId}/template`, { name: 'With a call', measure: 'planned' }).expect(201)).body as {
    id: string;
  };
  const { content } = (await lead.get(`/templates/${made.id}/content`).expect(200)).body as { content: { tasks: { title: string }[] } };
  expect(content.tasks.filter(({ title }) => title === 'Call')).toHaveLength(1);
  const third = (await readSeries(series.id)).made[2]?.id;
  await lead.post(`/engagements/${engagementId}/template`, { name: 'Third call', measure: 'planned', taskId: third }).expect(201);
});

test('it cannot repeat twice, nor with subtasks, nor by a rule that is none', async () => {
  const { taskId, engagementId } = await withCall();
  const answer = await lead.post(`/tasks/${taskId}/series`, { rule: 'FREQ=DAILY' }).expect(409);
  expect(answer.body).toMatchObject({ code: 'already-there', message: expect.stringContaining('repeats already') as string });
  const plan = await planOf(engagementId);
  const cut = taskIn(plan, 'Cut');
  await lead.post(`/engagements/${engagementId}/tasks`, { phaseId: cut.phaseId, parentId: cut.id, title: 'Saw', days: 1 }).expect(201);
  await lead.post(`/tasks/${cut.id}/series`, { rule: 'FREQ=DAILY' }).expect(409);
  const bad = await lead.post(`/tasks/${taskId}/series`, { rule: 'FREQ=HOURLY' }).expect(400);
  expect(bad.body).toMatchObject({ field: 'rule', message: expect.stringContaining('DAILY, WEEKLY') as string });
});

test('the days of a rule can be looked at first', async () => {
  const { days } = (await lead.post('/rhythms/preview', { rule: 'FREQ=MONTHLY;BYDAY=-1FR', from: '2026-11-23' }).expect(200))
    .body as RuleDays;
  expect(days.slice(0, 2)).toEqual([
    { day: '2026-11-27', on: '2026-11-30', each: 1 },
    { day: '2026-12-25', on: '2026-12-25', each: 1 },
  ]);
  expect(days).toHaveLength(24);
});
