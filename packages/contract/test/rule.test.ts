import { runRules, type Rule } from '@crew/core';
import {
  canFollow,
  compileContent,
  conditionsInWhen,
  opsOf,
  RULE_FACT,
  ruleProblem,
  ruleWords,
  slotProblem,
  thenSpec,
  THEN_KIND,
  whenParts,
  whenSpec,
  WHEN_KIND,
  type RuleContent,
} from '../src/index.ts';

const MAK = '11111111-1111-4111-8111-111111111111';
const content = (more: Partial<RuleContent> = {}): RuleContent => ({
  when: { kind: 'handed-off', slots: { phase: 'Script' } },
  if: [],
  then: [{ do: 'tell', slots: { who: { by: 'person', id: MAK }, text: 'Look at {phase}' } }],
  ...more,
});
const slotsIn = (words: string): string[] => [...words.matchAll(/\{([a-z]+)\}/g)].map((match) => match[1] as string).sort();

test.each([...WHEN_KIND.map((kind) => [kind, whenSpec(kind)] as const), ...THEN_KIND.map((kind) => [kind, thenSpec(kind)] as const)])(
  'the sentence of %s has a place for each of its slots, and what they begin with fits',
  (_, { words, slots }) => {
    expect(slotsIn(words)).toEqual(Object.keys(slots).sort());
    for (const slot of Object.values(slots)) if (slot.first !== undefined) expect(slotProblem(slot, slot.first)).toBeNull();
  },
);

test.each(RULE_FACT.map((fact) => [fact]))('there is a question to ask of %s', (fact) => expect(opsOf(fact).length).toBeGreaterThan(0));

test('what any rule waits for can be followed by something', () => {
  for (const kind of WHEN_KIND) expect(THEN_KIND.some((then) => canFollow(then, whenSpec(kind).subject))).toBe(true);
  expect(canFollow('set-status', 'handoff')).toBe(false);
  expect(canFollow('make-task', 'person')).toBe(false);
});

test('a rule reads as one sentence', () => {
  const rule = content({
    if: [
      { fact: 'client', op: 'is', value: 'c1' },
      { fact: 'round', op: 'more-than', value: 2 },
    ],
    then: [...content().then, { do: 'start-phase', slots: { phase: { by: 'next' } } }],
  });
  expect(ruleWords(rule, { [MAK]: 'Mak Reyes', c1: 'Mill House' })).toBe(
    'When Script is handed off, if the client is Mill House and the round is more than 2, tell Mak Reyes: “Look at {phase}” and start the next phase.',
  );
});

test.each<[number, string]>([
  [-2, '2 working days before'],
  [-1, '1 working day before'],
  [0, 'the day of'],
  [3, '3 working days after'],
])('%i days are “%s”', (days, words) => {
  expect(whenParts({ kind: 'promise-day', slots: { days } }, {}).map(({ text }) => text)).toContain(words);
});

test('what is open says so, and what has to be filled is named with its place', () => {
  const open = content({ then: [{ do: 'tell', slots: { who: { by: 'lead' } } }] });
  expect(ruleProblem(open)).toEqual({ at: 'then.0.text', words: 'Write a text of at most 500 characters.' });
  expect(ruleProblem(content())).toBeNull();
  expect(ruleProblem(null)).not.toBeNull();
});

describe('as the core runs it', () => {
  const runs = (
    rule: RuleContent,
    event: { readonly kind: string; readonly facts: Readonly<Record<string, string | number | string[]>> },
  ): boolean => {
    const core: Rule = { id: 'r', level: 'agency', isOn: true, ...compileContent(rule) };
    const answer = runRules({ event: { id: '1', subject: 's', ...event }, rules: [core] });
    return answer.ok && answer.value.run.length === 1;
  };

  test('a titled task, a kind and a label are each asked in their own way', () => {
    const status = (task: RuleContent['when']['slots'][string]): RuleContent =>
      content({ when: { kind: 'status-changed', slots: { status: 'done', task } } });
    const event = { kind: 'task-status-changed', facts: { status: 'done', task: 'Ink', taskKind: 'work', labels: ['rush', 'glass'] } };
    expect(runs(status({ by: 'title', is: 'Ink' }), event)).toBe(true);
    expect(runs(status({ by: 'title', is: 'Sketch' }), event)).toBe(false);
    expect(runs(status({ by: 'kind', is: 'client' }), event)).toBe(false);
    expect(runs(status({ by: 'label', is: 'glass' }), event)).toBe(true);
    expect(runs(status({ by: 'label', is: 'calm' }), event)).toBe(false);
    expect(runs(status(null), event)).toBe(true);
  });

  test('what makes a “when” of several of one kind of event is asked too', () => {
    const answered = content({ when: { kind: 'client-answered', slots: {} } });
    const event = (taskKind: string) => ({ kind: 'task-status-changed', facts: { status: 'done', taskKind } });
    expect(runs(answered, event('client'))).toBe(true);
    expect(runs(answered, event('work'))).toBe(false);
  });

  test('conditions stand behind what the “when” becomes', () => {
    const rule = content({
      when: { kind: 'status-changed', slots: { task: { by: 'label', is: 'rush' } } },
      if: [{ fact: 'role', op: 'is-empty' }],
    });
    expect(conditionsInWhen(rule)).toBe(1);
    expect(compileContent(rule).if.map(({ fact }) => fact)).toEqual(['labels', 'roleId']);
  });
});
