import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { ThrottlerStorage } from '@nestjs/throttler';
import type { EventSubject, HistoryLine, HistoryPage, PeopleInvited } from '@crew/contract';
import pg from 'pg';
import request from 'supertest';
import { CreateAgency } from '../src/agency/create-agency.ts';
import { AccountRepository } from '../src/account/account.repository.ts';
import { createApp } from '../src/create-app.ts';
import { JobRunner } from '../src/jobs/job-runner.ts';
import { Clock } from '../src/platform/clock.ts';
import type { Config } from '../src/platform/config.ts';
import { Database } from '../src/platform/database.ts';
import type { Who } from '../src/platform/rights.ts';
import { CreateTemplate } from '../src/template/create-template.ts';
import { PASSWORD, smallAgency, smallTemplate } from './small-world.ts';

export const TODAY = '2026-11-23';

/** A real server over a real database of its own, with the small world in it. */
export interface Harness {
  readonly app: NestExpressApplication;
  readonly database: Database;
  readonly clock: Clock;
  readonly databaseUrl: string;
  /** Where the contents of files lie. */
  readonly filesRoot: string;
  readonly ids: {
    readonly template: string;
    readonly client: string;
    readonly otherClient: string;
    readonly people: Readonly<Record<string, string>>;
  };
  readonly as: (name: string) => Promise<Caller>;
  readonly signIn: (email: string, password: string) => Promise<Caller>;
  readonly nobody: Caller;
  readonly whoIs: (name: string) => Promise<Who>;
  /** Works through the waiting jobs, as the queue would a moment later. */
  readonly settle: () => Promise<void>;
  /** A second process of the server over the same database; closing it is up to the test. */
  readonly beside: () => Promise<Pick<Harness, 'app' | 'database' | 'as' | 'signIn' | 'settle' | 'close'>>;
  /** Lets a test sign in more often than people may. */
  readonly forgetTries: () => void;
  readonly close: () => Promise<void>;
  /** What is left to clean up once a test has closed the server itself. */
  readonly dropDatabase: () => Promise<void>;
}

/** Somebody's way to call the API, token and cookie included. */
export interface Caller {
  readonly get: (path: string) => request.Test;
  readonly post: (path: string, body?: object) => request.Test;
  readonly patch: (path: string, body: object) => request.Test;
  readonly put: (path: string, body: object) => request.Test;
  readonly delete: (path: string) => request.Test;
}

async function onServer(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['CREW_TEST_SERVER'] });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

/** What a test may want to be otherwise. */
export interface HarnessOptions extends Partial<Pick<Config, 'isDemo' | 'trustedProxies' | 'requestsPerMinute'>> {
  readonly isEmpty?: boolean;
  /** Without the bundled mailboxes and the port for answers. */
  readonly hasNoMail?: boolean;
  /** Where the database is reached, in place of its own port. */
  readonly databasePort?: number;
}

const NO_MAIL = { mailboxPort: null, incomingPort: null } as const;

/** Starts the server on a fresh copy of the migrated template. */
export async function startHarness(more: HarnessOptions = {}): Promise<Harness> {
  const server = process.env['CREW_TEST_SERVER'];
  if (server === undefined) throw new Error('Run these by ./test server: they need its database.');
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  await onServer(`CREATE DATABASE ${name} TEMPLATE ${process.env['CREW_TEST_TEMPLATE']} STRATEGY file_copy`);
  const url = new URL(server);
  url.pathname = `/${name}`;
  if (more.databasePort !== undefined) url.port = String(more.databasePort);
  const filesRoot = await mkdtemp(join(tmpdir(), 'crew-files-'));
  const config: Config = {
    databaseUrl: url.href,
    port: 0,
    sessionSecret: 'for tests only',
    isDemo: more.isDemo ?? false,
    today: TODAY,
    webRoot: null,
    filesRoot,
    runsJobs: false,
    isQuiet: true,
    trustedProxies: more.trustedProxies ?? null,
    requestsPerMinute: more.requestsPerMinute ?? 100_000,
    address: 'http://crew.test',
    mail: { outgoing: null, domain: 'crew.test', ...(more.hasNoMail === true ? NO_MAIL : { mailboxPort: 0, incomingPort: 0 }) },
  };
  const app = await createApp(config);
  await app.listen(0, '127.0.0.1');
  const clock = app.get(Clock);
  if (more.isEmpty !== true) {
    // The agency is older than what its tests look at.
    clock.moveTo('2026-01-05');
    await app.get(CreateAgency).run(smallAgency);
    clock.moveTo(TODAY);
  }
  const database = app.get(Database);
  const { forgetTries, signIn } = signingInto(app);
  const emailOf = (person: string): string => `${person.split(' ')[0]?.toLowerCase()}@small.example`;
  const whoIs = async (person: string): Promise<Who> => {
    const row = await database.row<{ id: string }>('SELECT id FROM account WHERE email = $1', [emailOf(person)]);
    return (await app.get(AccountRepository).findWho(row?.id ?? '')) as Who;
  };
  const template = more.isEmpty === true ? '' : await app.get(CreateTemplate).run(await whoIs('Lena'), smallTemplate);
  const byName = async (table: 'client' | 'person'): Promise<Record<string, string>> =>
    Object.fromEntries(
      (await database.rows<{ name: string; id: string }>(`SELECT name, id FROM ${table}`)).map((row) => [row.name.split(' ')[0], row.id]),
    );
  const clients = await byName('client');
  const dropDatabase = async (): Promise<void> => {
    await rm(filesRoot, { recursive: true });
    await onServer(`DROP DATABASE ${name} WITH (FORCE)`);
  };
  return {
    app,
    database,
    clock,
    filesRoot,
    databaseUrl: url.href,
    ids: { template, client: clients['Harbour'] as string, otherClient: clients['Mill'] as string, people: await byName('person') },
    nobody: callerOf(request.agent(app.getHttpServer()), ''),
    whoIs,
    settle: () => app.get(JobRunner).workThrough(),
    beside: async () => {
      const other = await createApp(config);
      await other.listen(0, '127.0.0.1');
      const ways = signingInto(other);
      return {
        app: other,
        database: other.get(Database),
        signIn: ways.signIn,
        as: (person) => ways.signIn(emailOf(person), PASSWORD),
        settle: () => other.get(JobRunner).workThrough(),
        close: () => other.close(),
      };
    },
    forgetTries,
    signIn,
    as: (person) => signIn(emailOf(person), PASSWORD),
    close: async () => {
      await app.close();
      await dropDatabase();
    },
    dropDatabase,
  };
}

/** Signing in to a server, as often as a test likes. */
function signingInto(app: NestExpressApplication): Pick<Harness, 'forgetTries' | 'signIn'> {
  const forgetTries = (): void => {
    const kept = app.get<{ storage: Map<string, unknown>; hitExpirations: Map<string, unknown> }>(ThrottlerStorage);
    kept.storage.clear();
    kept.hitExpirations.clear();
  };
  const signIn = async (email: string, password: string): Promise<Caller> => {
    forgetTries();
    const agent = request.agent(app.getHttpServer());
    await agent.post('/api/session').send({ email, password }).expect(204);
    const me = await agent.get('/api/session').expect(200);
    return callerOf(agent, (me.body as { csrfToken: string }).csrfToken);
  };
  return { forgetTries, signIn };
}

/** One server for all tests of a file, with its lead signed in; both are there once the tests run. */
export function testWorld(): { readonly harness: Harness; readonly lead: Caller } {
  const started: { harness?: Harness; lead?: Caller } = {};
  beforeAll(async () => {
    started.harness = await startHarness();
    started.lead = await started.harness.as('Lena');
  });
  beforeEach(() => started.harness?.forgetTries());
  afterAll(() => started.harness?.close());
  const later = <Part extends 'harness' | 'lead'>(part: Part): Required<typeof started>[Part] =>
    new Proxy({} as Required<typeof started>[Part], { get: (_, key) => Reflect.get(started[part] as object, key) as unknown });
  return { harness: later('harness'), lead: later('lead') };
}

function callerOf(agent: ReturnType<typeof request.agent>, token: string): Caller {
  return {
    get: (path) => agent.get(`/api${path}`),
    post: (path, body) => agent.post(`/api${path}`).set('X-Crew-Token', token).send(body),
    put: (path, body) => agent.put(`/api${path}`).set('X-Crew-Token', token).send(body),
    patch: (path, body) => agent.patch(`/api${path}`).set('X-Crew-Token', token).send(body),
    delete: (path) => agent.delete(`/api${path}`).set('X-Crew-Token', token),
  };
}

/** Starts the small engagement as its lead and returns its id. */
export async function startSmall(lead: Caller, harness: Harness, more: object = {}): Promise<string> {
  const body = { templateId: harness.ids.template, clientId: harness.ids.client, name: 'Quay panels', start: TODAY, ...more };
  const answer = await lead.post('/engagements', body);
  if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
  return (answer.body as { id: string }).id;
}

/** Somebody joins: invited, with a password chosen by the link. Answers their id. */
export async function joinCrew(
  by: Caller,
  harness: Harness,
  person: Readonly<Record<string, unknown>> & { readonly password?: string },
): Promise<string> {
  const { password = PASSWORD, ...invited } = person;
  const { links } = (await by.post('/invitations', { people: [invited] }).expect(201)).body as PeopleInvited;
  const { link, personId } = links[0] as PeopleInvited['links'][number];
  harness.forgetTries();
  await harness.nobody.post(`/access-links/${link.split('/').at(-1)}`, { password }).expect(201);
  return personId;
}

/** What the history says of a thing, the newest first. */
export async function historyOf(caller: Caller, id: string, subject: EventSubject = 'task'): Promise<readonly HistoryLine[]> {
  return ((await caller.get(`/history?subject=${subject}&id=${id}`).expect(200)).body as HistoryPage).lines;
}
