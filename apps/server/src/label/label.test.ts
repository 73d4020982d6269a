import type { EngagementPlan, HistoryPage, LabelLine, ListChanged, TaskSheet } from '@crew/contract';
import { startSmall, testWorld } from '../../test/harness.ts';

const { harness, lead } = testWorld();

const labels = async (): Promise<LabelLine[]> => (await lead.get('/labels').expect(200)).body as LabelLine[];
const sheetOf = async (id: string): Promise<TaskSheet> => (await lead.get(`/tasks/${id}`).expect(200)).body as TaskSheet;
const labelsOf = async (id: string): Promise<readonly string[]> => (await sheetOf(id)).labels;
const edit = async (label: string, to: string | null): Promise<ListChanged> =>
  (await lead.patch('/labels', { label, to }).expect(200)).body as ListChanged;
const undo = (changeId: string | null) => lead.post(`/changes/${changeId}/undo`);
const give = async (id: string, given: readonly string[]): Promise<void> => {
  await lead.patch(`/tasks/${id}`, { version: (await sheetOf(id)).version, labels: given }).expect(200);
};

let sketch: string;
let ink: string;
beforeEach(async () => {
  const { tasks } = (await lead.get(`/engagements/${await startSmall(lead, harness)}/plan`).expect(200)).body as EngagementPlan;
  [sketch, ink] = ['Sketch', 'Ink'].map((title) => tasks.find((task) => task.title === title)?.id ?? '') as [string, string];
  for (const { name } of await labels()) await lead.patch('/labels', { label: name, to: null });
});

test('labels are listed by name with the tasks that carry them, finished ones counted apart', async () => {
  await give(sketch, ['print', 'Large']);
  await give(ink, ['print']);
  await lead.patch(`/tasks/${sketch}`, { version: (await sheetOf(sketch)).version, status: 'done' }).expect(200);
  expect(await labels()).toEqual([
    { name: 'Large', openTasks: 0, tasks: 1, templates: 0 },
    { name: 'print', openTasks: 1, tasks: 2, templates: 0 },
  ]);
});

test('a new name is on every task, in place of the old one; undone, the old one is back', async () => {
  await give(sketch, ['wood', 'print']);
  await give(ink, ['print', 'late']);
  const { changeId } = await edit('print', ' Printing ');
  expect([await labelsOf(sketch), await labelsOf(ink)]).toEqual([
    ['wood', 'Printing'],
    ['Printing', 'late'],
  ]);
  await undo(changeId).expect(200);
  expect(await labelsOf(sketch)).toEqual(['wood', 'print']);
});

test('one label into another: a task that had both has it once, and gets both back', async () => {
  await give(sketch, ['print', 'Printing']);
  await give(ink, ['print']);
  const { changeId } = await edit('print', 'Printing');
  expect([await labelsOf(sketch), await labelsOf(ink)]).toEqual([['Printing'], ['Printing']]);
  await undo(changeId).expect(200);
  expect([[...(await labelsOf(sketch))].sort(), await labelsOf(ink)]).toEqual([['Printing', 'print'], ['print']]);
});

test('a removed label comes back, and a task that was relabelled since stays as it is', async () => {
  await give(sketch, ['print']);
  await give(ink, ['print']);
  const renamed = await edit('print', 'press');
  await give(ink, ['hand']);
  expect((await undo(renamed.changeId).expect(200)).body).toMatchObject({ kept: [{ title: 'print', field: 'label' }] });
  expect([await labelsOf(sketch), await labelsOf(ink)]).toEqual([['print'], ['hand']]);
  const removed = await edit('print', null);
  expect(await labelsOf(sketch)).toEqual([]);
  await undo(removed.changeId).expect(200);
  expect(await labelsOf(sketch)).toEqual(['print']);
});

test('a stale sheet does not bring the old label back', async () => {
  await give(sketch, ['print']);
  const { version } = await sheetOf(sketch);
  await edit('print', 'press');
  await lead.patch(`/tasks/${sketch}`, { version, labels: ['print', 'new'] }).expect(409);
});

test('the history tells it, and members may look but not change', async () => {
  await give(sketch, ['print']);
  await edit('print', 'press');
  const { lines } = (await lead.get('/history?only=settings').expect(200)).body as HistoryPage;
  expect(lines[0]).toMatchObject({ kind: 'label-changed', note: 'print', changes: [{ field: 'label', from: 'print', to: 'press' }] });
  await (await harness.as('Mak')).get('/labels').expect(200);
  await (await harness.as('Mak')).patch('/labels', { label: 'press', to: 'x' }).expect(403);
});

test.each([
  ['no task', { label: 'nothing', to: 'x' }, 404],
  ['a blank name', { label: 'print', to: '  ' }, 400],
  ['a name that is too long', { label: 'print', to: 'x'.repeat(41) }, 400],
])('%s is refused', async (_what, body, status) => {
  await lead.patch('/labels', body).expect(status);
});
