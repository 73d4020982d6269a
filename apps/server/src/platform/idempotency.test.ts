import type { ErrorBody } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { PruneJob } from '../jobs/prune.job.ts';
import { ChangeStatus } from '../task/change-status.ts';
import { rowsOf } from './database.ts';
import { bindKey, withRequest } from './request-context.ts';

const { harness, lead } = testWorld();
let count = 0;
const newKey = (): string => `test-key-${++count}`;
const post = (caller: Caller, path: string, { body, key }: { readonly body?: object; readonly key: string }) =>
  caller.post(path, body).set('Idempotency-Key', key);
const rowsIn = async (table: string): Promise<number> =>
  (await harness.database.row<{ rows: number }>(`SELECT count(*)::int AS rows FROM ${table}`))?.rows ?? -1;

const changeIdIn = (answer: { readonly body: unknown } | undefined): string | null =>
  (answer?.body as { changeId: string | null }).changeId;
const waitingForLocks = async (): Promise<number> =>
  (
    await harness.database.rows(
      `SELECT 1 FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock' AND application_name = 'nimble-crew'`,
    )
  ).length;

/** What makes something, by the table in which it is made. */
async function makers(): Promise<readonly (readonly [table: string, path: string, body: object])[]> {
  const id = await startSmall(lead, harness, { name: `Twice ${++count}` });
  const plan = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as {
    tasks: { id: string; version: number }[];
    phases: { id: string }[];
  };
  const [first, second] = plan.tasks;
  const { template, client, people } = harness.ids;
  const series = {
    kind: 'line',
    clientId: client,
    templateId: template,
    firstDay: '2026-11-30',
    rule: 'FREQ=WEEKLY;BYDAY=MO',
    aheadDays: 7,
  };
  return [
    ['engagement', '/engagements', { templateId: template, clientId: client, name: `E ${count}`, start: TODAY }],
    ['task', `/engagements/${id}/tasks`, { phaseId: plan.phases[0]?.id, title: 'T' }],
    ['step', `/tasks/${first?.id}/steps`, { title: 'S' }],
    ['time_entry', `/tasks/${first?.id}/time`, { day: TODAY, minutes: 5 }],
    [
      '(SELECT DISTINCT batch_id FROM event WHERE undoes_id IS NULL) batch',
      `/engagements/${id}/changes`,
      { tasks: [{ id: second?.id, version: 1, priority: 'high' }] },
    ],
    ['deliverable', `/engagements/${id}/deliverables`, { name: 'D' }],
    ['template', '/templates', { name: `T ${count}` }],
    ['template', `/engagements/${id}/template`, { name: `From ${count}`, measure: 'planned' }],
    ['engagement_series', '/series', { ...series, name: `L ${count}` }],
    ['task_series', `/tasks/${second?.id}/series`, { rule: 'FREQ=WEEKLY;BYDAY=MO' }],
    ['client', '/clients', { name: `C ${count}` }],
    ['person', '/invitations', { people: [{ name: 'Twin', email: `twin${count}@small.example` }] }],
    ['custom_field', '/custom-fields', { name: `F ${count}`, kind: 'text' }],
    ['time_off', `/crew/${people['Mak']}/time-off`, { from: '2027-01-04', to: '2027-01-05' }],
  ];
}

test('pressed twice at once, everything that can be made is made once, and both get the same answer', async () => {
  for (const [table, path, body] of await makers()) {
    const [before, key] = [await rowsIn(table), newKey()];
    const once = await Promise.all([post(lead, path, { body, key }), post(lead, path, { body, key })]);
    const later = await post(lead, path, { body, key });
    const statuses = [...once, later].map(({ status }) => status);
    const made = (await rowsIn(table)) - before;
    expect({ path, statuses, made }).toEqual({ path, statuses: [201, 201, 201], made: 1 });
    expect({ path, body: once[1]?.body as unknown }).toEqual({ path, body: once[0]?.body as unknown });
  }
}, 120_000);

test('one engagement is made by a double click, and one by a double click in steps', async () => {
  const { template, client } = harness.ids;
  for (const path of ['/engagements', '/engagements/in-steps']) {
    const [before, key] = [await rowsIn('engagement'), newKey()];
    const body = { templateId: template, clientId: client, name: 'Double', start: TODAY };
    const answers = await Promise.all([post(lead, path, { body, key }), post(lead, path, { body, key })]);
    expect(await rowsIn('engagement')).toBe(before + 1);
    const ids = answers.map(({ text }) => /"id":"([^"]+)"/.exec(text)?.[1]);
    expect(ids[0]).toBe(ids[1]);
  }
});

test('over two processes too', async () => {
  const other = await harness.beside();
  const [there, key, before] = [await other.as('Lena'), newKey(), await rowsIn('client')];
  const answers = await Promise.all([lead, there].map((caller) => post(caller, '/clients', { body: { name: 'Both sides' }, key })));
  expect(answers.map(({ status }) => status)).toEqual([201, 201]);
  expect(await rowsIn('client')).toBe(before + 1);
  await other.close();
});

test('a key is somebody’s own: another person’s request with it is another request', async () => {
  const [key, oona] = [newKey(), await harness.as('Oona')];
  await post(lead, '/clients', { body: { name: 'Mine' }, key }).expect(201);
  await post(oona, '/clients', { body: { name: 'Theirs' }, key }).expect(201);
});

test('a key that was used for something else is refused, and so is one that is none', async () => {
  const key = newKey();
  await post(lead, '/clients', { body: { name: 'First' }, key }).expect(201);
  const answer = await post(lead, '/clients', { body: { name: 'Second' }, key }).expect(400);
  expect((answer.body as ErrorBody).message).toBe('This key was used for another request. Make a new one for each.');
  await post(lead, '/clients', { body: { name: 'Third' }, key: 'no key' }).expect(400);
});

test('what was refused has not used its key', async () => {
  const key = newKey();
  await post(lead, '/clients', { body: { name: '' }, key }).expect(400);
  await post(lead, '/clients', { body: { name: 'Now it has one' }, key }).expect(201);
});

test('an undo sent twice is done once', async () => {
  const id = await startSmall(lead, harness, { name: 'Undone twice' });
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as { tasks: { id: string }[] };
  const { changeId } = (await lead.patch(`/tasks/${tasks[0]?.id}`, { version: 1, days: 9 }).expect(200)).body as { changeId: string };
  const key = newKey();
  await Promise.all([1, 2].map(() => post(lead, `/changes/${changeId}/undo`, { key }).expect(200)));
});

test('a status sent again, over a line that broke, meets no change of its own', async () => {
  const id = await startSmall(lead, harness, { name: 'Status twice' });
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as { tasks: { id: string }[] };
  const [path, key] = [`/tasks/${tasks[0]?.id}`, newKey()];
  const send = () => lead.patch(path, { version: 1, status: 'active' }).set('Idempotency-Key', key);
  const answers = [...(await Promise.all([send(), send()])), await send()];
  expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
  expect(new Set(answers.map(changeIdIn)).size).toBe(1);
  const { version } = (await lead.get(path).expect(200)).body as { version: number };
  expect(version).toBe(2);
  await lead.patch(path, { version: 1, status: 'done' }).set('Idempotency-Key', newKey()).expect(409);
});

test('a status sent to two processes, both of which have read the task before either writes, is answered with the same change', async () => {
  const id = await startSmall(lead, harness, { name: 'Status twice, side by side' });
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as { tasks: { id: string }[] };
  const [path, key, other] = [`/tasks/${tasks[0]?.id}`, newKey(), await harness.beside()];
  const there = await other.as('Lena');
  const answers = await harness.database.transaction(async (manager) => {
    await rowsOf(manager, 'SELECT 1 FROM engagement WHERE id = $1 FOR UPDATE', [id]);
    const sent = [lead, there].map(
      async (caller) => await caller.patch(path, { version: 1, status: 'active' }).set('Idempotency-Key', key),
    );
    while ((await waitingForLocks()) < sent.length);
    return { sent: Promise.all(sent) };
  });
  const both = await answers.sent;
  expect(both.map(({ status }) => status)).toEqual([200, 200]);
  expect(changeIdIn(both[0])).toEqual(expect.any(String));
  expect(changeIdIn(both[1])).toBe(changeIdIn(both[0]));
  await other.close();
});

test('a transaction that has just used its key does not take itself for an earlier one: a stale status is still refused', async () => {
  const id = await startSmall(lead, harness, { name: 'Stale' });
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as { tasks: { id: string }[] };
  const taskId = tasks[0]?.id as string;
  await lead.patch(`/tasks/${taskId}`, { version: 1, title: 'Changed by somebody' }).expect(200);
  const who = await harness.whoIs('Lena');
  const outcome = new Promise<unknown>((resolve) =>
    withRequest({ key: newKey(), window: undefined, origin: { ip: '', userAgent: '' } }, () => {
      bindKey(who.accountId, { method: 'PATCH', url: `/api/tasks/${taskId}`, body: {} });
      harness.database
        .transaction((manager) => harness.app.get(ChangeStatus).within(manager, who, { taskId, input: { version: 1, status: 'done' } }))
        .then(() => resolve('done'), resolve);
    }),
  );
  expect(await outcome).toMatchObject({ code: 'changed-meanwhile' });
});

test('an answer too large to be kept is not given twice, and its change is not made twice', async () => {
  const { id } = (await lead.post('/templates', { name: `Large ${++count}` }).expect(201)).body as { id: string };
  const view = (await lead.get(`/templates/${id}/content`).expect(200)).body as {
    revision: number;
    content: { tasks: object[]; phases: { id: string }[] };
  };
  const kept = (await lead.get(`/templates/${harness.ids.template}/content`).expect(200)).body as { content: { tasks: object[] } };
  const [sample] = kept.content.tasks;
  const tasks = Array.from({ length: 8 }, (_, index) => ({
    ...{ ...sample, id: `00000000-0000-4000-8000-${String(index).padStart(12, '0')}`, phaseId: view.content.phases[0]?.id },
    ...{ parentId: null, after: [], title: `Long ${index}`, description: 'x'.repeat(19_000) },
  }));
  const key = newKey();
  const send = () =>
    lead.put(`/templates/${id}/content`, { revision: view.revision, content: { ...view.content, tasks } }).set('Idempotency-Key', key);
  await send().expect(200);
  expect(((await send().expect(409)).body as ErrorBody).message).toMatch(/^This was done already/);
  expect(((await lead.get(`/templates/${id}/content`).expect(200)).body as { revision: number }).revision).toBe(view.revision + 1);
});

test('keys are kept for a day', async () => {
  const key = newKey();
  await post(lead, '/clients', { body: { name: 'Yesterday' }, key }).expect(201);
  await harness.database.rows(`UPDATE idempotency_key SET at = at - interval '25 hours' WHERE key = $1`, [key]);
  await harness.app.get(PruneJob).run();
  expect(await harness.database.rows('SELECT 1 FROM idempotency_key WHERE key = $1', [key])).toEqual([]);
});
