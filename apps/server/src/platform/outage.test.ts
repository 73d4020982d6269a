import { Logger } from '@nestjs/common';
import type { ErrorBody } from '@crew/contract';
import { startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';
import { openLine, type Line } from '../../test/line-to-database.ts';

let line: Line;
let harness: Harness;
let lead: Caller;
let engagementId: string;
beforeAll(async () => {
  line = await openLine();
  harness = await startHarness({ databasePort: line.port });
  lead = await harness.as('Lena');
  engagementId = await startSmall(lead, harness);
});
afterAll(async () => {
  line.mend();
  await harness.close();
  await line.close();
});

const ask = () => [
  lead.get('/crew'),
  lead.get(`/engagements/${engagementId}/plan`),
  lead.post('/clients', { name: 'Away' }),
  lead.post(`/engagements/${engagementId}/deliverables`, { name: 'Away' }),
  harness.nobody.get('/agency'),
  harness.nobody.post('/session', { email: 'lena@small.example', password: 'x' }),
];

test('a database that is away is 503 with a time to try again, health too, and one line in the log; then all goes on', async () => {
  const said: string[] = [];
  const warn = jest.spyOn(Logger.prototype, 'warn').mockImplementation((words: unknown) => void said.push(String(words)));
  const error = jest.spyOn(Logger.prototype, 'error').mockImplementation((words: unknown) => void said.push(String(words)));
  line.cut();
  for (let round = 0; round < 4; round++) {
    for (const answer of await Promise.all(ask())) {
      expect({ status: answer.status, code: (answer.body as ErrorBody).code }).toEqual({ status: 503, code: 'unavailable' });
      expect(answer.headers['retry-after']).toBe('2');
    }
  }
  await harness.nobody.get('/health').expect(503);
  line.mend();
  warn.mockRestore();
  error.mockRestore();
  const lines = said.filter((words) => !words.includes('connection for changes'));
  expect(lines.length).toBeLessThanOrEqual(1);
  expect(said.join()).not.toMatch(/\n\s+at /);
  await lead.get('/crew').expect(200);
  await lead.post('/clients', { name: 'Back' }).expect(201);
  await harness.nobody.get('/health').expect(200);
});

test('with the database frozen every request ends within its time, and none is left in a transaction', async () => {
  line.freeze();
  const began = performance.now();
  // More than there are connections.
  const answers = await Promise.all([...ask(), ...ask(), ...ask()]);
  expect(performance.now() - began).toBeLessThan(25_000);
  expect([...new Set(answers.map(({ status }) => status))]).toEqual([503]);
  line.mend();
  await lead.post(`/engagements/${engagementId}/deliverables`, { name: 'After the frost' }).expect(201);
  const open = await harness.database.rows(
    `SELECT 1 FROM pg_stat_activity WHERE datname = current_database() AND state LIKE 'idle in transaction%' AND application_name = 'nimble-crew'`,
  );
  expect(open).toEqual([]);
}, 60_000);
