import fc from 'fast-check';
import { evaluateGate, isGateClear, suggestPeople, type Candidate, type GateCheck } from '../src/index.ts';

const checks: readonly GateCheck[] = [
  { id: 'ours', kind: 'tasks-done' },
  { id: 'theirs', kind: 'client-done' },
  { id: 'word', kind: 'word', isGiven: false },
];
const task = (title: string, isOpen: boolean, isClientTask = false) => ({ title, isOpen, isClientTask });

describe('a gate', () => {
  test('says per check what is missing, by title', () => {
    const results = evaluateGate(checks, { tasks: [task('Boards', true), task('Flow', false), task('Choice', true, true)] });
    expect(results).toEqual([
      { id: 'ours', isClear: false, missing: ['Boards'] },
      { id: 'theirs', isClear: false, missing: ['Choice'] },
      { id: 'word', isClear: false, missing: [] },
    ]);
    expect(isGateClear(results)).toBe(false);
  });

  test('is clear when all is done and the word is given; one without checks always is', () => {
    const given = checks.map((check) => (check.kind === 'word' ? { ...check, isGiven: true } : check));
    expect(isGateClear(evaluateGate(given, { tasks: [task('Boards', false)] }))).toBe(true);
    expect(isGateClear(evaluateGate([], { tasks: [task('Boards', true)] }))).toBe(true);
  });
});

describe('checks that ask for more', () => {
  const tasks = [
    { title: 'Boards', isOpen: false, isClientTask: false, openSteps: 1, fields: ['Size'], files: ['plan.PDF'] },
    { title: 'Flow', isOpen: true, isClientTask: false, openSteps: 0, fields: [], files: [] },
  ];
  test.each<[GateCheck, readonly string[] | null]>([
    [{ id: 'c', kind: 'titled-done', wants: ['boards'] }, null],
    [{ id: 'c', kind: 'titled-done', wants: ['Boards', 'Flow', 'Proof'] }, ['Flow', 'Proof']],
    [{ id: 'c', kind: 'steps-done' }, ['Boards']],
    [{ id: 'c', kind: 'field-filled', wants: ['size'] }, null],
    [{ id: 'c', kind: 'field-filled', wants: ['Paper'] }, ['Paper']],
    [{ id: 'c', kind: 'files-there', wants: ['pdf'] }, null],
    [{ id: 'c', kind: 'files-there', wants: ['.csv'] }, ['.csv']],
    [{ id: 'c', kind: 'files-there', wants: [] }, null],
  ])('%j misses %j', (check, missing) => {
    expect(evaluateGate([check], { tasks })).toEqual([
      missing === null ? { id: 'c', isClear: true } : { id: 'c', isClear: false, missing },
    ]);
  });

  test('any file will do where no ending is asked for, and none is missing something', () => {
    expect(evaluateGate([{ id: 'c', kind: 'files-there', wants: [] }], { tasks: [task('Boards', true)] })).toEqual([
      { id: 'c', isClear: false, missing: [''] },
    ]);
  });
});

const candidate: fc.Arbitrary<Candidate> = fc.record({
  id: fc.uuid(),
  capacity: fc.nat(5000),
  free: fc.nat(5000),
  over: fc.nat(500),
  pastEngagements: fc.nat(3),
});

describe('who should do it', () => {
  test('most free minutes first, knowing the client tips the balance, nobody away', () => {
    const people: Candidate[] = [
      { id: 'stranger', capacity: 1000, free: 500, over: 0, pastEngagements: 0 },
      { id: 'familiar', capacity: 1000, free: 450, over: 0, pastEngagements: 2 },
      { id: 'away', capacity: 0, free: 0, over: 0, pastEngagements: 9 },
      { id: 'full', capacity: 1000, free: 700, over: 300, pastEngagements: 0 },
    ];
    expect(suggestPeople(people, 400).map(({ id, freeMinutes, isFull }) => [id, freeMinutes, isFull])).toEqual([
      ['familiar', 450, false],
      ['stranger', 500, false],
      ['full', -300, true],
    ]);
  });

  test('the order of the people asked about does not matter', () => {
    fc.assert(
      fc.property(fc.uniqueArray(candidate, { selector: (person) => person.id }), fc.nat(2000), (people, minutes) => {
        expect(suggestPeople([...people].reverse(), minutes)).toEqual(suggestPeople(people, minutes));
      }),
    );
  });
});
