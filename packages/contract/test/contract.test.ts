import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { EditTask, ERRORS, HandOff, LogTime, SignIn, StartEngagement, TASK_STATUS, TASK_STATUS_WORDS } from '../src/index.ts';

const ID = '6f1b2c3d-0000-4000-8000-000000000001';
const faults = (shape: new () => object, value: object): string[] =>
  validateSync(plainToInstance(shape, value), { whitelist: true, forbidNonWhitelisted: true }).map((fault) => fault.property);

test('every refusal has a status of its kind and a meaning in a sentence', () => {
  for (const { status, meaning } of Object.values(ERRORS)) {
    expect(status).toBeGreaterThanOrEqual(400);
    expect(meaning).toMatch(/^[A-Z].*\.$/);
  }
});

test('every status has its word', () => {
  expect(Object.keys(TASK_STATUS_WORDS)).toEqual([...TASK_STATUS]);
});

describe('starting an engagement', () => {
  const fine = { templateId: ID, clientId: ID, name: 'Quay', start: '2026-12-14' };
  test.each<[string, object, string[]]>([
    ['with a start', fine, []],
    ['with a promise only', { templateId: ID, clientId: ID, name: 'Quay', promise: '2027-01-15' }, []],
    ['with neither', { templateId: ID, clientId: ID, name: 'Quay' }, ['start']],
    ['on a day that does not exist', { ...fine, start: '2026-02-30' }, ['start']],
    ['with a blank name', { ...fine, name: ' ' }, ['name']],
    ['without a client', { templateId: ID, name: 'Quay', start: '2026-12-14' }, ['clientId']],
    ['with null for what may only be left out', { ...fine, roles: null }, ['roles']],
    ['with a role that nobody has yet', { ...fine, roles: [{ roleId: ID, personId: null }] }, []],
    ['with a role whose person is left out', { ...fine, roles: [{ roleId: ID }] }, ['roles']],
    ['with an unknown field', { ...fine, colour: 1 }, ['colour']],
    ['with a likelihood above 100', { ...fine, likelihood: 101 }, ['likelihood']],
  ])('%s', (_name, value, expected) => {
    expect(faults(StartEngagement, value)).toEqual(expected);
  });
});

test.each<[string, new () => object, object, string[]]>([
  ['an edit needs the version that was read', EditTask, { title: 'x' }, ['version']],
  ['null takes an estimate away', EditTask, { version: 1, estimateMinutes: null }, []],
  ['null lets the planner place it again', EditTask, { version: 1, fixedDay: null }, []],
  ['a title can be left, not be null', EditTask, { version: 1, title: null }, ['title']],
  ['effort is whole minutes', EditTask, { version: 1, estimateMinutes: 1.5 }, ['estimateMinutes']],
  ['a status is one of the list', EditTask, { version: 1, status: 'ready' }, ['status']],
  ['a day has 24 hours', LogTime, { day: '2026-12-14', minutes: 1441 }, ['minutes']],
  ['words may be empty', HandOff, { version: 1, words: '' }, []],
  ['a reason may not be blank', HandOff, { version: 1, words: '', reason: ' ' }, ['reason']],
  ['an address is an address', SignIn, { email: 'odalys', password: 'x' }, ['email']],
])('%s', (_name, shape, value, expected) => {
  expect(faults(shape, value)).toEqual(expected);
});
