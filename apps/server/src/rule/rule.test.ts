import type {
  EngagementPlan,
  HandoffSheet,
  HistoryPage,
  Notices,
  PlanTask,
  RuleCondition,
  RuleContent,
  RuleList,
  RuleSaved,
  RuleThen,
  RunPage,
  SavedBack,
  RunUndone,
} from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { smallTemplate } from '../../test/small-world.ts';
import { CreateTemplate, type TemplateDraft } from '../template/create-template.ts';

/* Lena leads and writes rules, Mak makes, Dora draws and makes, Fred only draws. */

const { harness, lead } = testWorld();
let id: string;
let roles: Readonly<Record<string, string>>;

beforeAll(async () => {
  const rows = await harness.database.rows<{ name: string; id: string }>('SELECT name, id FROM role');
  roles = Object.fromEntries(rows.map((row) => [row.name, row.id]));
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.settle();
  await harness.database.rows('DELETE FROM rule');
  await harness.database.rows('DELETE FROM notice');
  id = await startSmall(lead, harness, { name: 'Quay' });
  await harness.settle();
});

const person = (name: string): string => harness.ids.people[name] as string;
const planOf = async (engagement = id): Promise<EngagementPlan> =>
  (await lead.get(`/engagements/${engagement}/plan`).expect(200)).body as EngagementPlan;
const taskOf = async (title: string): Promise<PlanTask> => (await planOf()).tasks.find((task) => task.title === title) as PlanTask;
const edit = async (title: string, change: object, by: Caller = lead): Promise<void> => {
  const { id: task, version } = await taskOf(title);
  await by.patch(`/tasks/${task}`, { version, ...change }).expect(200);
};
const done = (title: string): Promise<void> => edit(title, { status: 'done' });

const tell = (text: string): RuleThen => ({ do: 'tell', slots: { who: { by: 'person', id: person('Mak') }, text } });
const becomes = (status: string, title?: string): RuleContent['when'] => ({
  kind: 'status-changed',
  slots: { status, ...(title === undefined ? {} : { task: { by: 'title', is: title } }) } as RuleContent['when']['slots'],
});
const contentOf = (when: RuleContent['when'], then: readonly RuleThen[], conditions: readonly RuleCondition[] = []): RuleContent => ({
  when,
  if: conditions,
  then,
});
const addRule = async (content: RuleContent, more: object = {}): Promise<RuleSaved['rule']> =>
  ((await lead.post('/rules', { level: 'agency', content, ...more }).expect(201)).body as RuleSaved).rule;

const toldTo = async (name: string): Promise<string[]> => {
  await harness.settle();
  const { groups } = (await (await harness.as(name)).get('/notices').expect(200)).body as Notices;
  return groups.flatMap(({ lines }) => lines.filter(({ kind }) => kind === 'told').map(({ words }) => words ?? ''));
};
const runsOf = async (query = ''): Promise<RunPage['runs']> => {
  await harness.settle();
  return ((await lead.get(`/rules/runs?${query}`).expect(200)).body as RunPage).runs;
};
const handoffOf = async (phase = 0): Promise<string> => (await planOf()).phases[phase]?.handoffId as string;
const handOff = async (more: object = {}): Promise<string> => {
  const handoff = await handoffOf();
  const { version } = (await lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
  await lead.post(`/handoffs/${handoff}/hand-off`, { version, words: '', reason: 'Soon', receiverId: person('Dora'), ...more }).expect(200);
  return handoff;
};

describe('deciding', () => {
  test('a rule runs at what it waits for, once, and fills in its texts', async () => {
    await addRule(contentOf(becomes('done', 'Sketch'), [tell('{task} of {client} is {status}')]));
    await done('Sketch');
    expect(await toldTo('Mak')).toEqual(['Sketch of Harbour Museum is done']);
    await harness.settle();
    expect(await toldTo('Mak')).toHaveLength(1);
    expect(await runsOf()).toMatchObject([
      { state: 'done', cause: { kind: 'task-status-changed', about: 'Sketch', by: 'Lena Park' }, engagement: { name: 'Quay' } },
    ]);
  });

  test('it runs only for what its slots and conditions ask, and the log says which condition held it', async () => {
    const mill: RuleCondition = { fact: 'client', op: 'is', value: harness.ids.otherClient };
    await addRule(contentOf(becomes('done'), [tell('one')], [{ fact: 'priority', op: 'is', value: 'normal' }, mill]));
    await addRule(contentOf(becomes('done', 'Ink'), [tell('two')]));
    await done('Sketch');
    expect(await toldTo('Mak')).toEqual([]);
    expect(await runsOf()).toMatchObject([{ state: 'held', why: 'condition', condition: 1, effects: [] }]);
  });

  test('what happened before a rule was there does not concern it', async () => {
    await done('Sketch');
    await addRule(contentOf(becomes('done'), [tell('late')]));
    expect(await toldTo('Mak')).toEqual([]);
  });

  test('a rule of a template or an engagement concerns those only', async () => {
    const other = await startSmall(lead, harness, { name: 'Other' });
    await addRule(contentOf(becomes('done'), [tell('engagement')]), { level: 'engagement', engagementId: other });
    await addRule(contentOf(becomes('done'), [tell('template')]), { level: 'template', templateId: harness.ids.template });
    await done('Sketch');
    expect(await toldTo('Mak')).toEqual(['template']);
  });

  test('a nearer rule that replaces another stands instead of it, and an exception keeps it away', async () => {
    const general = await addRule(contentOf(becomes('done'), [tell('general')]));
    await addRule(contentOf(becomes('done'), [tell('special')]), { level: 'engagement', engagementId: id, replacesId: general.id });
    await done('Sketch');
    expect(await toldTo('Mak')).toEqual(['special']);
    expect((await runsOf(`rule=${general.id}`)).map(({ why }) => why)).toEqual(['replaced']);
    const { rule } = (await lead.post(`/rules/${general.id}/exceptions`, { engagementId: id }).expect(201)).body as RuleSaved;
    expect(rule.exceptions).toMatchObject([{ name: 'Quay', of: 'engagement' }]);
    await lead.delete(`/rules/${general.id}/exceptions/${rule.exceptions[0]?.id}`).expect(200);
  });

  test('a rule that is switched off for one engagement holds elsewhere', async () => {
    const general = await addRule(contentOf(becomes('done'), [tell('general')]));
    await lead.post(`/rules/${general.id}/exceptions`, { engagementId: id }).expect(201);
    await lead.post(`/rules/${general.id}/exceptions`, { engagementId: id }).expect(201);
    await done('Sketch');
    expect(await toldTo('Mak')).toEqual([]);
    const { rules } = (await lead.get('/rules').expect(200)).body as RuleList;
    expect(rules[0]?.exceptions).toHaveLength(1);
  });

  test('rules that call each other come to an end', async () => {
    await addRule(contentOf(becomes('active', 'Sketch'), [{ do: 'set-status', slots: { status: 'review' } }]));
    await addRule(contentOf(becomes('review', 'Sketch'), [{ do: 'set-status', slots: { status: 'active' } }]));
    await edit('Sketch', { status: 'active' });
    const runs = await runsOf();
    expect(runs.filter(({ state }) => state === 'done')).toHaveLength(2);
    expect(runs.filter(({ why }) => why === 'already-ran')).toHaveLength(1);
    expect(runs[0]?.causedBy).not.toBeNull();
    const first = runs.at(-1);
    expect(await runsOf(`run=${first?.id}`)).toHaveLength(3);
  });

  test('undoing what somebody did is no reason to run', async () => {
    await addRule(contentOf(becomes('queued'), [tell('again')]));
    await done('Sketch');
    const { lines } = (await lead.get(`/history?engagement=${id}`).expect(200)).body as HistoryPage;
    await lead.post(`/changes/${lines[0]?.changeId}/undo`).expect(200);
    expect(await toldTo('Mak')).toEqual([]);
  });

  test('two processes decide and carry out each once', async () => {
    await addRule(contentOf(becomes('done'), [tell('{task}')]));
    const other = await harness.beside();
    await done('Sketch');
    await done('Ink');
    await Promise.all([harness.settle(), other.settle()]);
    expect((await toldTo('Mak')).sort()).toEqual(['Ink', 'Sketch']);
    await other.close();
  });
});

describe('effects', () => {
  const whenSketch = becomes('done', 'Sketch');
  const runAtSketch = async (...then: RuleThen[]): Promise<RunPage['runs'][number]> => {
    await addRule(contentOf(whenSketch, then));
    await done('Sketch');
    return (await runsOf())[0] as RunPage['runs'][number];
  };

  test('a task is set, labelled and given away by the one way to change a plan', async () => {
    const field = (await lead.post('/custom-fields', { name: 'Paper', kind: 'text' }).expect(201)).body as { id: string };
    await addRule(
      contentOf(becomes('active', 'Ink'), [
        { do: 'assign', slots: { whom: { by: 'person', id: person('Fred') } } },
        { do: 'set-priority', slots: { priority: 'high' } },
        { do: 'add-label', slots: { label: 'rush' } },
        { do: 'set-field', slots: { field: { fieldId: field.id, value: 'thick' } } },
        { do: 'add-label', slots: { label: 'rush' } },
      ]),
    );
    await edit('Ink', { status: 'active', assigneeIds: [] });
    const [run] = await runsOf();
    expect(run?.effects.map(({ state }) => state)).toEqual(['done', 'done', 'done', 'done', 'nothing']);
    const { groups } = (await (await harness.as('Fred')).get('/notices').expect(200)).body as Notices;
    const lines = groups.flatMap((group) => group.lines);
    expect(lines).toContainEqual(expect.objectContaining({ kind: 'assigned', by: null, isByRule: true }));
    const ink = (await lead.get(`/tasks/${(await taskOf('Ink')).id}`).expect(200)).body as object;
    expect(ink).toMatchObject({
      ...{ priority: 'high', labels: ['rush'], assignees: [{ name: 'Fred Loan' }] },
      customFields: [{ fieldId: field.id, value: 'thick' }],
    });
  });

  test('of a role whoever has the most free hours is chosen, and never somebody who is away', async () => {
    await harness.database.rows('DELETE FROM task_assignee');
    const assign: RuleThen = { do: 'assign-phase', slots: { phase: { by: 'next' }, whom: { by: 'role', id: roles['Maker'] as string } } };
    await lead.post(`/crew/${person('Dora')}/time-off`, { from: TODAY, to: TODAY, note: '' }).expect(201);
    const run = await runAtSketch(assign);
    expect(run.effects).toMatchObject([{ state: 'done', said: 'Assigned 2 tasks of Make to Mak Reyes.' }]);
    expect((await taskOf('Cut')).assignees).toMatchObject([{ name: 'Mak Reyes' }]);
    await harness.database.rows('DELETE FROM time_off');
  });

  test('a rule that finds nobody says so and changes nothing', async () => {
    await harness.database.rows('DELETE FROM time_off');
    for (const name of ['Mak', 'Dora']) await lead.post(`/crew/${person(name)}/time-off`, { from: TODAY, to: TODAY, note: '' }).expect(201);
    const run = await runAtSketch(
      { do: 'assign-phase', slots: { phase: { by: 'next' }, whom: { by: 'role', id: roles['Maker'] as string } } },
      tell('the others go on'),
    );
    expect(run).toMatchObject({
      state: 'failed',
      effects: [{ state: 'failed', said: expect.stringContaining('Nobody with the role Maker') as string }, { state: 'done' }],
    });
    await harness.database.rows('DELETE FROM time_off');
    await lead.post(`/rules/runs/${run.id}/retry`).expect(204);
    expect(await runsOf()).toMatchObject([{ state: 'done' }]);
    await lead.post(`/rules/runs/${run.id}/retry`).expect(409);
  });

  test('a task is made days before the next phase starts, with its person', async () => {
    const run = await runAtSketch({
      do: 'make-task',
      slots: {
        title: 'Book the booth for {client}',
        phase: { by: 'next' },
        day: { days: -2, from: 'phase-start' },
        whom: { by: 'person', id: person('Mak') },
      },
    });
    expect(run.effects).toMatchObject([{ state: 'done', said: 'Added “Book the booth for Harbour Museum” to Make for Mak Reyes.' }]);
    const { phases, tasks } = await planOf();
    const made = tasks.find(({ title }) => title.startsWith('Book')) as PlanTask;
    expect(made).toMatchObject({ phaseId: phases[1]?.id, assignees: [{ name: 'Mak Reyes' }] });
    expect(made.start < (phases[1]?.start ?? '')).toBe(true);
    expect(made.start >= TODAY).toBe(true);
    // Whoever has it hears of it, and that a rule did it.
    await harness.settle();
    const { groups } = (await (await harness.as('Mak')).get('/notices').expect(200)).body as Notices;
    expect(groups.find(({ about }) => about.id === made.id)?.lines).toMatchObject([{ kind: 'assigned', isByRule: true }]);
  });

  test('a task of the library is added with all it presets, on the day the rule says', async () => {
    const { id: taskId } = await taskOf('Paint');
    await edit('Paint', { estimateMinutes: 90 });
    const saved = await lead.post(`/engagements/${id}/template`, { name: 'Varnish', taskId, measure: 'planned' }).expect(201);
    const templateId = (saved.body as SavedBack).id;
    const slots = {
      item: templateId,
      phase: { by: 'next' },
      day: { days: 2, from: 'phase-start' },
      whom: { by: 'person', id: person('Mak') },
    } as const;
    const run = await runAtSketch({ do: 'add-saved-task', slots });
    expect(run.effects).toMatchObject([{ state: 'done', said: 'Added “Paint” from the library to Make for Mak Reyes.' }]);
    const { phases, tasks } = await planOf();
    const made = tasks.filter(({ title }) => title === 'Paint').at(-1) as PlanTask;
    expect(made).toMatchObject({ phaseId: phases[1]?.id, estimateMinutes: 90, assignees: [{ name: 'Mak Reyes' }] });
    expect(made.start > (phases[1]?.start ?? '')).toBe(true);
    await lead.post(`/rules/runs/${run.id}/undo`).expect(200);
    expect((await planOf()).tasks.filter(({ title }) => title === 'Paint')).toHaveLength(1);
    // A template of an engagement is more than that.
    const more = contentOf(becomes('done'), [{ do: 'add-saved-task', slots: { ...slots, item: harness.ids.template } }]);
    const refused = await lead.post('/rules', { level: 'agency', content: more }).expect(400);
    expect(refused.body).toMatchObject({ message: '“Panels” is more than a task. Choose a saved task of the library.' });
  });

  test('a decision is asked for as a task of whoever leads, from today', async () => {
    await runAtSketch({ do: 'ask-decision', slots: { whom: { by: 'lead' }, text: 'Glass or print?' } });
    expect(await taskOf('Decide: Glass or print?')).toMatchObject({ start: TODAY, assignees: [{ name: 'Lena Park' }] });
  });

  test('dates move by working days', async () => {
    const before = await taskOf('Cut');
    await runAtSketch({ do: 'move-phase', slots: { phase: { by: 'next' }, days: 3 } });
    expect((await taskOf('Cut')).start > before.start).toBe(true);
  });

  test('the next phase starts without a handoff', async () => {
    const run = await runAtSketch({ do: 'start-phase', slots: { phase: { by: 'name', is: 'make' } } });
    expect(run.effects).toMatchObject([{ state: 'done', said: 'Started Make.' }]);
    expect((await planOf()).phases[1]).toMatchObject({ state: 'running' });
  });
});

describe('handoffs', () => {
  const clear = async (): Promise<void> => {
    for (const title of ['Sketch', 'Ink', 'Client looks']) await done(title);
    const { gate } = (await lead.get(`/handoffs/${await handoffOf()}`).expect(200)).body as HandoffSheet;
    await lead.patch(`/gate-checks/${gate.find(({ kind }) => kind === 'word')?.id}`, { isClear: true }).expect(204);
  };
  const atGate: RuleContent['when'] = { kind: 'gate-cleared', slots: { phase: 'Draw' } };

  test('a gate becomes clear once, is put on the giver’s desk, and is off it when it is not clear any more', async () => {
    await addRule(contentOf(atGate, [{ do: 'ready-handoff', slots: { who: { by: 'person', id: person('Dora') } } }]));
    await clear();
    const [run] = await runsOf();
    expect(run).toMatchObject({ state: 'done', effects: [{ said: 'Put it on the desk of Dora Quill.' }] });
    const dora = await harness.as('Dora');
    const onDesk = async (): Promise<number> => ((await dora.get('/desk').expect(200)).body as { handoffs: unknown[] }).handoffs.length;
    expect(await onDesk()).toBe(1);
    await edit('Sketch', { status: 'active' });
    await harness.settle();
    expect(await onDesk()).toBe(0);
    await done('Sketch');
    expect(await runsOf()).toHaveLength(2);
  });

  test('a rule hands off with a clear gate, to whoever of the role is free', async () => {
    await addRule(contentOf(atGate, [{ do: 'hand-off', slots: { whom: { by: 'role', id: roles['Maker'] as string } } }]));
    await clear();
    const [run] = await runsOf();
    expect(run).toMatchObject({ state: 'done' });
    const sheet = (await lead.get(`/handoffs/${await handoffOf()}`).expect(200)).body as HandoffSheet;
    expect(sheet.state).toBe('handed-off');
    expect(['Mak Reyes', 'Dora Quill']).toContain(sheet.receiver?.name);
  });

  test('a gate that is not clear is not passed by a rule', async () => {
    await addRule(contentOf(becomes('done', 'Sketch'), [{ do: 'hand-off', slots: { whom: { by: 'person', id: person('Mak') } } }]));
    await done('Sketch');
    expect(await runsOf()).toMatchObject([
      { state: 'failed', effects: [{ said: expect.stringContaining('The gate is not clear') as string }] },
    ]);
    expect(((await lead.get(`/handoffs/${await handoffOf()}`).expect(200)).body as HandoffSheet).state).toBe('getting-ready');
  });

  test('handed off, picked up and sent back are each something to wait for', async () => {
    for (const kind of ['handed-off', 'picked-up', 'sent-back'] as const)
      await addRule(contentOf({ kind, slots: { phase: 'Draw' } }, [tell(kind)]));
    const handoff = await handOff();
    const dora = await harness.as('Dora');
    await dora.post(`/handoffs/${handoff}/send-back`, { version: 2, question: 'Which?' }).expect(200);
    await handOff();
    await dora.post(`/handoffs/${handoff}/pick-up`, { version: 4 }).expect(200);
    expect((await toldTo('Mak')).sort()).toEqual(['handed-off', 'handed-off', 'picked-up', 'sent-back']);
  });

  test('the client has answered: a task of theirs is done', async () => {
    await addRule(contentOf({ kind: 'client-answered', slots: {} }, [tell('{task}')]));
    await done('Sketch');
    await done('Client looks');
    expect(await toldTo('Mak')).toEqual(['Client looks']);
  });

  test('somebody who becomes unavailable is told to whoever leads their open work', async () => {
    await addRule(
      contentOf({ kind: 'person-away', slots: {} }, [{ do: 'tell', slots: { who: { by: 'lead' }, text: '{person} is away' } }]),
    );
    await edit('Sketch', { assigneeIds: [person('Fred')] });
    await lead.post(`/crew/${person('Fred')}/time-off`, { from: '2026-12-01', to: '2026-12-04', note: '' }).expect(201);
    expect(await toldTo('Lena')).toEqual(['Fred Loan is away']);
    await harness.database.rows('DELETE FROM time_off');
  });
});

describe('rounds', () => {
  test('the next round starts by itself; beyond those agreed the lead is asked, with its effort, and nothing starts', async () => {
    const [draw, make] = smallTemplate.phases as [TemplateDraft['phases'][number], TemplateDraft['phases'][number]];
    const templateId = await harness.app.get(CreateTemplate).run(await harness.whoIs('Lena'), {
      ...{ ...smallTemplate, name: 'Panels in rounds', phases: [{ ...draw, rounds: 2 }, make] },
      ways: [{ from: 'Client looks', to: 'Ink', reason: 'changes wanted' }],
    });
    id = await startSmall(lead, harness, { name: 'Rounds', templateId });
    await addRule(contentOf(becomes('review', 'Client looks'), [{ do: 'start-round', slots: { phase: { by: 'this' } } }]));
    const askForChanges = async (): Promise<RunPage['runs'][number]> => {
      for (const title of ['Sketch', 'Ink']) await done(title);
      await edit('Client looks', { status: 'review' });
      return (await runsOf())[0] as RunPage['runs'][number];
    };
    expect((await askForChanges()).effects).toMatchObject([{ state: 'done', said: 'Started the next round of Draw.' }]);
    expect((await planOf()).phases[0]).toMatchObject({ round: 2, rounds: 2 });
    expect((await taskOf('Ink')).status).toBe('queued');
    const { effects } = await askForChanges();
    expect(effects).toMatchObject([
      { state: 'done', said: expect.stringMatching(/^Asked Lena Park about round 3 of Draw, 2 were agreed/) as string },
    ]);
    expect((await planOf()).phases[0]).toMatchObject({ round: 2 });
    expect((await taskOf('Ink')).status).toBe('done');
    const asked = (await planOf()).tasks.find(({ title }) => title.startsWith('Decide: round 3 of Draw')) as PlanTask;
    expect(asked).toMatchObject({ assignees: [{ name: 'Lena Park' }] });
    expect(asked.title).toMatch(/it takes about [\d.]+ h$/);
  });
});

describe('dates and hours', () => {
  const near = (days: number): RuleContent =>
    contentOf({ kind: 'task-day', slots: { days, date: 'due', task: { by: 'title', is: 'Sketch' } } }, [tell('{task} {days}')]);
  const look = async (day: IsoDay): Promise<void> => {
    harness.clock.moveTo(day);
    await harness.database.rows(`SELECT graphile_worker.add_job('reach-marks')`);
    await harness.settle();
  };

  test('a date is reached once, so many working days before it, and again when it is another', async () => {
    await addRule(near(-1));
    const { due } = await taskOf('Sketch');
    expect(due).toBe('2026-11-24');
    await edit('Sketch', { fixedDay: '2026-12-03' });
    await look('2026-12-02');
    await look('2026-12-02');
    expect(await toldTo('Mak')).toEqual([]);
    await look('2026-12-03');
    await look('2026-12-03');
    expect(await toldTo('Mak')).toEqual(['Sketch -1']);
    await edit('Sketch', { fixedDay: '2026-12-10' });
    await look('2026-12-10');
    expect(await toldTo('Mak')).toHaveLength(2);
  });

  test('a date that is past is reached while the work is open, and what was past before the rule is not told', async () => {
    harness.clock.moveTo('2026-12-02');
    await addRule(near(2), { level: 'engagement', engagementId: id });
    await look('2026-12-02');
    expect(await toldTo('Mak')).toEqual([]);
    await addRule(near(8), { level: 'engagement', engagementId: id });
    await look('2026-12-14');
    expect(await toldTo('Mak')).toEqual(['Sketch 8']);
  });

  test('hours are reached when they are logged', async () => {
    await addRule(contentOf({ kind: 'hours-reached', slots: { percent: 50, of: 'task' } }, [tell('{task} {hoursPercent}')]));
    const sketch = await taskOf('Sketch');
    const mak = await harness.as('Mak');
    await mak.post(`/tasks/${sketch.id}/time`, { day: TODAY, minutes: 200 }).expect(201);
    expect(await toldTo('Mak')).toEqual([]);
    await mak.post(`/tasks/${sketch.id}/time`, { day: TODAY, minutes: 100 }).expect(201);
    await mak.post(`/tasks/${sketch.id}/time`, { day: TODAY, minutes: 100 }).expect(201);
    expect(await toldTo('Mak')).toEqual(['Sketch 50']);
  });
});

describe('undo', () => {
  test('a run goes back by field; what was changed since and what was said stays, named', async () => {
    await addRule(
      contentOf(becomes('active', 'Ink'), [
        { do: 'set-priority', slots: { priority: 'high' } },
        { do: 'add-label', slots: { label: 'rush' } },
        tell('x'),
      ]),
    );
    await edit('Ink', { status: 'active' });
    const [run] = await runsOf();
    await edit('Ink', { labels: [] });
    const undone = (await lead.post(`/rules/runs/${run?.id}/undo`).expect(200)).body as RunUndone;
    expect(undone.undone).toBe(1);
    expect(undone.kept).toHaveLength(2);
    expect(((await lead.get(`/tasks/${(await taskOf('Ink')).id}`).expect(200)).body as { priority: string }).priority).toBe('normal');
    expect(await runsOf()).toMatchObject([{ state: 'undone' }]);
    await lead.post(`/rules/runs/${run?.id}/undo`).expect(409);
  });

  test('a task that was made goes away again', async () => {
    await addRule(contentOf(becomes('done', 'Sketch'), [{ do: 'ask-decision', slots: { whom: { by: 'lead' }, text: 'Go on?' } }]));
    await done('Sketch');
    const [run] = await runsOf();
    await lead.post(`/rules/runs/${run?.id}/undo`).expect(200);
    expect(await taskOf('Decide: Go on?')).toBeUndefined();
  });

  test('the history names what a rule did, and can be narrowed to it', async () => {
    const rule = await addRule(contentOf(becomes('done', 'Sketch'), [tell('x')]));
    await done('Sketch');
    await harness.settle();
    const { lines } = (await lead.get(`/history?rule=${rule.id}`).expect(200)).body as HistoryPage;
    expect(lines).toMatchObject([{ kind: 'told', by: { kind: 'rule', person: null }, runId: expect.any(String) as string }]);
  });
});
