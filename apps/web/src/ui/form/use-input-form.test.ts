import type { IsoDay } from '@crew/core';
import { AddTimeOff, LogTime } from '@crew/contract';
import { act, renderHook, waitFor } from '@testing-library/react';
import { ApiError } from '../../api/client.ts';
import { NO_DAY_TYPED, dayTyped, lastDayTyped, minutesIfTyped, minutesTyped, Unreadable, wholeTyped, wordsTyped } from './typed.ts';
import { useInputForm } from './use-input-form.ts';
import { weekAsTyped, weekTyped } from './week.ts';

const send = jest.fn<Promise<void>, [LogTime]>();
beforeEach(() => send.mockReset().mockResolvedValue());

const open = () =>
  renderHook(() =>
    useInputForm({
      rules: LogTime,
      typed: { minutes: '', day: '2026-11-23' as IsoDay },
      input: ({ minutes, day }) => ({ minutes: minutesTyped(minutes), day }),
      send,
    }),
  ).result;
type Hook = ReturnType<typeof open>;
const submit = (hook: Hook): void => act(() => hook.current.submit());

test('what is typed is sent as the input it is read as', async () => {
  const hook = open();
  act(() => hook.current.bind('minutes').onChange('1:30'));
  submit(hook);
  await waitFor(() => expect(send.mock.calls[0]?.[0]).toEqual({ minutes: 90, day: '2026-11-23' }));
  expect(hook.current.values.minutes).toBe('1:30');
});

test('what cannot be read and what is against the rules stand at their fields; nothing is sent', async () => {
  const hook = open();
  act(() => hook.current.set({ minutes: 'long', day: '1789-07-14' }));
  submit(hook);
  await waitFor(() => expect(hook.current.bind('minutes').error).toBe('Write hours as 1.5, 1:30 or 90m.'));
  expect(hook.current.bind('day').error).toContain('between 1990 and 2199');
  act(() => hook.current.set({ minutes: '30' }));
  await waitFor(() => expect(hook.current.bind('minutes').error).toBe('A day has 24 hours.'));
  expect(send).not.toHaveBeenCalled();
});

test('a refusal stands at the field it names until that is changed; one without a field at the foot', async () => {
  const hook = open();
  act(() => hook.current.set({ minutes: '2' }));
  send.mockRejectedValueOnce(new ApiError({ code: 'invalid-input', message: 'That day is closed.', field: 'day' }));
  submit(hook);
  await waitFor(() => expect(hook.current.bind('day').error).toBe('That day is closed.'));
  act(() => hook.current.set({ day: '2026-11-24' }));
  await waitFor(() => expect(hook.current.bind('day').error).toBeUndefined());
  send.mockRejectedValueOnce(new ApiError({ code: 'invalid-input', message: 'Say why.', field: 'reason' }));
  submit(hook);
  await waitFor(() => expect(hook.current.trouble).toBe('Say why.'));
  submit(hook);
  await waitFor(() => expect(send).toHaveBeenCalledTimes(3));
  expect(hook.current.trouble).toBeUndefined();
});

test('pressed twice it is sent once', async () => {
  const hook = open();
  act(() => hook.current.set({ minutes: '2' }));
  let answer: () => void = () => undefined;
  send.mockImplementationOnce(() => new Promise((resolve) => (answer = resolve)));
  submit(hook);
  submit(hook);
  await waitFor(() => expect(send).toHaveBeenCalledTimes(1));
  submit(hook);
  await act(async () => answer());
  await waitFor(() => expect(hook.current.isSending).toBe(false));
  expect(send).toHaveBeenCalledTimes(1);
});

test('a fault puts the cursor into the field that stands first on the page', async () => {
  const hook = open();
  const [day, minutes] = [document.createElement('input'), document.createElement('input')];
  document.body.append(day, minutes);
  act(() => hook.current.set({ day: '1789-07-14' as IsoDay }));
  hook.current.bind('minutes').inputRef(minutes);
  hook.current.bind('day').inputRef(day);
  submit(hook);
  await waitFor(() => expect(document.activeElement).toBe(day));
});

test('what another field is at fault for is said there alone, and never sent', async () => {
  const { result: hook } = renderHook(() =>
    useInputForm({
      rules: AddTimeOff,
      typed: { from: NO_DAY_TYPED, to: NO_DAY_TYPED },
      input: ({ from, to }) => ({ from: dayTyped(from), to: lastDayTyped(to, from), minutes: null, note: '' }),
      send: () => send({} as LogTime),
    }),
  );
  act(() => hook.current.submit());
  await waitFor(() => expect(hook.current.bind('from').error).toBe('Choose a day.'));
  expect(hook.current.bind('to').error).toBeUndefined();
  act(() => hook.current.set({ from: '2026-12-14' }));
  act(() => hook.current.submit());
  await waitFor(() => expect(send).toHaveBeenCalledTimes(1));
});

const unread = expect.any(Unreadable) as unknown;
test.each([
  [
    'whole numbers',
    wholeTyped,
    [
      ['12', 12],
      ['−2', -2],
      ['1.5', unread],
      ['', unread],
    ],
  ],
  [
    'hours that may be left out',
    minutesIfTyped,
    [
      ['', null],
      ['7,5', 450],
      ['soon', unread],
    ],
  ],
  [
    'words between commas',
    wordsTyped,
    [
      [' glass, room 2,, glass ', ['glass', 'room 2']],
      ['', []],
    ],
  ],
] as const)('%s', (_what, read, cases) => {
  for (const [text, expected] of cases) expect(read(text)).toEqual(expected);
});

test('a day that has to be given is asked for', () => {
  expect(dayTyped('2026-12-14')).toBe('2026-12-14');
  expect(dayTyped('')).toEqual(unread);
});

test('the last day is the first where none is given, and never before it', () => {
  expect(lastDayTyped('', '2026-12-14')).toBe('2026-12-14');
  expect(lastDayTyped('2026-12-16', '2026-12-14')).toBe('2026-12-16');
  expect(lastDayTyped('2026-12-13', '2026-12-14')).toEqual(unread);
  expect(lastDayTyped('', '')).toMatchObject({ isOfAnother: true });
});

test('a week reads as it is written', () => {
  const week = [450, 450, 90, 0, 480, 0, 0];
  expect(weekTyped(weekAsTyped(week))).toEqual(week);
  expect(weekTyped(['25', '', '', '', '', '', ''])).toEqual(unread);
});
