import { spawn, type ChildProcess } from 'node:child_process';
import { createServer as createProgram, type Server } from 'node:http';
import { createServer, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { EngagementPlan, HandoffSheet, RuleContent, WebhookAdded } from '@crew/contract';
import { MailboxServer } from '../mail/mailbox-server.ts';
import { startSmall, testWorld, TODAY } from '../../test/harness.ts';

/*
 * Effects of rules happen once, through crashes: two processes of the server as they are started by people work
 * while 500 handoffs are made, and one of them is killed in the middle of it, again and again.
 */

const { harness, lead } = testWorld();

const ENGAGEMENTS = 20;
const ROUNDS = 25;
/** In so many of the engagements a mail is sent and a program called, too. */
const TOLD_OUTSIDE = 5;
const KILLS = 3;
/** What was under way in a process that was killed is taken up by another within this time. */
const TAKEN_UP_MS = 90_000;

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

/** A program that is called: how often under each key. */
const calls = new Map<string, number>();
let program: Server;

beforeAll(async () => {
  program = createProgram((request, response) => {
    const key = String(request.headers['idempotency-key']);
    calls.set(key, (calls.get(key) ?? 0) + 1);
    request.resume().on('end', () => response.writeHead(204).end());
  });
  await new Promise<void>((resolve) => program.listen(0, '127.0.0.1', resolve));
});
afterAll(() => new Promise((resolve) => program.close(resolve)));

/** A process of the server, once it answers. */
async function startServer(): Promise<ChildProcess> {
  const port = await freePort();
  const env = {
    ...process.env,
    ...{ CREW_DATABASE_URL: harness.databaseUrl, CREW_FILES: harness.filesRoot, CREW_PORT: String(port), CREW_QUIET: 'on' },
    ...{ CREW_SESSION_SECRET: 'for tests only', DEMO_TODAY: TODAY },
    CREW_MAIL_OUT: `127.0.0.1:${harness.app.get(MailboxServer).port}`,
  };
  const server = spawn(process.execPath, [join(import.meta.dirname, '../../dist/main.js')], {
    env,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  for (;;) {
    if (server.exitCode !== null) throw new Error('The server ended before it was ready.');
    const answer = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null);
    if (answer?.ok) return server;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

const gone = (server: ChildProcess): Promise<unknown> =>
  server.exitCode !== null || server.signalCode !== null ? Promise.resolve() : new Promise((resolve) => server.once('exit', resolve));

const count = async (sql: string): Promise<number> =>
  (await harness.database.row<{ count: number }>(`SELECT count(*)::int AS count FROM ${sql}`))?.count ?? -1;

/** Hands the first phase of an engagement off and back, again and again: each time is a handoff of its own. */
async function handOffOften(engagementId: string): Promise<void> {
  const { phases } = (await lead.get(`/engagements/${engagementId}/plan`).expect(200)).body as EngagementPlan;
  const handoff = phases[0]?.handoffId as string;
  let { version } = (await lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
  for (let round = 0; round < ROUNDS; round++) {
    const receiverId = harness.ids.people['Mak'];
    await lead.post(`/handoffs/${handoff}/hand-off`, { version: version++, words: '', reason: 'Soon', receiverId }).expect(200);
    await lead.post(`/handoffs/${handoff}/send-back`, { version: version++, question: 'Which one?' }).expect(200);
  }
}

test('each of 500 handoffs has its effects once, though processes are killed in the middle of them', async () => {
  const owner = await harness.as('Oona');
  const url = `http://127.0.0.1:${(program.address() as AddressInfo).port}/hook`;
  const { webhook } = (await owner.post('/webhooks', { name: 'Board', url, kinds: [] }).expect(201)).body as WebhookAdded;
  const dora = harness.ids.people['Dora'] as string;
  const content: RuleContent = {
    when: { kind: 'handed-off', slots: {} },
    if: [],
    then: [
      { do: 'tell', slots: { who: { by: 'person', id: dora }, text: '{phase} is handed off' } },
      { do: 'ask-decision', slots: { whom: { by: 'lead' }, text: 'Where does it go?' } },
    ],
  };
  await lead.post('/rules', { level: 'agency', content }).expect(201);
  const engagements: string[] = [];
  for (let index = 0; index < ENGAGEMENTS; index++) engagements.push(await startSmall(lead, harness, { name: `Quay ${index}` }));
  // What leaves the machine, of some of them.
  const outgoing: RuleContent['then'] = [
    { do: 'mail', slots: { who: { by: 'person', id: dora }, text: '{phase} is on its way' } },
    { do: 'call-webhook', slots: { hook: webhook.id } },
  ];
  for (const engagementId of engagements.slice(0, TOLD_OUTSIDE))
    await lead.post('/rules', { level: 'engagement', engagementId, content: { ...content, then: outgoing } }).expect(201);
  const servers = [await startServer(), await startServer()];

  let isMade = false;
  const making = Promise.all(engagements.map(handOffOften)).then(() => (isMade = true));
  for (let kill = 0; kill < KILLS; kill++) {
    // In the middle: some of the runs there will be are through, and others are under way.
    const before = await count(`rule_run WHERE state = 'done'`);
    for (let through = before; through < before + 40 && !isMade; through = await count(`rule_run WHERE state = 'done'`))
      await new Promise((resolve) => setTimeout(resolve, 50));
    const killed = servers[kill % 2] as ChildProcess;
    killed.kill('SIGKILL');
    await gone(killed);
    servers[kill % 2] = await startServer();
  }
  const lastKill = Date.now();
  await making;
  const isThrough = async (): Promise<boolean> =>
    (await count('event WHERE is_pending')) === 0 &&
    (await count(`rule_run WHERE state = 'waiting'`)) === 0 &&
    (await count(`mail WHERE kind = 'message' AND state = 'waiting'`)) === 0 &&
    (await count(`webhook_delivery WHERE state = 'waiting'`)) === 0 &&
    (await count(`event WHERE kind = 'told'`)) >= ENGAGEMENTS * ROUNDS;
  while (!(await isThrough()) && Date.now() - lastKill < TAKEN_UP_MS) await new Promise((resolve) => setTimeout(resolve, 250));
  for (const server of servers) server.kill('SIGTERM');
  await Promise.all(servers.map(gone));

  const sent = TOLD_OUTSIDE * ROUNDS;
  expect(await count(`event WHERE kind = 'handed-off'`)).toBe(500);
  expect(await count(`rule_run WHERE state = 'done'`)).toBe(500 + sent);
  expect(await count(`rule_effect WHERE state = 'done'`)).toBe(1000 + 2 * sent);
  expect(await count(`event WHERE kind = 'told'`)).toBe(500);
  expect(await count(`task WHERE title = 'Decide: Where does it go?'`)).toBe(500);
  // Each mail and each call is asked for once and gets there; one that a killed process had just sent may come again, known by its id.
  expect(await count(`mail WHERE kind = 'message' AND state = 'sent'`)).toBe(sent);
  expect(
    await count(
      `(SELECT DISTINCT c.message_id FROM caught_mail c JOIN mail m ON c.message_id LIKE '%' || m.id || '%' WHERE m.kind = 'message') x`,
    ),
  ).toBe(sent);
  expect(await count(`webhook_delivery WHERE state = 'sent'`)).toBe(sent);
  expect(calls.size).toBe(sent);
  // Each by a run of its own, and each handoff by its own run.
  expect(
    await count(
      `(SELECT 1 FROM event WHERE kind IN ('told', 'task-added') AND run_id IS NOT NULL GROUP BY run_id, kind HAVING count(*) = 1) x`,
    ),
  ).toBe(1000);
  expect(await count(`notice n JOIN event v ON v.id = n.event_id WHERE v.kind = 'told'`)).toBe(500);
}, 300_000);
