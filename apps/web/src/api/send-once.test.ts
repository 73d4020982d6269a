import { sendOnce } from './send-once.ts';

/** Answers what it is told to, and remembers the keys it got. */
function line() {
  const keys: string[] = [];
  const waiting: { readonly yes: (answer: string) => void; readonly no: (error: object) => void }[] = [];
  const send = (key: string): Promise<string> => {
    keys.push(key);
    return new Promise<string>((yes, no) => waiting.push({ yes, no }));
  };
  return { keys, send, answer: () => waiting.shift()?.yes('made'), fail: (code: string) => waiting.shift()?.no({ code }) };
}

test('what is pressed twice before it is answered carries one key; what is said later, or otherwise, another', async () => {
  const { keys, send, answer } = line();
  const both = [sendOnce('POST /engagements A', send), sendOnce('POST /engagements A', send), sendOnce('POST /engagements B', send)];
  for (let count = 0; count < 3; count++) answer();
  await Promise.all(both);
  const again = sendOnce('POST /engagements A', send);
  answer();
  await again;
  expect(keys[1]).toBe(keys[0]);
  expect(new Set(keys).size).toBe(3);
});

test.each(['no-connection', 'unavailable', 'internal-fault'])(
  'after %s, which leaves it open, trying again carries the same key',
  async (code) => {
    const { keys, send, answer, fail } = line();
    const first = sendOnce('POST /clients', send);
    fail(code);
    await expect(first).rejects.toEqual({ code });
    const second = sendOnce('POST /clients', send);
    answer();
    await second;
    expect(keys[1]).toBe(keys[0]);
  },
);

test('after a refusal, trying again is a new change', async () => {
  const { keys, send, answer, fail } = line();
  const first = sendOnce('POST /roles', send);
  fail('already-there');
  await expect(first).rejects.toEqual({ code: 'already-there' });
  const second = sendOnce('POST /roles', send);
  answer();
  await second;
  expect(keys[1]).not.toBe(keys[0]);
});
