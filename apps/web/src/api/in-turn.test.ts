import { forgetOwn, inTurn, readBehindOwn, versionSince } from './in-turn.ts';

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
beforeEach(() => forgetOwn());
let count = 0;
/** A thing of its own for each test. */
const aThing = (): string => `/things/${String(count++)}`;

test('two quick changes of one thing both come to be, the second from what the first has left', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const both = [inTurn({ thing, read: 4 }, server.change('name')), inTurn({ thing, read: 4 }, server.change('lead'))];
  await server.letThrough();
  await server.letThrough();
  expect(await Promise.all(both)).toEqual([{ version: 5 }, { version: 6 }]);
  expect(server.state.took).toEqual(['name', 'lead']);
});

test('a change that began before one of our own, and is sent after it, is not met by it', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  for (const name of ['one', 'two', 'three']) {
    const change = inTurn({ thing, read: 4 }, server.change(name));
    await server.letThrough();
    await change;
  }
  expect(server.state.took).toEqual(['one', 'two', 'three']);
  expect([3, 4, 5, 6, 7, 8].map((read) => versionSince({ thing, read }))).toEqual([3, 7, 7, 7, 7, 8]);
});

test('what somebody else has changed is met, before our own changes and after them', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const first = inTurn({ thing, read: 4 }, server.change('ours'));
  await server.letThrough();
  await first;
  server.meanwhile();
  const second = inTurn({ thing, read: 4 }, server.change('blind'));
  await server.letThrough();
  await expect(second).rejects.toThrow('changed meanwhile');
  const third = inTurn({ thing, read: 6 }, server.change('having read it'));
  await server.letThrough();
  await third;
  // What began before somebody else's change must still meet it.
  expect([4, 5, 6, 7].map((read) => versionSince({ thing, read }))).toEqual([4, 5, 7, 7]);
});

test('a refused change is told to whoever asked for it, and holds up nothing', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const refused = inTurn({ thing, read: 4 }, () => Promise.reject(new Error('no')));
  const next = inTurn({ thing, read: 4 }, server.change('name'));
  await expect(refused).rejects.toThrow('no');
  await server.letThrough();
  expect(await next).toEqual({ version: 5 });
});

test('other things do not wait', async () => {
  const server = serverOf(4);
  void inTurn({ thing: aThing(), read: 1 }, () => new Promise<{ version: number }>(() => undefined));
  const other = inTurn({ thing: aThing(), read: 4 }, server.change('name'));
  await server.letThrough();
  expect(await other).toEqual({ version: 5 });
});

test('a list made without what was put into it meanwhile meets that change, though it is our own', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  const first = inTurn({ thing, read: 4, wholes: ['fileIds'] }, server.change('a file'));
  await server.letThrough();
  await first;
  const second = inTurn({ thing, read: 4, wholes: ['fileIds'] }, server.change('another, without the first'));
  await server.letThrough();
  await expect(second).rejects.toThrow('changed meanwhile');
  const other = inTurn({ thing, read: 4, wholes: ['after'] }, server.change('a dependency'));
  await server.letThrough();
  await other;
  const third = inTurn({ thing, read: 5, wholes: ['fileIds'] }, server.change('both files'));
  await server.letThrough();
  await third;
  expect(server.state.took).toEqual(['a file', 'a dependency', 'both files']);
});

test('what is read is never older than a change of our own', async () => {
  const [server, thing] = [serverOf(4), aThing()];
  let reads = 0;
  const readNow = () => Promise.resolve({ version: server.state.version, place: ++reads });
  const before = inTurn({ thing, read: 4 }, server.change('before it is asked'));
  const asked = readBehindOwn(readNow);
  await server.letThrough();
  await before;
  expect(await asked).toEqual({ version: 5, place: 1 });

  let during: Promise<unknown> = Promise.resolve();
  const overtaken = readBehindOwn(async () => {
    const answer = await readNow();
    if (answer.place === 2) during = inTurn({ thing, read: 5 }, server.change('while it is read'));
    return answer;
  });
  await server.letThrough();
  await during;
  expect(await overtaken).toEqual({ version: 6, place: 3 });
});

test('a change that is not answered holds up no reading for good', async () => {
  jest.useFakeTimers();
  void inTurn({ thing: aThing(), read: 1 }, () => new Promise<{ version: number }>(() => undefined));
  const asked = readBehindOwn(() => Promise.resolve('as it is'));
  await jest.advanceTimersByTimeAsync(3000);
  expect(await asked).toBe('as it is');
  jest.useRealTimers();
});
