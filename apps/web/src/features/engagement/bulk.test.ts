import type { PlanTask } from '@crew/contract';
import { planTask } from '../../../test/samples.ts';
import { bulkProposal, type BulkStep } from './bulk.ts';

const task = (id: string, more: Partial<PlanTask> = {}): PlanTask => ({ ...planTask, id, title: id, ...more });
const tasks = [
  task('a', { labels: ['room 1'] }),
  task('g', { isGroup: true }),
  task('g1', { parentId: 'g', status: 'done' }),
  task('g2', { parentId: 'g' }),
];
const propose = (step: BulkStep, ids = ['a', 'g', 'g2']) =>
  bulkProposal(
    tasks.filter(({ id }) => ids.includes(id)),
    step,
    { tasks },
  );
const changes = (step: BulkStep) => Object.fromEntries(propose(step).tasks.map(({ id, version: _, ...change }) => [id, change]));

test.each<[string, BulkStep, object]>([
  [
    'people are given the work itself, never a group',
    { kind: 'assign', personId: 'i', name: 'Ines' },
    { a: { assigneeIds: ['i'] }, g1: { assigneeIds: ['i'] }, g2: { assigneeIds: ['i'] } },
  ],
  ['a group is shifted as a whole, its chosen parts not twice', { kind: 'shift', days: 3 }, { a: { shiftDays: 3 }, g: { shiftDays: 3 } }],
  [
    'effort is that of the parts',
    { kind: 'effort', minutes: 90 },
    { a: { estimateMinutes: 90 }, g1: { estimateMinutes: 90 }, g2: { estimateMinutes: 90 } },
  ],
  [
    'what is done is not dropped',
    { kind: 'status', status: 'dropped', words: 'Dropped' },
    { a: { status: 'dropped' }, g2: { status: 'dropped' } },
  ],
  [
    'a label is put beside those that are there',
    { kind: 'label', label: 'glass', isRemoved: false },
    { a: { labels: ['room 1', 'glass'] }, g: { labels: ['glass'] }, g2: { labels: ['glass'] } },
  ],
  [
    'a label is taken off where it is',
    { kind: 'label', label: 'room 1', isRemoved: true },
    { a: { labels: [] }, g: { labels: [] }, g2: { labels: [] } },
  ],
  [
    'a phase takes whole groups',
    { kind: 'phase', id: 'p2', name: 'Studio' },
    { a: { phaseId: 'p2', parentId: null }, g: { phaseId: 'p2', parentId: null } },
  ],
  ['what goes takes its parts along', { kind: 'delete' }, { a: { isDeleted: true }, g: { isDeleted: true } }],
  [
    'nobody is somebody to choose',
    { kind: 'assign', personId: null, name: '' },
    { a: { assigneeIds: [] }, g1: { assigneeIds: [] }, g2: { assigneeIds: [] } },
  ],
  [
    'a deliverable gathers all that was chosen',
    { kind: 'deliverable', id: 'd', name: 'Set' },
    { a: { deliverableId: 'd' }, g: { deliverableId: 'd' }, g2: { deliverableId: 'd' } },
  ],
])('%s', (_rule, step, expected) => {
  expect(changes(step)).toEqual(expected);
});

test('a group that is under way is shifted on its parts', () => {
  const begun = tasks.map((one) => (one.id === 'g' ? { ...one, realStart: '2026-11-20' as const } : one));
  const { tasks: shifted } = bulkProposal([begun[1] as PlanTask], { kind: 'shift', days: -1 }, { tasks: begun });
  expect(shifted.map(({ id, shiftDays }) => [id, shiftDays])).toEqual([
    ['g1', -1],
    ['g2', -1],
  ]);
});

test('it says in a sentence what was done and to how many', () => {
  expect(propose({ kind: 'shift', days: -1 })).toMatchObject({
    title: 'If these 3 tasks move by 1 working day',
    note: expect.stringContaining('1 working day earlier') as string,
  });
});

test('the client’s own tasks stay the client’s, and it says so', () => {
  const mixed = [...tasks, task('look', { kind: 'client' })];
  const { tasks: given, note } = bulkProposal(mixed, { kind: 'assign', personId: 'i', name: 'Ines' }, { tasks: mixed });
  expect(given.map(({ id }) => id)).toEqual(['a', 'g1', 'g2']);
  expect(note).toBe('You assigned 3 tasks to Ines. 1 task of the client’s own stays with the client.');
});
