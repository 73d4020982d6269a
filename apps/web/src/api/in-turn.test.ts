import { inTurn, versionSince } from './in-turn.ts';

/** A server with one thing: a change is let through when it is told, and refused when it began from an old version. */
function serverOf(first: number) {
  const state = { version: first, took: [] as string[] };
  const waiting: (() => void)[] = [];
  return {
    state,
    /** Somebody else was faster. */
    meanwhile: () => void state.version++,
    change: (name: string) => async (version: number) => {
      await new Promise<void>((resolve) => waiting.push(resolve));
      if (version !== state.version) throw new Error('changed meanwhile');
      state.version++;
      state.took.push(name);
      return { version: state.version };
    },
    letThrough: async () => {
      while (waiting.length === 0) await Promise.resolve();
      expect(waiting).toHaveLength(1);
      waiting.shift()?.();
    },
  };
}
let count = 0;
/** A thing of its own for each test. */
const aThing = (): string => `/things/${String(count++)}`;

test('two quick changes of one thing both come to be, the second from what the first has left', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const both = [inTurn(thing, 4, server.change('name')), inTurn(thing, 4, server.change('lead'))];
  await server.letThrough();
  await server.letThrough();
  expect(await Promise.all(both)).toEqual([{ version: 5 }, { version: 6 }]);
  expect(server.state.took).toEqual(['name', 'lead']);
});

test('a change that began before one of our own, and is sent after it, is not met by it', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  for (const name of ['one', 'two', 'three']) {
    const change = inTurn(thing, 4, server.change(name));
    await server.letThrough();
    await change;
  }
  expect(server.state.took).toEqual(['one', 'two', 'three']);
  expect([3, 4, 5, 6, 7, 8].map((read) => versionSince(thing, read))).toEqual([3, 7, 7, 7, 7, 8]);
});

test('what somebody else has changed is met, before our own changes and after them', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const first = inTurn(thing, 4, server.change('ours'));
  await server.letThrough();
  await first;
  server.meanwhile();
  const second = inTurn(thing, 4, server.change('blind'));
  await server.letThrough();
  await expect(second).rejects.toThrow('changed meanwhile');
  const third = inTurn(thing, 6, server.change('having read it'));
  await server.letThrough();
  await third;
  // What began before somebody else's change must still meet it.
  expect([4, 5, 6, 7].map((read) => versionSince(thing, read))).toEqual([4, 5, 7, 7]);
});

test('a refused change is told to whoever asked for it, and holds up nothing', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const refused = inTurn(thing, 4, () => Promise.reject(new Error('no')));
  const next = inTurn(thing, 4, server.change('name'));
  await expect(refused).rejects.toThrow('no');
  await server.letThrough();
  expect(await next).toEqual({ version: 5 });
});

test('other things do not wait', async () => {
  const server = serverOf(4);
  void inTurn(aThing(), 1, () => new Promise<{ version: number }>(() => undefined));
  const other = inTurn(aThing(), 4, server.change('name'));
  await server.letThrough();
  expect(await other).toEqual({ version: 5 });
});
