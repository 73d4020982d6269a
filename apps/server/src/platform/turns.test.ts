import { NotItsTurn, HeldTurns, Turns } from './turns.ts';

const soon = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

test('one has the turn at a time, in the order of coming', async () => {
  const turns = new Turns();
  const order: number[] = [];
  const held = [1, 2, 3].map(() => new HeldTurns(turns));
  expect(held[0]?.tryTake(['a'])).toBe(true);
  for (const index of [1, 2]) void held[index]?.wait(['a']).then(() => order.push(index));
  await soon();
  expect(order).toEqual([]);
  held[0]?.release();
  await soon();
  expect(order).toEqual([1]);
  held[1]?.release();
  await soon();
  expect(order).toEqual([1, 2]);
});

test('whoever does not wait is told what to wait for, with what they had', () => {
  const turns = new Turns();
  const [first, second] = [new HeldTurns(turns), new HeldTurns(turns)];
  first.take(['b']);
  second.take(['a']);
  const told = (): unknown => {
    try {
      second.take(['b']);
      return null;
    } catch (error) {
      return error;
    }
  };
  expect(told()).toBeInstanceOf(NotItsTurn);
  expect((told() as NotItsTurn).ids).toEqual(['a', 'b']);
});

test('two that want both in opposite orders do not wait for each other', async () => {
  const turns = new Turns();
  const [first, second] = [new HeldTurns(turns), new HeldTurns(turns)];
  first.take(['a']);
  second.take(['b']);
  const both = [first.wait(['b', 'a']).then(() => first.release()), second.wait(['a', 'b']).then(() => second.release())];
  await Promise.all(both);
  expect(turns.take('a') && turns.take('b')).toBe(true);
});

test('who waits too long is refused, and is not in the way of those behind', async () => {
  jest.useFakeTimers();
  const turns = new Turns();
  const [first, late, next] = [new HeldTurns(turns), new HeldTurns(turns), new HeldTurns(turns)];
  first.take(['a']);
  const refused = expect(late.wait(['a'])).rejects.toMatchObject({ code: 'unavailable' });
  await jest.advanceTimersByTimeAsync(19_000);
  const waits = next.wait(['a']);
  await jest.advanceTimersByTimeAsync(2000);
  await refused;
  first.release();
  await waits;
  jest.useRealTimers();
});
