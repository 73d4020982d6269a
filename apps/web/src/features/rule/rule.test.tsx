import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ruleWords, type RuleChoices, type RuleContent, type RuleLine, type RuleList, type RuleTrial, type RunPage } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { teo, odalys } from '../../../test/samples.ts';
import { addCondition, addEffect, missingIn, newDraft, removeEffect, setEffect, setSlot, setWhen } from './draft.ts';
import { findingWords, heldWords } from './rule-words.ts';
import { RulesPage } from './RulesPage.tsx';
import { RunsPage } from './RunsPage.tsx';

const content: RuleContent = {
  when: { kind: 'handed-off', slots: { phase: 'Script' } },
  if: [{ fact: 'round', op: 'more-than', value: 2 }],
  then: [{ do: 'tell', slots: { who: { by: 'lead' }, text: 'Look at {phase}' } }],
};
const rule: RuleLine = {
  ...{ id: 'r1', version: 3, level: 'agency', template: null, engagement: null, isOn: true, replacesId: null, content },
  ...{ exceptions: [], runs: 4, failed: 1, lastRunAt: '2026-11-20T10:00:00.000Z' },
};
const list: RuleList = { rules: [rule], findings: [], names: {}, openByTemplate: {} };
const choices: RuleChoices = {
  ...{ phases: ['Script', 'Studio'], titles: ['Write the script'], labels: ['rush'] },
  ...{
    people: [{ id: 'p1', name: 'Emeka Strand' }],
    roles: [{ id: 'q1', name: 'Media producer' }],
    clients: [],
    templates: [],
    fields: [],
    webhooks: [],
    savedTasks: [],
  },
  engagements: [{ id: 'e1', name: 'Depot audio trail', client: 'Pellworth Tram Museum' }],
};
const trial: RuleTrial = {
  ...{ days: 30, runs: 1, held: 1, names: {}, isFromPlan: false },
  events: [
    {
      ...{ at: '2026-11-19T15:40:00.000Z', about: 'Script', by: 'Mirela Stoyan', held: null },
      engagement: { id: 'e1', name: 'Depot audio trail', hue: 'plum', client: 'Pellworth Tram Museum' },
      effects: [{ then: { do: 'tell', slots: { who: { by: 'lead' }, text: 'Look at Script' } }, whom: ['Odalys Renn'] }],
    },
    { at: '2026-11-10T15:40:00.000Z', about: 'Idea', by: null, engagement: null, held: { why: 'condition', condition: 0 }, effects: [] },
  ],
};
const answers = { 'GET /rules': list, 'GET /rules/choices': choices, 'POST /rules/try': trial };
const openRules = (address = '/handoffs/rules', more: object = {}, me = odalys) =>
  openScreen(<RulesPage />, { path: '/handoffs/rules', address, me, answers: { ...answers, ...more } });

describe('a draft', () => {
  test('keeps what fits when it waits for something else, and leaves what cannot follow', () => {
    const task = addEffect(setWhen(newDraft(), 'status-changed'), 'set-priority');
    expect(task.content.then.map((then) => then.do)).toEqual(['tell', 'set-priority']);
    const named = setSlot(setWhen(task, 'handed-off'), { part: 'when' }, { name: 'phase', value: 'Script' });
    expect(named.content.then.map((then) => then.do)).toEqual(['tell']);
    expect(setWhen(named, 'sent-back').content.when).toEqual({ kind: 'sent-back', slots: { phase: 'Script' } });
  });

  test('says what is missing until it is whole', () => {
    const draft = newDraft();
    expect(missingIn(draft)).toMatch(/Write a text/);
    const whole = setSlot(draft, { part: 'then', index: 0 }, { name: 'text', value: 'Look' });
    expect(missingIn(whole)).toBeNull();
    expect(missingIn(addCondition(whole, 'client'))).toMatch(/Choose what the condition compares with/);
    expect(missingIn(removeEffect(whole, 0))).toMatch(/Say what the rule does/);
    // Another effect in its place keeps whom it was for.
    const mailed = setEffect(setSlot(whole, { part: 'then', index: 0 }, { name: 'who', value: { by: 'giver' } }), 0, 'mail');
    expect(mailed.content.then).toEqual([{ do: 'mail', slots: { who: { by: 'giver' }, text: 'Look' } }]);
    expect(setEffect(mailed, 0, 'start-round').content.then).toEqual([{ do: 'start-round', slots: { phase: { by: 'this' } } }]);
  });
});

test('why a rule was held names the condition that is not met', () => {
  expect(heldWords({ why: 'condition', condition: 0 }, { content, names: {} })).toBe('the round is not more than 2');
  expect(heldWords({ why: 'already-ran', condition: null }, { content, names: {} })).toMatch(/already ran for this/);
});

test('what is wrong with a rule is said from its side', () => {
  const differ = { kind: 'differ', rules: ['r1', 'r2'], thing: 'priority' } as const;
  expect(findingWords(differ, 'r2', list)).toContain(ruleWords(content, {}));
  expect(findingWords({ kind: 'never', rules: ['r1'], fact: 'round' }, 'r1', list)).toMatch(/never runs/);
  expect(findingWords({ kind: 'ring', rules: ['r1'] }, 'r1', list)).toMatch(/would trigger itself/);
});

test('rules are read as sentences, with what they did', async () => {
  await openRules();
  await screen.findByText('1 rule · 4 runs in the last 30 days, 1 failed');
  screen.getByRole('link', {
    name: /^When Script is handed off, if the round is more than 2 ?, tell the engagement’s lead ?: “Look at phase/,
  });
});

test('a rule is tried while it is edited, and saved with its version', async () => {
  const { sent } = await openRules('/handoffs/rules?rule=r1', { 'PATCH /rules/r1': { rule: { ...rule, version: 4 }, changeId: 'c1' } });
  const sheet = within(await screen.findByRole('complementary', { name: 'Edit rule' }));
  await sheet.findByText('Tell Odalys Renn: “Look at Script”');
  sheet.getByText('Would not run: the round is not more than 2');
  expect(sheet.getByRole('button', { name: 'Save rule' }).hasAttribute('disabled')).toBe(true);
  await userEvent.click(sheet.getByRole('button', { name: /^Phase: Script/ }));
  await userEvent.type(await screen.findByPlaceholderText('Type to find'), 'Stu{ArrowDown}{Enter}');
  await userEvent.click(sheet.getByRole('button', { name: 'Save rule' }));
  await waitFor(() =>
    expect(sent()).toContainEqual({
      request: 'PATCH /rules/r1',
      body: { version: 3, content: { ...content, when: { kind: 'handed-off', slots: { phase: 'Studio' } } } },
    }),
  );
});

test('whoever may not edit rules reads them', async () => {
  await openRules('/handoffs/rules?rule=r1', {}, teo);
  await screen.findByRole('complementary', { name: 'Rule' });
  expect(screen.queryByRole('button', { name: 'New rule…' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Save rule' })).toBeNull();
});

test('a run that failed can be tried again, and what it changed undone', async () => {
  const page: RunPage = {
    ...{ before: null, names: {} },
    runs: [
      {
        ...{
          id: 'x1',
          at: '2026-11-20T10:00:00.000Z',
          rule: { id: 'r1', isRemoved: false, content },
          state: 'failed',
          why: null,
          condition: null,
        },
        ...{
          cause: { kind: 'handed-off', about: 'Script', by: 'Mirela Stoyan', at: '2026-11-20T10:00:00.000Z' },
          engagement: null,
          causedBy: null,
        },
        effects: [
          {
            place: 0,
            then: { do: 'start-phase', slots: { phase: { by: 'next' } } },
            state: 'done',
            said: 'Started Studio.',
            changeId: 'c',
          },
          { place: 1, then: content.then[0] as RuleContent['then'][number], state: 'failed', said: 'There is nobody.', changeId: null },
        ],
      },
    ],
  };
  const { sent } = await openScreen(<RunsPage />, {
    ...{ path: '/handoffs/rules/runs', me: odalys },
    answers: {
      ...answers,
      'GET /rules/runs': page,
      'POST /rules/runs/x1/retry': null,
      'POST /rules/runs/x1/undo': { undone: 1, kept: [] },
    },
  });
  await screen.findByText('Handed off: Script, by Mirela Stoyan');
  screen.getByText('There is nobody.');
  await userEvent.click(within(screen.getByRole('region', { name: 'Runs' })).getByRole('button', { name: 'Undo' }));
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(sent().map(({ request }) => request)).toEqual(['POST /rules/runs/x1/undo', 'POST /rules/runs/x1/retry']));
});

test('a rule is changed for one engagement: a rule of its own stands in its place there', async () => {
  const page = await openRules('/handoffs/rules?rule=r1');
  await userEvent.click(await screen.findByRole('button', { name: /^Change for a template or an engagement/ }));
  page.network.answer('POST /rules', 201, { rule: { ...rule, id: 'r2' }, changeId: 'c1' });
  await userEvent.click(await screen.findByRole('option', { name: /Depot audio trail/ }));
  await waitFor(() =>
    expect(page.sent().find(({ request }) => request === 'POST /rules')?.body).toEqual({
      ...{ level: 'engagement', engagementId: 'e1', replacesId: 'r1', content },
    }),
  );
  await waitFor(() => expect(page.address()).toContain('rule=r2'));
});
