import { trailWith } from '../../../../test/template-samples.ts';
import { addEnding, addTask, connect } from '../content.ts';
import { endingId, layOutMap, placeUnder, type MapBox } from './layout.ts';
import { BOX } from './sizes.ts';

const trail = trailWith(
  addTask('part', { phaseId: 's', title: 'Opening', parentId: 'write' }),
  addTask('facts', { phaseId: 's', title: 'Facts', roleId: 'writer' }),
  connect('answer', 'offer', { id: 'w', reason: 'questions' }),
  addEnding('call', { id: 'e', reason: 'not a fit', ending: 'Closed' }),
);
const map = layOutMap(trail, (id) => `the ${id}`);
const box = (id: string): MapBox => map.boxes.find((candidate) => candidate.id === id) as MapBox;

test('lanes stand in the order in which their roles come in, the client’s last, and hold their boxes', () => {
  expect(map.lanes.map((lane) => lane.name)).toEqual(['the manager', 'the writer', 'Client']);
  for (const one of map.boxes) {
    const lane = map.lanes.find((candidate) => candidate.id === one.laneId);
    expect(one.y).toBeGreaterThanOrEqual(lane?.y ?? Infinity);
    expect(one.y + BOX.height).toBeLessThanOrEqual((lane?.y ?? 0) + (lane?.height ?? 0));
  }
});

test('every step stands right of what it waits for, within its phase', () => {
  expect(box('offer').x).toBeGreaterThan(box('call').x + BOX.width);
  expect(box('answer').x).toBeGreaterThan(box('offer').x + BOX.width);
  for (const one of map.boxes) {
    const phase = map.phases.find((candidate) => candidate.id === one.phaseId);
    expect(one.x).toBeGreaterThanOrEqual(phase?.x ?? Infinity);
    expect(one.x + BOX.width).toBeLessThanOrEqual((phase?.x ?? 0) + (phase?.width ?? 0));
  }
});

test('no box lies on another', () => {
  for (const [index, one] of map.boxes.entries())
    for (const other of map.boxes.slice(index + 1)) {
      const apart = Math.abs(one.x - other.x) >= BOX.width || Math.abs(one.y - other.y) >= BOX.height;
      expect([one.id, other.id, apart]).toEqual([one.id, other.id, true]);
    }
});

test('subtasks are the work behind a box, not boxes', () => {
  expect(box('write').parts).toBe(1);
  expect(map.boxes.some((one) => one.id === 'part')).toBe(false);
});

test('arrows carry their reasons; a loop says the rounds agreed', () => {
  expect(map.arrows.map(({ id, from, to, kind, label }) => ({ id, from, to, kind, label }))).toEqual([
    { id: 'call offer', from: 'call', to: 'offer', kind: 'next', label: '' },
    { id: 'offer answer', from: 'offer', to: 'answer', kind: 'next', label: '' },
    { id: 'w', from: 'answer', to: 'offer', kind: 'back', label: 'questions · 2 rounds agreed' },
    { id: 'e', from: 'call', to: endingId({ id: 'e' }), kind: 'ending', label: 'not a fit' },
  ]);
});

test('where a box is let go names its lane and phase, and nothing outside', () => {
  expect(placeUnder(map, box('write'))).toEqual({ laneId: 'writer', phaseId: 's' });
  expect(placeUnder(map, { x: -500, y: 0 })).toBeNull();
});

test('the same template always looks the same', () => {
  expect(layOutMap(trail, (id) => `the ${id}`)).toEqual(map);
});
