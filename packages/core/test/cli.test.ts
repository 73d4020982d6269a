import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { galleryDates, galleryPlan } from './examples.ts';

// The built command line, as somebody outside would call it.
const cli = join(__dirname, '../dist/cli.js');
const run = (verb: string, input: string) => spawnSync(process.execPath, [cli, verb], { input, encoding: 'utf8', timeout: 20_000 });

test('schedule answers the written example', () => {
  const { stdout, status } = run('schedule', JSON.stringify(galleryPlan));
  const answer = JSON.parse(stdout) as { tasks: { start: string }[] };
  expect(status).toBe(0);
  expect(answer.tasks.map((task) => task.start)).toEqual(galleryDates.map(([, start]) => start));
});

test('a schedule without a start is planned back from the promise', () => {
  const { start: _start, ...back } = galleryPlan;
  const answer = JSON.parse(run('schedule', JSON.stringify(back)).stdout) as { start: string; finish: string };
  expect(answer.start > '2026-12-14').toBe(true);
  expect(answer.finish <= '2027-01-15').toBe(true);
});

test.each([
  ['schedule', '{"calendar":', 'invalid-json'],
  ['schedule', '{}', 'invalid-field'],
  ['schedule', 'null', 'invalid-field'],
  ['load', '{"people":[],"tasks":[]}', 'invalid-field'],
  ['toString', '{}', 'unknown-verb'],
])('%s with %s exits 1 and says %s', (verb, input, error) => {
  const { stdout, status } = run(verb, input);
  expect(status).toBe(1);
  expect(JSON.parse(stdout)).toMatchObject({ error, message: expect.stringMatching(/\.$/) as string });
});

test('batch answers line by line in order, errors among them', () => {
  const lines = [
    { verb: 'progress', case: { tasks: [] } },
    { verb: 'dance', case: 1 },
    { verb: 'progress', case: { tasks: [{ state: 'done' }] } },
  ];
  const { stdout, status } = run('batch', [...lines.map((line) => JSON.stringify(line)), 'not json'].join('\n'));
  const answers = stdout
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as object);
  expect(status).toBe(0);
  expect(answers).toMatchObject([{ percent: 0 }, { error: 'unknown-verb' }, { percent: 100 }, { error: 'invalid-json' }]);
});

test.each([
  [
    'learn',
    {
      tasks: [
        { id: 'drawings', n: 3, proposal: 780 },
        { id: 'loan request', n: 2, proposal: null },
      ],
    },
  ],
  ['forecast', { runs: 10_000, dates: { p50: '2027-01-12' } }],
  ['waits', { minutes: 180 }],
  [
    'reply',
    {
      words: 'Fine by me, see below.',
      remarks: [
        { on: 'Shall we post on Monday?', says: 'Tuesday is better.' },
        { on: 'Please check the names.', says: 'All right.' },
      ],
    },
  ],
  [
    'rules',
    {
      run: [{ rule: 'b', effects: [{ do: 'make-task', title: 'Check round 2' }] }],
      held: [
        { rule: 'a', why: 'replaced' },
        { rule: 'c', why: 'condition', at: 0 },
      ],
    },
  ],
])('the written sample of %s is answered', (verb, answer) => {
  const { stdout, status } = run(verb, readFileSync(join(__dirname, `../../../docs/formats/${verb}.json`), 'utf8'));
  expect(status).toBe(0);
  expect(JSON.parse(stdout)).toMatchObject(answer);
});
