import fc from 'fast-check';
import { keepSame } from './keep-same.ts';

const copy = <Value>(value: Value): Value => JSON.parse(JSON.stringify(value)) as Value;
const json = fc.jsonValue({ maxDepth: 4 }).map(copy);

describe('what came anew', () => {
  test('is what came, whatever was there before', () => {
    fc.assert(fc.property(json, json, (before, after) => expect(copy(keepSame(before, after))).toEqual(copy(after))));
  });

  test('is the old itself when it says the same', () => {
    fc.assert(fc.property(json, (before) => expect(keepSame(before, copy(before))).toBe(before)));
  });

  test('leaves the old as it was', () => {
    fc.assert(
      fc.property(json, json, (before, after) => {
        const [was, came] = [copy(before), copy(after)];
        keepSame(before, after);
        expect([copy(before), copy(after)]).toEqual([was, came]);
      }),
    );
  });

  test('has the old things in a list by their id, in whatever order they come', () => {
    const before = {
      name: 'Loom floor',
      tasks: [
        { id: 'a', due: '2026-12-01', who: [{ id: 'p' }] },
        { id: 'b', due: '2026-12-02', who: [] },
      ],
    };
    const after = copy({
      ...before,
      tasks: [...before.tasks].reverse().map((task) => ({ ...task, due: task.id === 'b' ? '2026-12-09' : task.due })),
    });
    const kept = keepSame(before, after);
    expect(kept).toEqual(after);
    expect(kept.tasks[1]).toBe(before.tasks[0]);
    expect(kept.tasks[0]).not.toBe(before.tasks[1]);
    expect(kept.tasks[0]?.who).toBe(before.tasks[1]?.who);
  });
});
