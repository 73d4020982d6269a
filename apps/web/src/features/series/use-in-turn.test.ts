import { renderHook } from '@testing-library/react';
import { useInTurn } from './use-in-turn.ts';

interface Item {
  readonly version: number;
  readonly days: readonly string[];
}

/** A server that lets one step wait until it is told, and refuses what began from an old version. */
function serverOf(first: Item) {
  let now = first;
  const waiting: (() => void)[] = [];
  return {
    waiting,
    add: (day: string) => async (from: Item) => {
      await new Promise<void>((resolve) => waiting.push(resolve));
      if (from.version !== now.version) throw new Error('changed meanwhile');
      now = { version: now.version + 1, days: [...from.days, day] };
      return now;
    },
    now: () => now,
  };
}
const settle = async (): Promise<void> => {
  for (let turn = 0; turn < 10; turn++) await Promise.resolve();
};

test('of two quick steps the second goes on from what the first has left', async () => {
  const server = serverOf({ version: 4, days: [] });
  const { result } = renderHook(() => useInTurn<Item>('/series/s', { version: 4, days: [] }));
  const both = [result.current(server.add('mon')), result.current(server.add('tue'))];
  await settle();
  expect(server.waiting).toHaveLength(1);
  server.waiting.shift()?.();
  await settle();
  server.waiting.shift()?.();
  await Promise.all(both);
  expect(server.now()).toEqual({ version: 6, days: ['mon', 'tue'] });
});

test('a refused step is told to whoever asked, and does not hold up the next', async () => {
  const server = serverOf({ version: 4, days: [] });
  const { result } = renderHook(() => useInTurn<Item>('/series/s', { version: 4, days: [] }));
  const refused = result.current(() => Promise.reject(new Error('no')));
  const next = result.current(server.add('mon'));
  await expect(refused).rejects.toThrow('no');
  await settle();
  server.waiting.shift()?.();
  expect((await next).version).toBe(5);
});

test('what somebody else has changed and was read since is gone on from; what is older is not', async () => {
  const server = serverOf({ version: 7, days: ['wed'] });
  const { result, rerender } = renderHook(({ item }: { item: Item }) => useInTurn<Item>('/series/s', item), {
    initialProps: { item: { version: 4, days: [] as readonly string[] } },
  });
  rerender({ item: { version: 7, days: ['wed'] } });
  rerender({ item: { version: 6, days: [] } });
  const step = result.current(server.add('thu'));
  await settle();
  server.waiting.shift()?.();
  expect((await step).days).toEqual(['wed', 'thu']);
});
