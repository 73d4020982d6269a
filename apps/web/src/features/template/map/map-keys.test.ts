import { trailWith } from '../../../../test/template-samples.ts';
import { layOutMap } from './layout.ts';
import { boxBeside, directionOf, placeBeside } from './map-keys.ts';

/** manager: call, offer; writer: write in the second phase; client: answer. */
const map = layOutMap(trailWith(), (id) => id);

test('arrow keys go to the nearest box that way, and stay where there is none', () => {
  expect(boxBeside(map, 'call', 'right')).toBe('offer');
  expect(boxBeside(map, 'offer', 'left')).toBe('call');
  expect(boxBeside(map, 'answer', 'up')).toBe('write');
  expect(boxBeside(map, 'call', 'left')).toBeNull();
  expect(boxBeside(map, 'call', 'up')).toBeNull();
  expect(boxBeside(map, 'nobody', 'up')).toBeNull();
});

test('from every box every other can be reached', () => {
  const seen = new Set(['call']);
  for (let size = 0; size < seen.size;) {
    size = seen.size;
    for (const id of seen)
      for (const way of ['left', 'right', 'up', 'down'] as const) {
        const next = boxBeside(map, id, way);
        if (next !== null) seen.add(next);
      }
  }
  expect([...seen].sort()).toEqual(map.boxes.map((box) => box.id).sort());
});

test('a box goes to the lane above or below and to the phase before or after, and not over the border', () => {
  expect(placeBeside(map, 'call', 'down')).toEqual({ laneId: 'writer', phaseId: 'p' });
  expect(placeBeside(map, 'call', 'right')).toEqual({ laneId: 'manager', phaseId: 's' });
  expect(placeBeside(map, 'call', 'up')).toBeNull();
  expect(placeBeside(map, 'write', 'right')).toBeNull();
});

test('only arrow keys are directions', () => {
  expect(directionOf('ArrowUp')).toBe('up');
  expect(directionOf('n')).toBeNull();
});
