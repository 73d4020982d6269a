import { diffTemplates, type TemplateDifference, type TemplatePhase } from '@crew/core';
import { phaseHindrance, shapeAfter, type PhaseHere, type Shape } from './phase-shape.ts';
import { jointsOf } from '../plan-change/edit-phases.ts';
import { orderedLike } from '../plan-change/edit-tasks.ts';
import type { TaskImage } from '../task/task-images.ts';

const phase = (id: string, afterPhaseId: string | null, more: Partial<TemplatePhase> = {}): TemplatePhase => ({
  ...{ id, name: id.toUpperCase(), roleId: null, stateLine: id, rounds: null, afterPhaseId, afterEdge: 'finish', afterLag: 0, checks: [] },
  ...more,
});
const row = (ids: string): TemplatePhase[] => [...ids].map((id, index) => phase(id, ids[index - 1] ?? null));
const here = (ids: string, more: Readonly<Record<string, Partial<PhaseHere>>> = {}): PhaseHere[] =>
  [...ids].map((id, index) => ({
    ...{ id: `h-${id}`, name: id.toUpperCase(), originId: id, state: 'ahead', afterEdge: 'finish', afterLag: 0, ownTasks: 0 },
    ...{ afterPhaseId: index === 0 ? null : `h-${ids[index - 1]}`, joint: index === 0 ? null : 'getting-ready' },
    ...(index === 0 ? { state: 'running' } : {}),
    ...more[id],
  }));
/** An engagement beside two versions: what differs between them is what may be brought in. */
const shape = (before: TemplatePhase[], after: TemplatePhase[], phases: PhaseHere[]): Shape & { readonly before: TemplatePhase[] } => ({
  here: phases,
  before,
  after: { phases: after },
});
const content = (phases: TemplatePhase[]) => ({ name: '', description: '', tasks: [], ways: [], phases });
type Case = ReturnType<typeof shape>;
const differences = ({ before, after }: Case): TemplateDifference[] => diffTemplates(content(before), content([...after.phases]));
const hindrances = (of: Case): Record<string, string | null> =>
  Object.fromEntries(differences(of).map((one) => [`${one.kind} ${one.id}`, phaseHindrance(one, of)]));

/** All of it taken, as "phase<what it follows". */
function after(of: Case, without: readonly string[] = []): string {
  const ids = (kind: string, moves = false): string[] =>
    differences(of)
      .filter(
        (one) => one.kind === kind && !without.includes(one.id) && (!moves || one.fields.some(({ field }) => field.startsWith('after'))),
      )
      .map(({ id }) => id);
  const change = { added: ids('added'), removed: ids('removed'), moved: ids('changed', true), idOf: (id: string) => `h-${id}` };
  return shapeAfter(of, change)
    .map(({ id, afterPhaseId }) => `${id.slice(2)}<${afterPhaseId?.slice(2) ?? ''}`)
    .join(' ');
}

describe('the row of phases after a change of the template', () => {
  test.each<[string, Case, string]>([
    ['one comes in between, and what followed follows it', shape(row('ac'), row('abc'), here('ac')), 'a< b<a c<b'],
    ['one comes last', shape(row('ab'), row('abc'), here('ab')), 'a< b<a c<b'],
    ['two come one behind the other', shape(row('ad'), row('abcd'), here('ad')), 'a< b<a c<b d<c'],
    ['one goes from the middle', shape(row('abc'), row('ac'), here('abc')), 'a< c<a'],
    ['the last one goes', shape(row('abc'), row('ab'), here('abc')), 'a< b<a'],
    ['one goes and another comes in its place', shape(row('abd'), row('acd'), here('abd')), 'a< c<a d<c'],
    ['two change places', shape(row('abc'), row('acb'), here('abc')), 'a< c<a b<c'],
    ['one that was left out here is passed over', shape(row('abd'), row('abcd'), here('ad')), 'a< c<a d<c'],
    [
      'a phase of this engagement alone stays where it stands',
      shape(row('ac'), row('abc'), [
        ...here('ac'),
        { ...(here('x')[0] as PhaseHere), id: 'h-x', originId: null, state: 'ahead', afterPhaseId: 'h-a', joint: 'getting-ready' },
      ]),
      'a< b<a c<b x<a',
    ],
    [
      'one that begins beside another',
      shape(row('ab'), [...row('ab'), phase('c', 'a', { afterEdge: 'start', afterLag: 2 })], here('ab')),
      'a< c<a b<a',
    ],
  ])('%s', (_what, of, expected) => {
    expect(after(of)).toBe(expected);
  });

  test('what follows a phase that comes follows it though only the phase was chosen', () => {
    expect(after(shape(row('ac'), row('abc'), here('ac')), ['c'])).toBe('a< b<a c<b');
  });

  test('every phase stands behind the one it follows', () => {
    const of = shape(row('abcd'), row('adcb'), here('abcd'));
    const taken = after(of).split(' ');
    const seen = new Set<string>(['']);
    for (const placed of taken) {
      const [id = '', before = ''] = placed.split('<');
      expect(seen.has(before)).toBe(true);
      seen.add(id);
    }
  });
});

describe('what hinders a phase', () => {
  test.each<[string, Case, Record<string, string | null>]>([
    ['nothing, while all is still ahead', shape(row('ac'), row('abc'), here('ac')), { 'added b': null, 'changed c': null }],
    [
      'what follows it has begun',
      shape(row('ac'), row('abc'), here('ac', { a: { state: 'over' }, c: { state: 'running', joint: 'picked-up' } })),
      { 'added b': 'A, which it follows, is over here', 'changed c': 'it has begun here, so it cannot follow another phase' },
    ],
    [
      'it is just being handed on',
      shape(row('ac'), row('abc'), here('ac', { c: { joint: 'handed-off' } })),
      { 'added b': 'C is just being handed on', 'changed c': 'C is just being handed on' },
    ],
    [
      'it would have begun with the engagement',
      shape(row('b'), [phase('a', null), phase('b', 'a')], here('b')),
      {
        'added a': 'it would have begun with the engagement',
        'changed b': 'it has begun here, so it cannot follow another phase',
      },
    ],
    [
      'it has begun',
      shape(row('ab'), row('a'), here('ab', { b: { state: 'running', joint: 'picked-up' } })),
      { 'removed b': 'it has begun here' },
    ],
    [
      'work of this engagement stands in it',
      shape(row('ab'), row('a'), here('ab', { b: { ownTasks: 2 } })),
      { 'removed b': '2 tasks of this engagement would be lost with it' },
    ],
    ['it was left out', shape(row('ab'), row('a'), here('a')), { 'removed b': 'this phase was left out here' }],
  ])('%s', (_what, of, expected) => {
    expect(hindrances(of)).toEqual(expected);
  });

  test('a new name or another role hinders nobody, whatever runs', () => {
    const of = shape(
      row('ab'),
      [phase('a', null), phase('b', 'a', { name: 'Bee' })],
      here('ab', { b: { state: 'running', joint: 'picked-up' } }),
    );
    expect(hindrances(of)).toEqual({ 'changed b': null });
  });
});

test('a joint leads from each phase to each that follows it, and one behind each last one', () => {
  const joints = jointsOf([
    { id: 'a', afterPhaseId: null },
    { id: 'b', afterPhaseId: 'a' },
    { id: 'c', afterPhaseId: 'a' },
  ]);
  expect(joints).toEqual([
    { from: 'a', to: 'b' },
    { from: 'a', to: 'c' },
    { from: 'b', to: null },
    { from: 'c', to: null },
  ]);
});

test.each([
  ['a b c', 'c a b', 'c a b'],
  ['a x b', 'b a', 'b a x'],
  ['x a b', 'b a', 'x b a'],
  ['a b', 'a', 'a b'],
])('tasks %s, the template saying %s, stand as %s', (now, wanted, expected) => {
  const rows = now.split(' ').map((id) => ({ id, row: { template_task_id: id === 'x' ? null : id } as unknown as TaskImage['row'] }));
  const ids = orderedLike(rows, wanted.split(' ')).map(({ id }) => id);
  expect(ids.join(' ')).toBe(expected);
});
