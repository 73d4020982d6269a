import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type {
  ChangeMade,
  EngagementPlan,
  HistoryPage,
  RunPage,
  WebhookAdded,
  WebhookDeliveries,
  WebhookLine,
  WebhookSaved,
} from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { signatureOf } from './call-webhook.ts';

/* Oona owns the agency; a program listens on a port of this machine. */

interface Call {
  readonly body: string;
  readonly key: string;
  readonly signature: string;
}

const { harness, lead } = testWorld();
let owner: Caller;
let program: Server;
let url: string;
let calls: Call[];
let answer: number;

beforeAll(async () => {
  owner = await harness.as('Oona');
  program = createServer((request, response) => {
    void textOf(request).then((body) => {
      calls.push({ body, key: String(request.headers['idempotency-key']), signature: String(request.headers['x-crew-signature']) });
      response.writeHead(answer, { location: '/elsewhere' }).end();
    });
  });
  await new Promise<void>((resolve) => program.listen(0, '127.0.0.1', resolve));
  url = `http://127.0.0.1:${(program.address() as AddressInfo).port}/hook`;
});
afterAll(() => new Promise((resolve) => program.close(resolve)));
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.settle();
  [calls, answer] = [[], 204];
  await harness.database.rows('DELETE FROM webhook');
});

async function textOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const part of request) text += String(part);
  return text;
}
const add = async (kinds: readonly string[]): Promise<WebhookAdded> =>
  (await owner.post('/webhooks', { name: 'Board', url, kinds }).expect(201)).body as WebhookAdded;
const deliveries = async (only = ''): Promise<WebhookDeliveries> =>
  (await owner.get(`/webhooks/deliveries${only}`).expect(200)).body as WebhookDeliveries;
async function handOff(): Promise<string> {
  const id = await startSmall(lead, harness, { name: 'Hooked' });
  const handoff = ((await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan).phases[0]?.handoffId as string;
  await lead
    .post(`/handoffs/${handoff}/hand-off`, { version: 1, words: '', reason: 'Soon', receiverId: harness.ids.people['Mak'] })
    .expect(200);
  await harness.settle();
  return handoff;
}
/** The queue tries again later; here it is later now. */
async function later(): Promise<void> {
  await harness.database.rows('UPDATE graphile_worker._private_jobs SET run_at = now() WHERE attempts > 0');
  await harness.settle();
}

test('a program is told of the events it asked for, once each, signed', async () => {
  const { secret, webhook } = await add(['handed-off']);
  const handoff = await handOff();
  expect(calls).toHaveLength(1);
  const [call] = calls as [Call];
  expect(JSON.parse(call.body)).toMatchObject({
    ...{ kind: 'handed-off', subject: 'handoff', subjectId: handoff, by: 'person' },
    facts: { engagementName: 'Hooked', phase: 'Draw' },
  });
  const [, at, signature] = /^t=(\d+),sha256=(\w+)$/.exec(call.signature) ?? [];
  expect(signature).toBe(signatureOf(secret, Number(at), call.body));
  expect((await deliveries()).deliveries).toMatchObject([{ id: call.key, state: 'sent', status: 204, tries: 1 }]);
  // The secret is told once, and kept sealed.
  const kept = await harness.database.row<{ sealed: string }>('SELECT sealed_secret AS sealed FROM webhook');
  expect(kept?.sealed).not.toContain(secret);
  expect(JSON.stringify((await owner.get('/webhooks').expect(200)).body)).not.toContain(secret);
  await owner.patch(`/webhooks/${webhook.id}`, { version: 1, isOn: false }).expect(200);
  await handOff();
  expect(calls).toHaveLength(1);
});

test('a call that fails is tried again under the same id, a redirect is not followed', async () => {
  await add(['handed-off']);
  answer = 503;
  await handOff();
  answer = 302;
  await later();
  expect((await deliveries()).deliveries).toMatchObject([{ state: 'waiting', status: 302, tries: 2, trouble: 'It answered 302.' }]);
  answer = 200;
  await later();
  expect((await deliveries()).deliveries).toMatchObject([{ state: 'sent', status: 200, tries: 3, trouble: null }]);
  expect(new Set(calls.map(({ key, body }) => `${key} ${body}`)).size).toBe(1);
  expect(calls).toHaveLength(3);
});

test('what is given up is listed, and sent again when an owner asks for it', async () => {
  await add(['handed-off']);
  answer = 500;
  await handOff();
  for (let times = 1; times < 10; times++) await later();
  expect(calls).toHaveLength(10);
  const { deliveries: given, undeliverable } = await deliveries('?only=undeliverable');
  expect([given.length, undeliverable]).toEqual([1, 1]);
  await later();
  expect(calls).toHaveLength(10);
  answer = 200;
  await owner.post(`/webhooks/deliveries/${given[0]?.id}/retry`).expect(204);
  await harness.settle();
  expect((await deliveries()).deliveries).toMatchObject([{ state: 'sent' }]);
  await owner.post(`/webhooks/deliveries/${given[0]?.id}/retry`).expect(409);
});

test('a rule calls a webhook with what it ran at, once', async () => {
  const { webhook } = await add([]);
  const content = { when: { kind: 'handed-off', slots: {} }, if: [], then: [{ do: 'call-webhook', slots: { hook: webhook.id } }] };
  const { rule } = (await lead.post('/rules', { level: 'agency', content }).expect(201)).body as { rule: { id: string } };
  await handOff();
  expect(calls.map(({ body }) => JSON.parse(body) as object)).toMatchObject([{ kind: 'rule', facts: { phase: 'Draw' } }]);
  const { runs } = (await lead.get(`/rules/runs?rule=${rule.id}`).expect(200)).body as RunPage;
  expect(runs[0]?.effects).toMatchObject([{ state: 'done', said: 'Called Board.' }]);
  // One that is gone fails with a sentence, and nothing else does.
  await owner.delete(`/webhooks/${webhook.id}`).expect(200);
  await handOff();
  const after = (await lead.get(`/rules/runs?rule=${rule.id}`).expect(200)).body as RunPage;
  expect(after.runs[0]?.effects).toMatchObject([{ state: 'failed', said: 'The webhook is gone. Choose another one in the rule.' }]);
  await lead.delete(`/rules/${rule.id}`).expect(200);
});

test('what waits to be sent is not sent once the webhook is deleted', async () => {
  const { webhook } = await add(['handed-off']);
  answer = 500;
  await handOff();
  const { changeId } = (await owner.delete(`/webhooks/${webhook.id}`).expect(200)).body as ChangeMade;
  answer = 204;
  await later();
  expect(calls).toHaveLength(1);
  await owner.post(`/changes/${changeId}/undo`).expect(200);
  expect((await deliveries()).deliveries).toMatchObject([{ state: 'undeliverable', trouble: 'The webhook was deleted.' }]);
});

test('two owners who edit at once do not write over each other', async () => {
  const { webhook } = await add(['handed-off']);
  const { webhook: first } = (await owner.patch(`/webhooks/${webhook.id}`, { version: 1, name: 'Wall' }).expect(200)).body as WebhookSaved;
  expect(first).toMatchObject({ version: 2, name: 'Wall', kinds: ['handed-off'] });
  expect((await owner.patch(`/webhooks/${webhook.id}`, { version: 1, name: 'Other' }).expect(409)).body).toMatchObject({
    code: 'changed-meanwhile',
  });
  await lead.get('/webhooks').expect(403);
});

test('what was changed and deleted stands in the history for owners alone, and is undone by field', async () => {
  const { webhook } = await add(['handed-off']);
  const change = (body: object) => owner.patch(`/webhooks/${webhook.id}`, body).expect(200);
  const { changeId } = (await change({ version: 1, name: 'Wall', isOn: false })).body as WebhookSaved;
  await change({ version: 2, name: 'Door' });
  // The name was changed since: it stays, and is named.
  expect((await owner.post(`/changes/${changeId}/undo`).expect(200)).body).toMatchObject({ kept: [{ title: 'Door', field: 'name' }] });
  const list = async () => (await owner.get('/webhooks').expect(200)).body as WebhookLine[];
  expect(await list()).toMatchObject([{ name: 'Door', isOn: true, kinds: ['handed-off'] }]);
  const removed = (await owner.delete(`/webhooks/${webhook.id}`).expect(200)).body as ChangeMade;
  expect([await list(), (await deliveries()).deliveries]).toEqual([[], []]);
  await handOff();
  expect(calls).toEqual([]);
  await lead.post(`/changes/${removed.changeId}/undo`).expect(403);
  await owner.post(`/changes/${removed.changeId}/undo`).expect(200);
  expect(await list()).toMatchObject([{ id: webhook.id, name: 'Door' }]);
  const kinds = async (caller: Caller) =>
    ((await caller.get('/history?part=settings').expect(200)).body as HistoryPage).lines
      .filter(({ subject }) => subject.id === webhook.id)
      .map(({ kind }) => kind);
  expect(await kinds(owner)).toEqual([
    ...['webhook-changed', 'webhook-removed', 'webhook-changed', 'webhook-changed', 'webhook-changed', 'webhook-added'],
  ]);
  expect(await kinds(lead)).toEqual([]);
});
