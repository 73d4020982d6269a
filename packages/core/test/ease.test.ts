import fc from 'fast-check';
import { easeLoad, load, type Ease, type EaseInput, type EaseTask, type IsoDay, type CalendarInput } from '../src/index.ts';

const WEEK = [450, 450, 450, 450, 450, 0, 0];
const calendar: CalendarInput = { week: WEEK, closed: ['2026-12-25'] };

/** Ines is over in the first week of December; Rafe holds her role on three days, Tavi another one, Noor is away. */
const base: Omit<EaseInput, 'tasks'> = {
  calendar,
  today: '2026-11-30',
  from: '2026-11-30',
  to: '2026-12-18',
  defaultMinutes: 60,
  person: 'ines',
  people: [
    { id: 'ines', week: WEEK, roles: ['graphics'] },
    { id: 'rafe', week: [450, 450, 450, 0, 0, 0, 0], roles: ['graphics'], knows: ['oskerry'] },
    { id: 'tavi', week: WEEK, roles: ['exhibits'] },
    { id: 'noor', week: WEEK, roles: ['graphics'], off: [{ from: '2026-11-30', to: '2026-12-18' }] },
  ],
};
const task = (id: string, minutes: number, more: Partial<EaseTask> = {}): EaseTask => ({
  id,
  assignees: [{ person: 'ines' }],
  estimate: minutes,
  start: '2026-11-30',
  due: '2026-12-02',
  role: 'graphics',
  stays: true,
  ...more,
});
const full = task('boards', 1350, { role: 'none' });

function eased(tasks: readonly EaseTask[], more: Partial<EaseInput> = {}): Ease {
  const result = easeLoad({ ...base, ...more, tasks });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}
const stepsOf = (ease: Ease, id: string) => ease.proposals.filter((proposal) => proposal.task === id).map(({ step }) => step);

describe('somebody within capacity', () => {
  test('needs no easing', () => {
    expect(eased([full])).toEqual({ over: 0, overDays: 0, proposals: [] });
  });
});

describe('moving and stretching', () => {
  test('stays within slack, moves no deadline, and takes the fewest days that help most', () => {
    const ease = eased([full, task('plaque', 300, { stays: false, slack: 6, role: 'none' })]);
    expect([ease.over, ease.overDays]).toEqual([300, 3]);
    expect(ease.proposals[0]).toMatchObject({
      task: 'plaque',
      step: { kind: 'move', days: 3, slack: 6 },
      start: '2026-12-03',
      due: '2026-12-07',
      relieved: 300,
      deadlinesMoved: 0,
    });
    expect(stepsOf(ease, 'plaque').find((step) => step.kind === 'extend')).toMatchObject({ days: 6, slack: 6 });
  });

  test('beyond slack it is said to move a deadline, and comes last', () => {
    const ease = eased([full, task('invite', 300, { stays: false, slack: 1, role: 'none' })]);
    expect(ease.proposals.map(({ step, deadlinesMoved }) => [step.kind, deadlinesMoved])).toEqual([
      ['move', 0],
      ['extend', 0],
      ['slip', 1],
    ]);
    expect(ease.proposals.at(-1)).toMatchObject({ step: { kind: 'slip', days: 3, slack: 1 }, relieved: 300 });
  });

  test('a fixed task does not move, and what is under way does not start again', () => {
    expect(stepsOf(eased([full, task('fixed', 300, { slack: 9, role: 'none' })]), 'fixed')).toEqual([]);
    const begun = eased([full, task('begun', 300, { stays: false, begun: true, slack: 9, role: 'none' })]);
    expect(stepsOf(begun, 'begun').map((step) => step.kind)).toEqual(['extend', 'slip']);
  });

  test('late work counts from today, not from its past days', () => {
    const late = task('late', 300, { stays: false, slack: 4, role: 'none', start: '2026-11-16', due: '2026-11-18' });
    const [first] = eased([full, late]).proposals;
    expect(first?.start.localeCompare('2026-11-30')).toBe(1);
  });
});

describe('giving and splitting', () => {
  const plaque = task('plaque', 300, { for: ['oskerry'] });

  test('goes to those who hold the role, are there and have room, and says whether they know the client', () => {
    const [give] = eased([full, plaque]).proposals;
    expect(give).toMatchObject({
      step: { kind: 'give', to: 'rafe', freeMinutes: 1350, knows: true },
      assignees: [{ person: 'rafe', share: 1 }],
      relieved: 300,
    });
    expect(give?.effects.map((effect) => effect.person)).toEqual(['ines', 'rafe']);
    expect(give?.effects[0]).toMatchObject({
      before: { over: 300, peak: { load: 550, capacity: 450 } },
      after: { over: 0, peak: { load: 450 } },
    });
    expect(give?.effects[1]).toMatchObject({ before: { over: 0 }, after: { over: 0, peak: { load: 100, capacity: 450 } } });
  });

  test('nobody who would be over gets it: then it is split', () => {
    const busy = task('artwork', 1200, { assignees: [{ person: 'rafe' }] });
    const ease = eased([full, plaque, busy]);
    expect(stepsOf(ease, 'plaque')).toEqual([{ kind: 'split', with: 'rafe', minutes: 150, keeps: 150, freeMinutes: 150, knows: true }]);
    expect(ease.proposals[0]?.assignees).toEqual([
      { person: 'ines', share: 150 },
      { person: 'rafe', share: 150 },
    ]);
  });

  test('a part of a shared task goes, the others keep theirs', () => {
    const shared = task('shared', 600, { assignees: [{ person: 'tavi' }, { person: 'ines', share: 1 }] });
    const [give] = eased([full, shared]).proposals;
    expect(give?.assignees).toEqual([
      { person: 'tavi', share: 1 },
      { person: 'rafe', share: 1 },
    ]);
  });

  test('without a role of its own it goes to those with one of the same roles', () => {
    expect(stepsOf(eased([full, task('plaque', 100, { role: null })]), 'plaque')).toMatchObject([{ kind: 'give', to: 'rafe' }]);
  });
});

test('work moved just behind the window is not lost sight of', () => {
  const later = task('later', 3600, { role: 'none', start: '2026-12-21', due: '2026-12-31' });
  const move = task('move', 300, { stays: false, slack: 20, role: 'none', start: '2026-12-16', due: '2026-12-18' });
  const week = task('week', 1350, { role: 'none', start: '2026-12-16', due: '2026-12-18' });
  const steps = stepsOf(eased([later, move, week], { today: '2026-12-16', from: '2026-12-16' }), 'move');
  expect(steps.every((step) => step.kind !== 'move' || step.days !== 3)).toBe(true);
});

describe('laws', () => {
  const day = fc
    .integer({ min: 0, max: 25 })
    .map((offset) => new Date(Date.UTC(2026, 10, 23 + offset)).toISOString().slice(0, 10) as IsoDay);
  const work: fc.Arbitrary<EaseInput> = fc
    .array(
      fc.record({
        estimate: fc.integer({ min: 30, max: 2400 }),
        days: fc.tuple(day, day),
        people: fc.subarray(['ines', 'rafe', 'tavi'], { minLength: 1 }),
        role: fc.constantFrom('graphics', 'exhibits', null),
        slack: fc.integer({ min: -3, max: 8 }),
        stays: fc.boolean(),
        begun: fc.boolean(),
      }),
      { minLength: 1, maxLength: 8 },
    )
    .map((tasks) => ({
      ...base,
      most: 100,
      tasks: tasks.map(({ days, people, ...rest }, index) => ({
        id: `t${index}`,
        ...rest,
        assignees: people.map((person) => ({ person })),
        start: [...days].sort()[0] as IsoDay,
        due: [...days].sort()[1] as IsoDay,
      })),
    }));

  /** The plain way: the whole load anew, with the one task changed. */
  function overOf(input: EaseInput, tasks: readonly EaseTask[], to: IsoDay): ReadonlyMap<string, number> {
    const result = load({ ...input, to, tasks });
    if (!result.ok) throw new Error(JSON.stringify(result.problem));
    return new Map(result.value.people.map((person) => [person.id, person.days.reduce((sum, each) => sum + each.over, 0)]));
  }

  test('what a proposal says is what the whole load says, and nobody else is worse off', () => {
    let judged = 0;
    fc.assert(
      fc.property(work, (input) => {
        const behind: IsoDay = '2027-03-20';
        const [before, wholeBefore] = [overOf(input, input.tasks, input.to), overOf(input, input.tasks, behind)];
        const total = (over: ReadonlyMap<string, number>): number => [...over.values()].reduce((sum, minutes) => sum + minutes, 0);
        for (const { task: id, start, due, assignees, relieved, effects, deadlinesMoved, step } of eased(input.tasks, input).proposals) {
          const changed = input.tasks.map((each) => (each.id === id ? { ...each, start, due, assignees } : each));
          const [after, wholeAfter] = [overOf(input, changed, input.to), overOf(input, changed, behind)];
          expect(total(before) - total(after)).toBe(relieved);
          expect(total(wholeAfter)).toBeLessThan(total(wholeBefore));
          for (const { person, ...effect } of effects)
            expect([effect.before.over, effect.after.over]).toEqual([before.get(person), after.get(person)]);
          for (const [person, over] of wholeAfter)
            if (person !== 'ines') expect(over).toBeLessThanOrEqual(wholeBefore.get(person) as number);
          expect(relieved).toBeGreaterThan(0);
          expect(deadlinesMoved).toBe(step.kind === 'slip' ? 1 : 0);
          expect(assignees.some(({ person }) => person === 'noor')).toBe(false);
          judged++;
        }
      }),
      { numRuns: 300 },
    );
    expect(judged).toBeGreaterThan(100);
  });

  test('the rank is by deadlines moved, relief, people; the order of tasks and people changes nothing', () => {
    fc.assert(
      fc.property(work, (input) => {
        const { proposals } = eased(input.tasks, input);
        proposals.slice(1).forEach((next, place) => {
          const last = proposals[place] as (typeof proposals)[number];
          const key = (each: typeof next) => [each.deadlinesMoved, -each.relieved, each.effects.length];
          const [left, right] = [key(last), key(next)];
          const first = left.findIndex((value, index) => value !== right[index]);
          expect(first === -1 || (left[first] as number) < (right[first] as number)).toBe(true);
        });
        const turned = eased([...input.tasks].reverse(), { ...input, people: [...input.people].reverse() });
        expect(turned.proposals.map(({ task: id, step }) => [id, step])).toEqual(proposals.map(({ task: id, step }) => [id, step]));
      }),
    );
  });
});

test('an unknown person is refused by name', () => {
  expect(easeLoad({ ...base, person: 'ghost', tasks: [] })).toMatchObject({ ok: false, problem: { kind: 'unknown-id', at: 'person' } });
});
