import fc from 'fast-check';
import { runRules, type Condition, type Facts, type Rule, type RulesAnswer, type RulesInput } from '../src/index.ts';

const facts: Facts = {
  ...{ template: 'trail', engagement: 'e9', client: 'Ludd Mill', phase: 'Script', note: '', none: [] },
  ...{ round: 2, labels: ['rush', 'print'], isLate: true },
};
const event = { id: 'v1', kind: 'handed-off', subject: 'h1', facts };
const tell = [{ do: 'tell', words: '{phase} of {client}' }] as const;
const rule = (id: string, more: Partial<Rule> = {}): Rule => ({
  ...{ id, level: 'agency', isOn: true, when: { kind: 'handed-off' }, then: tell },
  ...more,
});
const answerOf = (input: RulesInput): RulesAnswer => {
  const result = runRules(input);
  if (!result.ok) throw new Error(`${result.problem.kind} at ${result.problem.at}`);
  return result.value;
};
const of = (rules: readonly Rule[], more: Partial<RulesInput> = {}): RulesAnswer => answerOf({ event, rules, ...more });
const ranIn = ({ run }: RulesAnswer): string[] => run.map((ran) => ran.rule);

test.each<[string, Condition, boolean]>([
  ['is', { fact: 'phase', op: 'is', value: 'Script' }, true],
  ['is, of a number and a text', { fact: 'round', op: 'is', value: '2' }, false],
  ['is, of lists', { fact: 'labels', op: 'is', value: ['rush', 'print'] }, true],
  ['is, of lists in another order', { fact: 'labels', op: 'is', value: ['print', 'rush'] }, false],
  ['is, of what is missing', { fact: 'gone', op: 'is', value: '' }, false],
  ['is-not', { fact: 'phase', op: 'is-not', value: 'Studio' }, true],
  ['is-not, of what is missing', { fact: 'gone', op: 'is-not', value: 'Studio' }, true],
  ['in', { fact: 'phase', op: 'in', value: ['Studio', 'Script'] }, true],
  ['in, of what is missing', { fact: 'gone', op: 'in', value: [''] }, false],
  ['more-than', { fact: 'round', op: 'more-than', value: 1 }, true],
  ['more-than, of the same', { fact: 'round', op: 'more-than', value: 2 }, false],
  ['more-than, of texts', { fact: 'phase', op: 'more-than', value: 'A' }, false],
  ['less-than', { fact: 'round', op: 'less-than', value: 3 }, true],
  ['has', { fact: 'labels', op: 'has', value: 'rush' }, true],
  ['has, of a text', { fact: 'phase', op: 'has', value: 'Script' }, false],
  ['is-empty, of what is missing', { fact: 'gone', op: 'is-empty' }, true],
  ['is-empty, of a text', { fact: 'note', op: 'is-empty' }, true],
  ['is-empty, of a list', { fact: 'none', op: 'is-empty' }, true],
  ['is-empty, of false and 0', { fact: 'round', op: 'is-empty' }, false],
  ['what every object has is no fact', { fact: 'toString', op: 'is-empty' }, true],
])('%s', (_what, condition, holds) => {
  const { run, held } = of([rule('r', { if: [{ fact: 'isLate', op: 'is', value: true }, condition] })]);
  expect([run.length, held]).toEqual(holds ? [1, []] : [0, [{ rule: 'r', why: 'condition', at: 1 }]]);
});

test.each<[string, Partial<Rule>, boolean]>([
  ['another kind', { when: { kind: 'picked-up' } }, false],
  ['a field that is so', { when: { kind: 'handed-off', is: { phase: 'Script', round: 2 } } }, true],
  ['a field that is one of', { when: { kind: 'handed-off', is: { phase: ['Studio', 'Script'] } } }, true],
  ['a field that is another', { when: { kind: 'handed-off', is: { phase: ['Studio'] } } }, false],
  ['a field that is missing', { when: { kind: 'handed-off', is: { gone: 'x' } } }, false],
  ['its template', { level: 'template', template: 'trail' }, true],
  ['another template', { level: 'template', template: 'gallery' }, false],
  ['another engagement', { level: 'engagement', engagement: 'e7' }, false],
])('a rule for %s is met or told nothing of', (_what, more, isMet) => {
  expect(of([rule('r', more)])).toMatchObject(isMet ? { run: [{ rule: 'r' }] } : { run: [], held: [] });
});

test('why a rule is held is looked at in order: off, replaced, too deep, already ran, a condition', () => {
  const fails = { if: [{ fact: 'round', op: 'is', value: 9 }] } as const;
  const instead = rule('new', { replaces: 'r' });
  const deep = { chain: { depth: 8, ran: [['r', 'h1']] as [string, string][] } };
  const ran = { chain: { depth: 1, ran: [['r', 'h1']] as [string, string][] } };
  const why = (answer: RulesAnswer) => answer.held.find((held) => held.rule === 'r')?.why;
  expect(why(of([rule('r', { ...fails, isOn: false }), instead], deep))).toBe('off');
  expect(why(of([rule('r', fails), instead], deep))).toBe('replaced');
  expect(why(of([rule('r', fails)], deep))).toBe('too-deep');
  expect(why(of([rule('r', fails)], ran))).toBe('already-ran');
  expect(why(of([rule('r', fails)]))).toBe('condition');
  expect(ranIn(of([rule('r')], { chain: { depth: 7, ran: [['r', 'h2']] } }))).toEqual(['r']);
});

test('a rule stands instead of another also while it is off, and only where it fits', () => {
  const offHere = rule('not-here', { level: 'engagement', engagement: 'e9', isOn: false, replaces: 'r' });
  expect(of([rule('r'), offHere]).held).toEqual([
    { rule: 'r', why: 'replaced' },
    { rule: 'not-here', why: 'off' },
  ]);
  expect(ranIn(of([rule('r'), { ...offHere, engagement: 'e7' }]))).toEqual(['r']);
  expect(ranIn(of([rule('r'), { ...offHere, when: { kind: 'handed-off', is: { phase: 'Studio' } } }]))).toEqual(['r']);
});

test('slots are filled in every text of an effect but what it does', () => {
  const effect = {
    ...{ do: '{phase}', words: '{phase} ({labels}), round {round}, {isLate}; {gone}.', days: 3 },
    ...{ braces: '{{phase} and } or {', task: { title: 'Book {client}', notes: ['for {engagement}', 2] } },
  };
  expect(of([rule('r', { then: [effect] })]).run[0]?.effects).toEqual([
    {
      ...{ do: '{phase}', words: 'Script (rush, print), round 2, true; .', days: 3 },
      ...{ braces: '{phase} and } or {', task: { title: 'Book Ludd Mill', notes: ['for e9', 2] } },
    },
  ]);
});

test.each<[string, object, string]>([
  ['a level there is not', { rules: [{ ...rule('r'), level: 'phase' }] }, 'rules[r].level'],
  ['a template without its name', { rules: [{ ...rule('r'), level: 'template' }] }, 'rules[r].template'],
  ['neither on nor off', { rules: [{ ...rule('r'), isOn: undefined }] }, 'rules[r].isOn'],
  ['one that replaces itself', { rules: [{ ...rule('r'), replaces: 'r' }] }, 'rules[r].replaces'],
  ['an unknown comparison', { rules: [{ ...rule('r'), if: [{ fact: 'round', op: 'like', value: 1 }] }] }, 'rules[r].if[0].op'],
  ['a comparison with nothing', { rules: [{ ...rule('r'), if: [{ fact: 'round', op: 'is' }] }] }, 'rules[r].if[0].value'],
  ['an effect that does nothing', { rules: [{ ...rule('r'), then: [{ words: 'x' }] }] }, 'rules[r].then[0].do'],
  ['a fact within a fact', { event: { ...event, facts: { client: { name: 'x' } } }, rules: [] }, 'event.facts.client'],
  ['the same rule twice', { rules: [rule('r'), rule('r')] }, 'rules'],
  ['a chain of negative depth', { rules: [], chain: { depth: -1, ran: [] } }, 'chain.depth'],
])('%s is refused where it stands', (_what, more, at) => {
  expect(runRules({ event, rules: [], ...more } as unknown as RulesInput)).toMatchObject({ ok: false, problem: { at } });
});

describe('laws', () => {
  const some = fc.record(
    {
      level: fc.constantFrom('agency', 'template', 'engagement'),
      isOn: fc.boolean(),
      phase: fc.constantFrom('Script', 'Studio'),
      replaces: fc.option(fc.integer({ min: 0, max: 5 })),
      isHeld: fc.boolean(),
    },
    { requiredKeys: ['level', 'isOn', 'phase', 'replaces', 'isHeld'] },
  );
  const toRule = (
    { level, isOn, phase, replaces, isHeld }: typeof some extends fc.Arbitrary<infer Value> ? Value : never,
    place: number,
  ): Rule =>
    rule(`r${place}`, {
      ...{ level: level as Rule['level'], template: 'trail', engagement: place % 2 === 0 ? 'e9' : 'e7', isOn },
      when: { kind: 'handed-off', is: { phase } },
      ...(replaces === null || replaces === place ? {} : { replaces: `r${replaces}` }),
      if: [{ fact: 'round', op: isHeld ? 'is' : 'more-than', value: 1 }],
    });

  test('each rule is run once, held once or not met; both lists keep the order of the rules; what is not met changes nothing', () => {
    fc.assert(
      fc.property(fc.array(some, { maxLength: 6 }), (drawn) => {
        const rules = drawn.map(toRule);
        const answer = of(rules);
        const [run, held] = [ranIn(answer), answer.held.map((each) => each.rule)];
        const order = rules.map(({ id }) => id);
        expect(run).toEqual(order.filter((id) => run.includes(id)));
        expect(held).toEqual(order.filter((id) => held.includes(id)));
        expect(run.filter((id) => held.includes(id))).toEqual([]);
        const met = rules.filter(({ id }) => run.includes(id) || held.includes(id));
        expect(of(met)).toEqual(answer);
      }),
    );
  });

  test('texts without braces stay as they are, and facts are never read as slots', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (text, fact) => {
        const plain = text.replace(/[{}]/g, '');
        const then = [{ do: 'tell', words: `${plain}{client}` }];
        const { run } = answerOf({ event: { ...event, facts: { client: fact } }, rules: [rule('r', { then })] });
        expect(run[0]?.effects[0]?.['words']).toBe(`${plain}${fact}`);
      }),
    );
  });
});
