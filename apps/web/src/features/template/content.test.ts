import { checkTemplate, type TemplateContent } from '@crew/core';
import {
  addEnding,
  addNext,
  addPhase,
  addTask,
  compose,
  composeKept,
  connect,
  editTask,
  movePhase,
  moveStep,
  moveTask,
  placeTask,
  removePhase,
  removeTask,
  removeWay,
  removeDependency,
  type Edit,
} from './content.ts';

const empty: TemplateContent = { name: 'Trail', description: '', phases: [], tasks: [], ways: [] };
const after = (start: TemplateContent, ...edits: Edit[]): TemplateContent => edits.reduce((content, edit) => edit(content), start);
/** Proposal: call → offer → answer; Script: write. */
const trail = after(
  empty,
  addPhase('p', 'Proposal'),
  addPhase('s', 'Script'),
  addTask('call', { phaseId: 'p', title: 'First call' }),
  addNext('offer', 'call', { title: 'Send proposal' }),
  addNext('answer', 'offer', { title: 'Client answers' }),
  addTask('write', { phaseId: 's', title: 'Write' }),
  addTask('part', { phaseId: 's', title: 'Opening', parentId: 'write' }),
);
const titles = ({ tasks }: TemplateContent) => tasks.map((task) => task.title);
const dependenciesOf = ({ tasks }: TemplateContent, id: string) =>
  tasks.find((task) => task.id === id)?.after.map((dependency) => dependency.taskId);

test('what is built step by step can be started', () => {
  expect(checkTemplate(trail)).toEqual([]);
  expect(titles(trail)).toEqual(['First call', 'Send proposal', 'Client answers', 'Write', 'Opening']);
  expect(dependenciesOf(trail, 'answer')).toEqual(['offer']);
});

test('new phases follow the last one and never say what another says', () => {
  const more = after(trail, addPhase('x', 'Script'));
  expect(more.phases.map((phase) => [phase.afterPhaseId, phase.stateLine])).toEqual([
    [null, 'In proposal'],
    ['p', 'In script'],
    ['s', 'In script 2'],
  ]);
});

test('a step drawn forwards is a dependency, drawn once', () => {
  const drawn = after(trail, connect('call', 'answer', { id: 'w', reason: 'x' }), connect('call', 'answer', { id: 'w2', reason: 'x' }));
  expect(dependenciesOf(drawn, 'answer')).toEqual(['offer', 'call']);
  expect(drawn.ways).toEqual([]);
});

test.each([
  ['to what it came from', 'answer', 'offer', 'p'],
  ['into an earlier phase', 'write', 'call', 's'],
])('a step drawn back %s is a loop with rounds', (_what, from, to, phase) => {
  const drawn = after(trail, connect(from, to, { id: 'w', reason: 'changes' }));
  expect(drawn.ways).toEqual([{ id: 'w', fromId: from, toId: to, ending: null, reason: 'changes' }]);
  expect(drawn.phases.find((candidate) => candidate.id === phase)?.rounds).toBe(2);
  expect(checkTemplate(drawn)).toEqual([]);
});

test('a step to itself is none', () => {
  expect(after(trail, connect('call', 'call', { id: 'w', reason: 'x' }))).toBe(trail);
});

test('what goes takes its parts, its dependencies and its ways along', () => {
  const full = after(
    trail,
    connect('answer', 'offer', { id: 'w', reason: 'changes' }),
    addEnding('call', { id: 'e', reason: 'not a fit', ending: 'Closed' }),
  );
  const less = after(full, removeTask('offer'));
  expect(titles(less)).toEqual(['First call', 'Client answers', 'Write', 'Opening']);
  expect(dependenciesOf(less, 'answer')).toEqual([]);
  expect(less.ways.map((way) => way.id)).toEqual(['e']);
  expect(titles(after(full, removeTask('write')))).not.toContain('Opening');
  expect(after(full, removeWay('e')).ways.map((way) => way.id)).toEqual(['w']);
  expect(dependenciesOf(after(full, removeDependency('offer', 'answer')), 'answer')).toEqual([]);
});

test('a phase goes with its tasks, and what followed it follows the one before', () => {
  const more = after(trail, addPhase('x', 'Studio'), removePhase('s'));
  expect(more.phases.map((phase) => [phase.id, phase.afterPhaseId])).toEqual([
    ['p', null],
    ['x', 'p'],
  ]);
  expect(titles(more)).toEqual(['First call', 'Send proposal', 'Client answers']);
});

test('phases in a row stay one when they change places; others keep what they follow', () => {
  const swapped = after(trail, addPhase('x', 'Studio'), movePhase('x', -1));
  expect(swapped.phases.map((phase) => [phase.id, phase.afterPhaseId])).toEqual([
    ['p', null],
    ['x', 'p'],
    ['s', 'x'],
  ]);
  expect(after(trail, movePhase('p', -1))).toBe(trail);
});

test('tasks change places among their like, and a part put elsewhere takes its parts along', () => {
  expect(titles(after(trail, moveTask('offer', -1))).slice(0, 2)).toEqual(['Send proposal', 'First call']);
  expect(after(trail, moveTask('call', -1))).toBe(trail);
  const placed = after(trail, placeTask('write', { phaseId: 'p' }));
  expect(placed.tasks.filter((task) => task.phaseId === 'p').map((task) => task.id)).toEqual(['call', 'offer', 'answer', 'write', 'part']);
  const under = after(trail, placeTask('answer', { phaseId: 'p', parentId: 'offer' }));
  // It waited for what it is a part of now.
  expect(dependenciesOf(under, 'answer')).toEqual([]);
  expect(checkTemplate(under)).toEqual([]);
});

test('phases of another template come with ids of their own, behind what is there', () => {
  let last = 0;
  const looped = after(trail, connect('answer', 'offer', { id: 'w', reason: 'changes' }));
  const both = after(
    trail,
    compose({ id: 'other', content: looped }, ['p'], () => `new${++last}`),
  );
  expect(both.phases.map((phase) => [phase.name, phase.afterPhaseId, phase.stateLine])).toEqual([
    ['Proposal', null, 'In proposal'],
    ['Script', 'p', 'In script'],
    ['Proposal', 's', 'In proposal 2'],
  ]);
  expect(both.ways).toHaveLength(1);
  expect(both.phases.map((phase) => phase.sourceTemplateId)).toEqual([undefined, undefined, 'other']);
  expect(new Set(both.tasks.map((task) => task.id)).size).toBe(both.tasks.length);
  expect(checkTemplate(both)).toEqual([]);
});

test('a kept task comes with its parts and the dependencies among them, behind what is in the phase; into no phase, nothing comes', () => {
  let last = 0;
  const survey = after(
    empty,
    addPhase('k', 'Kept'),
    addTask('survey', { phaseId: 'k', title: 'Site survey' }),
    addTask('measure', { phaseId: 'k', title: 'Measure', parentId: 'survey' }),
    addTask('draw', { phaseId: 'k', title: 'Draw it', parentId: 'survey', after: [{ taskId: 'measure', type: 'FS', lag: 0 }] }),
  );
  const put = (phaseId: string) => composeKept({ id: 'kept', content: survey }, phaseId, () => `new${++last}`)(trail);
  const both = put('p');
  expect(both.tasks.slice(trail.tasks.length).map(({ title, phaseId, parentId }) => [title, phaseId, parentId])).toEqual([
    ['Site survey', 'p', null],
    ['Measure', 'p', 'new1'],
    ['Draw it', 'p', 'new1'],
  ]);
  expect(dependenciesOf(both, 'new3')).toEqual(['new2']);
  expect(both.tasks.filter((task) => task.sourceTemplateId === 'kept').map((task) => task.id)).toEqual(['new1']);
  expect(checkTemplate(both)).toEqual([]);
  expect(put('nowhere')).toBe(trail);
});

test('an edit leaves the content it was made from as it was: that is the undo', () => {
  const before = JSON.stringify(trail);
  after(trail, editTask('call', { title: 'Call' }), removePhase('p'), connect('write', 'call', { id: 'w', reason: 'x' }));
  expect(JSON.stringify(trail)).toBe(before);
});

test('a next step can stand in another lane and another phase, and still waits for the one it follows', () => {
  const next = after(trail, addNext('check', 'offer', { title: 'Check the price', laneId: 'manager', phaseId: 's' }));
  expect(next.tasks.find((task) => task.id === 'check')).toMatchObject({ phaseId: 's', roleId: 'manager', kind: 'work' });
  expect(dependenciesOf(next, 'check')).toEqual(['offer']);
});

test('a step moved to the client’s lane is the client’s, shown to it and of no role; moved back it is work again', () => {
  const away = after(trail, moveStep('offer', { laneId: 'client', phaseId: 'p' }));
  expect(away.tasks.find((task) => task.id === 'offer')).toMatchObject({ kind: 'client', roleId: null, isShownToClient: true });
  const back = after(away, moveStep('offer', { laneId: 'manager', phaseId: 'p' }));
  expect(back.tasks.find((task) => task.id === 'offer')).toMatchObject({ kind: 'work', roleId: 'manager' });
});

test('a step moved to another phase takes its parts along; moved to where it is, nothing changes', () => {
  const moved = after(trail, moveStep('write', { laneId: 'none', phaseId: 'p' }));
  expect(moved.tasks.filter((task) => ['write', 'part'].includes(task.id)).map((task) => task.phaseId)).toEqual(['p', 'p']);
  expect(moveStep('write', { laneId: 'none', phaseId: 's' })(trail)).toBe(trail);
});
