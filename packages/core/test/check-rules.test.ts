import fc from 'fast-check';
import {
  checkRules,
  runRules,
  type CheckRulesInput,
  type Condition,
  type Effect,
  type Fact,
  type Facts,
  type Rule,
  type RuleFinding,
} from '../src/index.ts';

/** What the effects of these examples do: one sets a priority, one a status and with it brings about an event. */
const effects: CheckRulesInput['effects'] = {
  'set-priority': { sets: (effect) => ({ thing: 'priority', value: effect['to'] }) },
  'set-status': {
    sets: (effect) => ({ thing: 'status', value: effect['to'] }),
    raises: (effect) => [{ kind: 'task-status-changed', facts: { status: effect['to'] as string } }],
  },
  'start-phase': { raises: () => [{ kind: 'phase-started', facts: {} }] },
};
const rule = (id: string, more: Partial<Rule> = {}): Rule => ({
  ...{ id, level: 'agency', isOn: true, when: { kind: 'handed-off' }, then: [] },
  ...more,
});
const when = (kind: string, is: Record<string, Fact> = {}): Pick<Rule, 'when'> => ({ when: { kind, is } });
const then = (...list: Effect[]): Pick<Rule, 'then'> => ({ then: list });
const of = (...rules: Rule[]): readonly RuleFinding[] => {
  const result = checkRules({ rules, effects });
  if (!result.ok) throw new Error(`${result.problem.kind} at ${result.problem.at}`);
  return result.value;
};

test.each<[string, Partial<Rule>, string | null]>([
  ['two values of one fact', { if: [is('phase', 'Script'), is('phase', 'Studio')] }, 'phase'],
  ['a value and its opposite', { if: [is('phase', 'Script'), { fact: 'phase', op: 'is-not', value: 'Script' }] }, 'phase'],
  ['what it asks at first and later', { ...when('handed-off', { phase: ['Script', 'Studio'] }), if: [is('phase', 'Edit')] }, 'phase'],
  ['one of those it asks at first', { ...when('handed-off', { phase: ['Script', 'Studio'] }), if: [is('phase', 'Studio')] }, null],
  ['something and nothing', { if: [{ fact: 'note', op: 'is-empty' }, is('note', 'x')] }, 'note'],
  ['bounds that leave nothing', { if: [more('round', 3), less('round', 3)] }, 'round'],
  ['bounds that leave a little', { if: [more('round', 3), less('round', 3.5)] }, null],
  ['bounds around what it must be', { if: [more('round', 3), is('round', 3)] }, 'round'],
  ['a number that has a label', { if: [more('labels', 3), has('labels', 'rush')] }, 'labels'],
  ['two labels', { if: [has('labels', 'rush'), has('labels', 'print')] }, null],
  ['a label of none', { if: [has('labels', 'rush'), { fact: 'labels', op: 'is-empty' }] }, 'labels'],
  ['another template than its own', { level: 'template', template: 'trail', if: [is('template', 'gallery')] }, 'template'],
  ['no condition', {}, null],
])('a rule never runs by %s, or it is not said', (_what, more, fact) => {
  expect(of(rule('r', more))).toEqual(fact === null ? [] : [{ kind: 'never', rules: ['r'], fact }]);
});

test('a rule is always replaced where the other holds at least as far', () => {
  const found = (first: Partial<Rule>, second: Partial<Rule>): boolean =>
    of(rule('a', first), rule('b', { replaces: 'a', ...second })).some(({ kind }) => kind === 'always-replaced');
  const trail = { level: 'template', template: 'trail' } as const;
  expect(found({}, {})).toBe(true);
  expect(found({}, { isOn: false })).toBe(true);
  expect(found({}, trail)).toBe(false);
  expect(found(trail, trail)).toBe(true);
  expect(found(trail, { level: 'template', template: 'gallery' })).toBe(false);
  expect(found({}, when('handed-off', { phase: 'Script' }))).toBe(false);
  expect(found(when('handed-off', { phase: 'Script' }), when('handed-off', { phase: ['Script', 'Studio'] }))).toBe(true);
  expect(found(when('handed-off', { phase: ['Script', 'Edit'] }), when('handed-off', { phase: ['Script', 'Studio'] }))).toBe(false);
  expect(found({}, when('picked-up'))).toBe(false);
});

test('two rules that set the same thing differently at one event are named, with the thing', () => {
  const high = rule('high', then({ do: 'set-priority', to: 'high' }));
  const low = (more: Partial<Rule> = {}): Rule => rule('low', { ...then({ do: 'set-priority', to: 'low' }), ...more });
  expect(of(high, low())).toEqual([{ kind: 'differ', rules: ['high', 'low'], thing: 'priority' }]);
  expect(of(high, low({ isOn: false }))).toEqual([]);
  expect(of(high, low(when('picked-up')))).toEqual([]);
  expect(of(high, low({ if: [is('phase', 'Script')] }))).toHaveLength(1);
  expect(of({ ...high, if: [is('phase', 'Studio')] }, low({ if: [is('phase', 'Script')] }))).toEqual([]);
  expect(of(high, rule('same', then({ do: 'set-priority', to: 'high' })))).toEqual([]);
  expect(of(high, rule('other', then({ do: 'set-status', to: 'done' })))).toEqual([]);
  expect(of(high, low({ replaces: 'high', ...when('handed-off', { phase: 'Script' }) }))).toEqual([]);
});

test('rules that call each other are a ring, named in order; what is known of the event can break it', () => {
  const review = rule('review', { ...when('task-status-changed', { status: 'done' }), ...then({ do: 'set-status', to: 'review' }) });
  const done = rule('done', { ...when('task-status-changed', { status: 'review' }), ...then({ do: 'set-status', to: 'done' }) });
  expect(of(review, done)).toEqual([{ kind: 'ring', rules: ['review', 'done'] }]);
  expect(of(review, { ...done, isOn: false })).toEqual([]);
  expect(of(review)).toEqual([]);
  expect(of({ ...review, ...when('task-status-changed') })).toEqual([{ kind: 'ring', rules: ['review'] }]);
  expect(of(review, { ...done, ...then({ do: 'start-phase' }) }, rule('next', { ...when('phase-started'), ...then() }))).toEqual([]);
});

test('what has no meaning told sets nothing and calls nothing', () => {
  const odd = then({ do: 'toString', to: 1 });
  expect(of(rule('a', odd), rule('b', then({ do: 'toString', to: 2 })))).toEqual([]);
});

const NAMES = ['phase', 'round'] as const;
const VALUES: readonly Fact[] = ['', 'a', 'b', 1, 2, 3, [], ['a'], ['b'], ['a', 'b'], true];
/** Every event that can matter with these values: none, each of them, and what lies between and beyond. */
const POSSIBLE: readonly (Fact | undefined)[] = [
  ...[undefined, ...VALUES, 0, 0.5, 1.25, 1.5, 1.75, 2.25, 2.5, 2.75, 4, 9, 'c'],
  ...[[''], ['', 'a', 'b'], ['a', 'b', 'c'], ['c'], ['a', 'a'], ['b', 'b']],
];
const condition: fc.Arbitrary<Condition> = fc.record({
  fact: fc.constantFrom(...NAMES),
  op: fc.constantFrom('is', 'is-not', 'in', 'more-than', 'less-than', 'has', 'is-empty'),
  value: fc.constantFrom(...VALUES),
});

test('a rule is said never to run exactly when it runs at no event', () => {
  const seen = { never: 0, runs: 0 };
  const asked = fc.record({ if: fc.array(condition, { maxLength: 4 }), is: fc.option(fc.constantFrom(...VALUES)) });
  fc.assert(
    fc.property(asked, ({ if: conditions, is: phase }) => {
      const tried = rule('r', { ...when('handed-off', phase === null ? {} : { phase }), if: conditions });
      const runsAt = (phaseIs: Fact | undefined, round: Fact | undefined): boolean => {
        const facts = Object.fromEntries(Object.entries({ phase: phaseIs, round }).filter(([, fact]) => fact !== undefined)) as Facts;
        const result = runRules({ event: { id: 'e', kind: 'handed-off', subject: 's', facts }, rules: [tried] });
        return result.ok && result.value.run.length === 1;
      };
      const runs = POSSIBLE.some((phaseIs) => POSSIBLE.some((round) => runsAt(phaseIs, round)));
      seen[runs ? 'runs' : 'never']++;
      expect(of(tried).length === 0).toBe(runs);
    }),
    { numRuns: 300 },
  );
  expect(Math.min(seen.never, seen.runs)).toBeGreaterThan(20);
});

function is(fact: string, value: Fact): Condition {
  return { fact, op: 'is', value };
}
function more(fact: string, value: number): Condition {
  return { fact, op: 'more-than', value };
}
function less(fact: string, value: number): Condition {
  return { fact, op: 'less-than', value };
}
function has(fact: string, value: string): Condition {
  return { fact, op: 'has', value };
}
