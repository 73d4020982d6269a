import type { CustomFieldEntry } from '@crew/core';
import type { EngagementPlan, CustomField, TaskEdited, TaskSheet } from '@crew/contract';
import { historyOf, startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();

let made = 0;
const add = async (kind: string, more: object = {}): Promise<string> =>
  ((await lead.post('/custom-fields', { name: `Field ${++made}`, kind, ...more }).expect(201)).body as { id: string }).id;
const list = async (): Promise<CustomField[]> => (await lead.get('/custom-fields').expect(200)).body as CustomField[];
const sheet = async (id: string): Promise<TaskSheet> => (await lead.get(`/tasks/${id}`).expect(200)).body as TaskSheet;
async function begun(title = 'Sketch'): Promise<TaskSheet> {
  const id = await startSmall(lead, harness);
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  return sheet(tasks.find((task) => task.title === title)?.id ?? '');
}
const put = (task: TaskSheet, customFields: readonly CustomFieldEntry[]) =>
  lead.patch(`/tasks/${task.id}`, { version: task.version, customFields });

describe('the agency’s custom fields', () => {
  test('a field is added, renamed, given another choice and archived; those in use come first', async () => {
    const id = await add('choice', { name: 'Paper', choices: ['Matt', 'Silk'] });
    await add('text', { name: 'Shelf' });
    await lead.patch(`/custom-fields/${id}`, { name: 'Paper stock', choices: ['Matt', 'Silk', 'Uncoated'] }).expect(204);
    await lead.patch(`/custom-fields/${id}`, { isArchived: true }).expect(204);
    expect((await list()).map(({ name, choices, isArchived }) => [name, choices, isArchived])).toEqual([
      ['Shelf', [], false],
      ['Paper stock', ['Matt', 'Silk', 'Uncoated'], true],
    ]);
  });

  test.each([
    [{ name: 'Shelf', kind: 'text' }, 409, 'name', /“Shelf” already/],
    [{ name: 'SHELF', kind: 'text' }, 409, 'name', /already/],
    [{ name: 'Size', kind: 'choice', choices: ['A1'] }, 400, 'choices', /at least two/],
    [{ name: 'Size', kind: 'text', choices: ['A1'] }, 400, 'choices', /Only a choice/],
    [{ name: 'Size', kind: 'colour' }, 400, 'kind', /one of text/],
    [{ name: ' ', kind: 'text' }, 400, 'name', /a name/],
  ])('%p is refused in a sentence', async (body, status, field, message) => {
    expect((await list()).some(({ name }) => name === 'Shelf')).toBe(true);
    const answer = await lead.post('/custom-fields', body);
    expect([answer.status, (answer.body as { field: string }).field]).toEqual([status, field]);
    expect((answer.body as { message: string }).message).toMatch(message);
  });

  test('a member sees the fields and cannot make one', async () => {
    const member = await harness.as('Mak');
    await member.get('/custom-fields').expect(200);
    await member.post('/custom-fields', { name: 'Mine', kind: 'text' }).expect(403);
  });
});

describe('custom fields of a task', () => {
  test('are filled in, counted, told in the history, and undone', async () => {
    const task = await begun();
    const [size, run] = [await add('choice', { choices: ['A1', 'A2'] }), await add('number')];
    const edited = (
      await put(task, [
        { fieldId: size, value: 'A2' },
        { fieldId: run, value: null },
      ]).expect(200)
    ).body as TaskEdited;
    expect(edited.task.customFields).toEqual([
      { fieldId: size, value: 'A2' },
      { fieldId: run, value: null },
    ]);
    expect((await historyOf(lead, task.id))[0]?.changes.map((change) => change.field)).toEqual(['customFields']);
    expect((await list()).find(({ id }) => id === size)?.usedTimes).toBe(1);
    await lead.post(`/changes/${edited.changeId}/undo`).expect(200);
    expect((await sheet(task.id)).customFields).toEqual([]);
  });

  test('hold only what fits, and say what does', async () => {
    const task = await begun();
    const [size, run, day, who, folder] = [
      await add('choice', { name: 'Sheet', choices: ['A1', 'A2'] }),
      await add('number', { name: 'Print run' }),
      await add('date', { name: 'Proof by' }),
      await add('person', { name: 'Signed by' }),
      await add('link', { name: 'Folder' }),
    ];
    const wrong: [CustomFieldEntry, RegExp][] = [
      [{ fieldId: size, value: 'A9' }, /“Sheet” is one of A1, A2/],
      [{ fieldId: run, value: 'many' }, /“Print run” is a number/],
      [{ fieldId: day, value: '2026-13-01' }, /“Proof by” is a day/],
      [{ fieldId: who, value: crypto.randomUUID() }, /not on your crew/],
      [{ fieldId: who, value: 'Lena' }, /not on your crew/],
      [{ fieldId: folder, value: 'javascript:alert(1)' }, /https/],
      [{ fieldId: crypto.randomUUID(), value: null }, /not one of yours/],
    ];
    for (const [entry, message] of wrong) {
      const answer = await put(task, [entry]);
      expect([answer.status, (answer.body as { message: string }).message]).toEqual([400, expect.stringMatching(message)]);
    }
    const twice = await put(task, [
      { fieldId: run, value: 1 },
      { fieldId: run, value: 2 },
    ]);
    expect((twice.body as { message: string }).message).toMatch(/twice/);
    await put(task, [{ fieldId: who, value: harness.ids.people['Mak'] as string }]).expect(200);
  });

  test('a choice that was taken out of the field stays where it was chosen', async () => {
    const task = await begun();
    const size = await add('choice', { choices: ['A1', 'A2', 'A3'] });
    await put(task, [{ fieldId: size, value: 'A3' }]).expect(200);
    await lead.patch(`/custom-fields/${size}`, { choices: ['A1', 'A2'] }).expect(204);
    const note = await add('text');
    const now = await sheet(task.id);
    await put(now, [...now.customFields, { fieldId: note, value: 'as before' }]).expect(200);
  });

  test('a freelancer fills in those of own tasks, and of no other', async () => {
    const task = await begun();
    const other = await begun('Cut');
    const size = await add('text');
    await lead.patch(`/tasks/${task.id}`, { version: task.version, assigneeIds: [harness.ids.people['Fred']] }).expect(200);
    const fred = await harness.as('Fred');
    const { version } = await sheet(task.id);
    await fred.patch(`/tasks/${task.id}`, { version, customFields: [{ fieldId: size, value: 'by the door' }] }).expect(200);
    await fred.patch(`/tasks/${other.id}`, { version: other.version, customFields: [] }).expect(404);
  });
});
