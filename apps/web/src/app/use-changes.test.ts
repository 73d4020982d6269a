import { act, renderHook } from '@testing-library/react';
import { useChanges } from './use-changes.ts';

/** The browser's stream of events, as far as it is listened to. */
class Stream extends EventTarget {
  static readonly CLOSED = 2;
  static last: Stream;
  isClosed = false;
  readyState = 1;
  readonly address: string;
  constructor(address: string) {
    super();
    this.address = address;
    Stream.last = this;
  }
  close(): void {
    this.isClosed = true;
  }
}

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, { EventSource: Stream });
});
afterEach(() => jest.useRealTimers());

function listen() {
  const refresh = jest.fn((_topics: readonly string[]) => Promise.resolve());
  const { unmount } = renderHook(() => useChanges(refresh));
  const say = (type: string, topics = 'crew'): void =>
    act(() => void Stream.last.dispatchEvent(new MessageEvent(type, { data: JSON.stringify({ topics }) })));
  return { refresh, unmount, say };
}

test('a burst of changes is read once, after it', () => {
  const { refresh, say } = listen();
  say('ready');
  for (const topic of ['crew', 'engagement:a', 'engagement:b person:p']) say('change', topic);
  expect(refresh).not.toHaveBeenCalled();
  act(() => void jest.runAllTimers());
  expect(refresh.mock.calls).toEqual([[['crew', 'engagement:a', 'engagement:b', 'person:p']]]);
  say('change', 'series');
  act(() => void jest.runAllTimers());
  expect(refresh.mock.calls.at(-1)).toEqual([['series']]);
});

test('a stream opened again reads everything, because what was missed is not known', () => {
  const { refresh, say } = listen();
  say('ready');
  act(() => void jest.runAllTimers());
  expect(refresh).not.toHaveBeenCalled();
  say('ready');
  act(() => void jest.runAllTimers());
  expect(refresh).toHaveBeenCalledTimes(1);
});

test('leaving the page closes the stream and reads nothing more', () => {
  const { refresh, say, unmount } = listen();
  say('change');
  unmount();
  jest.runAllTimers();
  expect(Stream.last.isClosed).toBe(true);
  expect(refresh).not.toHaveBeenCalled();
});

test('a stream that was refused is opened again after a while; one that broke is the browser’s to open', () => {
  const { say, unmount } = listen();
  const first = Stream.last;
  say('error');
  act(() => void jest.advanceTimersByTime(10_000));
  expect(Stream.last).toBe(first);
  first.readyState = Stream.CLOSED;
  say('error');
  act(() => void jest.advanceTimersByTime(10_000));
  expect(Stream.last).not.toBe(first);
  unmount();
  expect(Stream.last.isClosed).toBe(true);
});
