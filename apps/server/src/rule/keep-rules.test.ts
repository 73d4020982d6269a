import { ruleWords, type HistoryPage, type RuleContent, type RuleList, type RuleSaved, type RuleTrial, type RunPage } from '@crew/contract';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

/* Lena leads and writes rules; Mak is a member, Fred a freelancer. */

const { harness, lead } = testWorld();
let id: string;

beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('DELETE FROM rule');
  await harness.database.rows('DELETE FROM event');
  id = await startSmall(lead, harness, { name: 'Quay' });
  await harness.settle();
});

const atDone = (text: string, more: Partial<RuleContent> = {}): RuleContent => ({
  when: { kind: 'status-changed', slots: { status: 'done' } },
  if: [],
  then: [{ do: 'tell', slots: { who: { by: 'lead' }, text } }],
  ...more,
});
const add = async (content: RuleContent, more: object = {}): Promise<RuleSaved> =>
  (await lead.post('/rules', { level: 'agency', content, ...more }).expect(201)).body as RuleSaved;
const listOf = async (who: Caller = lead): Promise<RuleList> => (await who.get('/rules').expect(200)).body as RuleList;
const texts = async (): Promise<string[]> =>
  (await listOf()).rules.map(({ content }) => String((content.then[0]?.slots as { text?: string } | undefined)?.text));
const finish = async (title: string): Promise<void> => {
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as {
    tasks: { id: string; title: string; version: number }[];
  };
  const task = tasks.find((one) => one.title === title);
  await lead.patch(`/tasks/${task?.id}`, { version: task?.version, status: 'done' }).expect(200);
};

describe('keeping', () => {
  test('rules are listed by where they hold, each place in its order, with what they are called', async () => {
    const mak = harness.ids.people['Mak'] as string;
    await add(atDone('engagement'), { level: 'engagement', engagementId: id });
    await add(atDone('template'), { level: 'template', templateId: harness.ids.template });
    await add(atDone('first', { then: [{ do: 'tell', slots: { who: { by: 'person', id: mak }, text: 'first' } }] }));
    const { rule: second } = await add(atDone('second'));
    expect(await texts()).toEqual(['first', 'second', 'template', 'engagement']);
    const { rules, names, openByTemplate } = await listOf(await harness.as('Mak'));
    expect(names[mak]).toBe('Mak Reyes');
    expect(openByTemplate[harness.ids.template]).toBeGreaterThan(0);
    expect(ruleWords((rules[0] as RuleList['rules'][number]).content, names)).toBe('When a task becomes done, tell Mak Reyes: “first”.');
    await lead.patch(`/rules/${second.id}`, { version: second.version, beforeId: rules[0]?.id }).expect(200);
    expect(await texts()).toEqual(['second', 'first', 'template', 'engagement']);
    await lead.patch(`/rules/${second.id}`, { version: second.version, beforeId: rules[2]?.id }).expect(400);
  });

  test('a stale version changes nothing and says how the rule is now', async () => {
    const { rule } = await add(atDone('a'));
    await lead.patch(`/rules/${rule.id}`, { version: rule.version, content: atDone('b') }).expect(200);
    const { body } = await lead.patch(`/rules/${rule.id}`, { version: rule.version, isOn: false }).expect(409);
    expect(body).toMatchObject({ code: 'changed-meanwhile', details: { current: { isOn: true, content: atDone('b') } } });
  });

  test('a rule that is switched on again does not catch up', async () => {
    const { rule } = await add(atDone('a'));
    const off = (await lead.patch(`/rules/${rule.id}`, { version: rule.version, isOn: false }).expect(200)).body as RuleSaved;
    await finish('Sketch');
    await lead.patch(`/rules/${rule.id}`, { version: off.rule.version, isOn: true }).expect(200);
    await harness.settle();
    expect(((await lead.get('/rules/runs').expect(200)).body as RunPage).runs).toEqual([]);
  });

  test('adding, changing and removing can be undone, by field and from the history', async () => {
    const { rule, changeId } = await add(atDone('a'));
    const changed = (await lead.patch(`/rules/${rule.id}`, { version: rule.version, content: atDone('b'), isOn: false }).expect(200))
      .body as RuleSaved;
    await lead.patch(`/rules/${rule.id}`, { version: changed.rule.version, isOn: true }).expect(200);
    const undone = (await lead.post(`/changes/${changed.changeId}/undo`).expect(200)).body as { kept: { field: string }[] };
    expect(undone.kept).toMatchObject([{ field: 'isOn' }]);
    expect((await listOf()).rules).toMatchObject([{ isOn: true, content: atDone('a') }]);
    const { body } = await lead.delete(`/rules/${rule.id}`).expect(200);
    expect(await texts()).toEqual([]);
    await lead.post(`/changes/${(body as { changeId: string }).changeId}/undo`).expect(200);
    expect(await texts()).toEqual(['a']);
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect(await texts()).toEqual([]);
    const { lines } = (await lead.get('/history?part=rules').expect(200)).body as HistoryPage;
    expect(lines.at(-1)).toMatchObject({
      kind: 'rule-added',
      subject: { name: 'When a task becomes done, tell the engagement’s lead: “a”.' },
    });
  });

  test.each<[string, object, RegExp]>([
    ['no effect', { then: [] }, /Say what the rule does/],
    ['an unknown effect', { then: [{ do: 'sing', slots: {} }] }, /Choose what the rule does/],
    ['an effect without its text', { then: [{ do: 'tell', slots: { who: { by: 'lead' } } }] }, /Write a text.*See then\.0\.text\./],
    ['a slot that is not there', { when: { kind: 'handed-off', slots: { colour: 'red' } } }, /no such slot/],
    [
      'an effect on a task after a handoff',
      { when: { kind: 'handed-off', slots: {} }, then: [{ do: 'set-priority', slots: { priority: 'high' } }] },
      /cannot follow/,
    ],
    ['a condition with a question that fits no text', { if: [{ fact: 'client', op: 'more-than', value: 3 }] }, /how the condition asks/],
    ['a number that is none', { if: [{ fact: 'round', op: 'more-than', value: 'two' }] }, /Give a number/],
  ])('%s is refused in words', async (_, more, words) => {
    const { body } = await lead.post('/rules', { level: 'agency', content: { ...atDone('x'), ...more } }).expect(400);
    expect(JSON.stringify(body)).toMatch(words);
  });

  test('what is not of the agency is refused', async () => {
    const unknown = '11111111-1111-4111-8111-111111111111';
    const content = atDone('x', { then: [{ do: 'tell', slots: { who: { by: 'person', id: unknown }, text: 'x' } }] });
    expect((await lead.post('/rules', { level: 'agency', content }).expect(400)).body).toMatchObject({
      code: 'unknown-id',
      field: 'content',
    });
    await lead.post('/rules', { level: 'template', templateId: unknown, content: atDone('x') }).expect(400);
    await lead.post('/rules', { level: 'engagement', content: atDone('x') }).expect(400);
    await lead.patch(`/rules/${unknown}`, { version: 1, isOn: false }).expect(404);
  });

  test('rules that contradict each other, or never run, are named', async () => {
    const set = (priority: 'high' | 'low'): RuleContent => atDone('', { then: [{ do: 'set-priority', slots: { priority } }] });
    const [one, two] = [(await add(set('high'))).rule.id, (await add(set('low'))).rule.id];
    const never = (
      await add(
        atDone('x', {
          if: [
            { fact: 'round', op: 'more-than', value: 3 },
            { fact: 'round', op: 'less-than', value: 2 },
          ],
        }),
      )
    ).rule.id;
    const { findings } = await listOf();
    expect(findings).toContainEqual({ kind: 'differ', rules: [one, two], thing: 'priority' });
    expect(findings).toContainEqual({ kind: 'never', rules: [never], fact: 'round' });
  });

  test('what can be chosen is what templates and open work have', async () => {
    const { body } = await lead.get('/rules/choices').expect(200);
    expect(body).toMatchObject({ phases: ['Draw', 'Make'], clients: [{ name: 'Harbour Museum' }, { name: 'Mill House' }] });
  });

  test('a freelancer and a client see no rules', async () => {
    for (const name of ['Fred', 'Hal']) await (await harness.as(name)).get('/rules').expect(403);
  });
});

describe('trying', () => {
  const trial = async (content: RuleContent, more: object = {}): Promise<RuleTrial> =>
    (await lead.post('/rules/try', { level: 'agency', days: 30, content, ...more }).expect(200)).body as RuleTrial;

  test('says what the rule would have done and why not elsewhere, and does nothing', async () => {
    await finish('Sketch');
    await finish('Ink');
    const content = atDone('{task} is done', { if: [{ fact: 'task', op: 'is', value: 'Ink' }] });
    const rows = async () =>
      harness.database.row(
        'SELECT (SELECT count(*) FROM event) AS events, (SELECT count(*) FROM rule_run) AS runs, (SELECT count(*) FROM notice) AS notices',
      );
    await harness.settle();
    const before = await rows();
    const tried = await trial(content);
    expect(tried).toMatchObject({ runs: 1, held: 1, isFromPlan: false });
    expect(tried.events).toMatchObject([
      {
        about: 'Ink',
        by: 'Lena Park',
        held: null,
        engagement: { name: 'Quay' },
        effects: [{ then: { slots: { text: 'Ink is done' } }, whom: ['Lena Park'] }],
      },
      { about: 'Sketch', held: { why: 'condition', condition: 0 }, effects: [] },
    ]);
    await harness.settle();
    expect(await rows()).toEqual(before);
  });

  test('tries what the live run does: the same events, the same effects', async () => {
    const content = atDone('{task} of {client}');
    const { rule } = await add(content);
    await finish('Sketch');
    await harness.settle();
    const { runs } = (await lead.get('/rules/runs').expect(200)).body as RunPage;
    const tried = await trial(content, { ruleId: rule.id });
    expect(tried.events.map(({ effects }) => effects.map(({ then }) => then))).toEqual(
      runs.map(({ effects }) => effects.map(({ then }) => then)),
    );
  });

  test('respects where the rule holds, its exceptions and what replaces it', async () => {
    const { rule } = await add(atDone('a'));
    await finish('Sketch');
    expect(await trial(atDone('x'), { level: 'engagement', engagementId: await startSmall(lead, harness) })).toMatchObject({
      runs: 0,
      held: 0,
    });
    await lead.post(`/rules/${rule.id}/exceptions`, { engagementId: id }).expect(201);
    expect(await trial(atDone('a'), { ruleId: rule.id })).toMatchObject({ runs: 0, held: 1, events: [{ held: { why: 'replaced' } }] });
  });

  test('dates and hours are counted from the plan', async () => {
    const due: RuleContent = atDone('x', { when: { kind: 'task-day', slots: { days: -1, date: 'due' } } });
    harness.clock.moveTo('2026-12-20');
    const tried = await trial(due, { level: 'engagement', engagementId: id });
    expect(tried.isFromPlan).toBe(true);
    expect(tried.events.map(({ about, at }) => [about, at.slice(0, 10)])).toContainEqual(['Sketch', '2026-11-23']);
    const hours: RuleContent = atDone('x', { when: { kind: 'hours-reached', slots: { percent: 50, of: 'task' } } });
    expect((await trial(hours)).runs).toBe(0);
  });

  test('one that would stand in place of itself is refused in words', async () => {
    const ruleId = '5b1c7a52-0000-4000-8000-000000000001';
    const body = { level: 'agency', days: 30, content: atDone('x'), ruleId, replacesId: ruleId };
    const refused = (await lead.post('/rules/try', body).expect(400)).body as { message: string };
    expect(refused.message).toBe('A rule cannot replace itself. Choose another one.');
  });

  test.each([[{ days: 8, content: atDone('x') }], [{ days: 30, content: {} }]])('%j is refused', async (more) => {
    await lead.post('/rules/try', { level: 'agency', ...more }).expect(400);
  });
});
