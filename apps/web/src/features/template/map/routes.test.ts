import fc from 'fast-check';
import type { TemplateContent } from '@crew/core';
import { addEnding, addPhase, addTask, connect, type Edit } from '../content.ts';
import { layOutMap } from './layout.ts';
import { crossesAny, pathOf, routeOf, wordsAt } from './routes.ts';
import { BOX } from './sizes.ts';

const LANES = ['manager', 'writer', 'designer'];
const step = fc.record({ phase: fc.nat(3), lane: fc.nat(LANES.length - 1) });
const dependency = fc.tuple(fc.nat(30), fc.nat(30));

/** Any process: steps in any phase and lane, tied as somebody might draw it; what leads back becomes a loop. */
const process = fc.record({
  steps: fc.array(step, { minLength: 1, maxLength: 24 }),
  dependencies: fc.array(dependency, { maxLength: 40 }),
  endings: fc.array(fc.nat(30), { maxLength: 3 }),
});
function draw({
  steps,
  dependencies,
  endings,
}: {
  steps: { phase: number; lane: number }[];
  dependencies: [number, number][];
  endings: number[];
}) {
  const edits: Edit[] = [
    ...[0, 1, 2, 3].map((index) => addPhase(`p${index}`, `Phase ${index}`)),
    ...steps.map(({ phase, lane }, index) =>
      addTask(`t${index}`, { phaseId: `p${phase}`, title: `Step ${index}`, roleId: LANES[lane] ?? null }),
    ),
    ...dependencies.map(([from, to], index) =>
      connect(`t${from % steps.length}`, `t${to % steps.length}`, { id: `w${index}`, reason: 'again' }),
    ),
    ...endings.map((from, index) => addEnding(`t${from % steps.length}`, { id: `e${index}`, reason: 'not a fit', ending: 'Closed' })),
  ];
  const empty: TemplateContent = { name: 'Any', description: '', phases: [], tasks: [], ways: [] };
  return layOutMap(
    edits.reduce((content, edit) => edit(content), empty),
    (id) => id,
  );
}

test('no line goes through a box, whatever is drawn', () => {
  fc.assert(
    fc.property(process, (drawn) => {
      const map = draw(drawn);
      expect(map.arrows.filter((arrow) => crossesAny(arrow.points, map.boxes))).toEqual([]);
    }),
    { numRuns: 300 },
  );
});

test('a line begins at its box and ends at the other: on its right and left, a loop below both', () => {
  fc.assert(
    fc.property(process, (drawn) => {
      const map = draw(drawn);
      const box = new Map(map.boxes.map((one) => [one.id, one]));
      for (const { from, to, kind, points } of map.arrows) {
        const [start, end] = [box.get(from), box.get(to)];
        if (start === undefined || end === undefined) throw new Error('an arrow without a box');
        const isBack = kind === 'back';
        expect(points[0]).toEqual({
          x: start.x + (isBack ? BOX.width / 2 : BOX.width),
          y: start.y + (isBack ? BOX.height : BOX.height / 2),
        });
        expect(points.at(-1)).toEqual({ x: end.x + (isBack ? BOX.width / 2 : 0), y: end.y + (isBack ? BOX.height : BOX.height / 2) });
      }
    }),
    { numRuns: 100 },
  );
});

test('neighbours in a row are tied by a straight line, and lines of one column keep apart', () => {
  const [here, there] = [
    { x: 0, y: 0 },
    { x: BOX.width + 54, y: 0 },
  ];
  expect(routeOf(here, there, { isBack: false, track: 0, boxes: [here, there] })).toHaveLength(2);
  const below = { x: there.x, y: 300 };
  const turns = [0, 1].map((track) => routeOf(here, below, { isBack: false, track, boxes: [here, below] })[1]?.x);
  expect(turns[0]).not.toBe(turns[1]);
});

test('a path rounds its corners and goes through its ends', () => {
  const corner = [
    { x: 0, y: 0 },
    { x: 10, y: 0 },
    { x: 10, y: 20 },
  ];
  expect(pathOf(corner)).toBe('M0 0L6 0Q10 0 10 4L10 20');
  expect(pathOf([corner[0], corner[1]] as never)).toBe('M0 0L10 0');
});

test('words stand over the longest level stretch', () => {
  const line = [
    { x: 0, y: 0 },
    { x: 10, y: 0 },
    { x: 10, y: 50 },
    { x: 110, y: 50 },
  ];
  expect(wordsAt(line)).toEqual({ x: 60, y: 50 });
});
