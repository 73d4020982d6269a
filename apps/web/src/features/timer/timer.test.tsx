import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Me, TimerView } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { odalys, teo } from '../../../test/samples.ts';
import { NowTimer, TimerButton } from './TimerButton.tsx';
import { TimerChip } from './TimerChip.tsx';
import { clockWords } from './use-timer.ts';

const task = { id: 't1', title: 'Posts dug' };
const view = (more: Partial<TimerView> = {}): TimerView => ({
  task: { ...task, engagement: { id: 'e1', name: 'Seed vault wayfinding' } },
  ...{ elapsedSeconds: 2520, isRunning: true, day: '2026-11-23', isLeft: false, isClosed: false, guessMinutes: null },
  ...more,
});
const open = (timer: TimerView | null, address = '/desk', me: Me = teo) =>
  openScreen(
    <>
      <TimerChip />
      <TimerButton task={task} />
      <NowTimer task={task} part="count" />
    </>,
    { path: '/desk', address, me, answers: { 'GET /timer': { timer } } },
  );
const chip = () => within(screen.getByRole('group', { name: 'Timer' }));

const undo = { entryId: 'x1', taskId: 't1', day: '2026-11-23', bankedSeconds: 0, runningSince: '2026-11-23T09:00:00.000Z' };

test.each([
  [0, '0 min'],
  [59, '0 min'],
  [2520, '42 min'],
  [39_000, '10 h 50 min'],
  [3900, '1 h 05 min'],
])('%d seconds read as %s', (seconds, words) => expect(clockWords(seconds)).toBe(words));

test('while there is none the bar is empty, and the task offers to start one', async () => {
  const page = await open(null);
  expect(screen.queryByRole('group', { name: 'Timer' })).toBeNull();
  page.network.answer('POST /timer', 200, { timer: view({ elapsedSeconds: 0 }) });
  page.network.answer('GET /timer', 200, { timer: view({ elapsedSeconds: 0 }) });
  await userEvent.click(await screen.findByRole('button', { name: 'Start the timer on Posts dug' }));
  expect(page.sent()).toEqual([{ request: 'POST /timer', body: { taskId: 't1' } }]);
  expect(await screen.findByRole('button', { name: '0 min on Posts dug' })).toBeTruthy();
});

test('it counts on the screen from what the server said', async () => {
  jest.useFakeTimers({ advanceTimers: true });
  try {
    await open(view());
    expect((await screen.findByRole('timer')).textContent).toBe('42 min');
    await act(() => jest.advanceTimersByTimeAsync(61_000));
    expect(screen.getByRole('timer').textContent).toBe('43 min');
  } finally {
    jest.useRealTimers();
  }
});

test('paused it stands still, and goes on from there', async () => {
  const page = await open(view({ isRunning: false }));
  page.network.answer('POST /timer', 200, { timer: view() });
  await userEvent.click(chip().getByRole('button', { name: 'Resume Posts dug' }));
  expect(page.sent()).toEqual([{ request: 'POST /timer', body: { taskId: 't1' } }]);
});

test('stopping logs it with a note; the key t pauses it', async () => {
  const page = await open(view());
  page.network.answer('POST /timer/pause', 200, { timer: view({ isRunning: false }) });
  await userEvent.keyboard('t');
  await waitFor(() => expect(page.sent().map(({ request }) => request)).toEqual(['POST /timer/pause']));
  page.network.answer('POST /timer/stop', 200, { minutes: 42, day: '2026-11-23', title: 'Posts dug', undo });
  await userEvent.click(chip().getByRole('button', { name: '42 min on Posts dug' }));
  await userEvent.type(await screen.findByRole('textbox', { name: 'Note' }), 'North side');
  await userEvent.click(screen.getByRole('button', { name: 'Stop and log 42 min' }));
  await waitFor(() => expect(page.sent().at(-1)).toEqual({ request: 'POST /timer/stop', body: { note: 'North side' } }));
  expect(await screen.findByText('0.7 h logged on “Posts dug”.')).toBeTruthy();
  page.network.answer('POST /timer/restore', 200, { timer: view() });
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(page.sent().at(-1)).toEqual({ request: 'POST /timer/restore', body: undo }));
});

test('left running it asks how much was work, with a guess, and takes no nonsense', async () => {
  const page = await open(view({ isLeft: true, day: '2026-11-20', guessMinutes: 90, elapsedSeconds: 250_000 }));
  page.network.answer('POST /timer/stop', 200, { minutes: 120, day: '2026-11-20', title: 'Posts dug', undo });
  await userEvent.click(chip().getByRole('button', { name: 'Timer left running on Posts dug' }));
  expect(await screen.findByText(/left running since Fri 20 Nov. How much of it was work/)).toBeTruthy();
  const hours = screen.getByRole('textbox', { name: 'Hours' });
  expect(hours).toHaveProperty('value', '1.5');
  await userEvent.clear(hours);
  await userEvent.type(hours, 'long');
  await userEvent.click(screen.getByRole('button', { name: 'Log time' }));
  expect(await screen.findByText('Write hours as 1.5, 1:30 or 90m.')).toBeTruthy();
  expect(page.sent()).toEqual([]);
  await userEvent.clear(hours);
  await userEvent.type(hours, '2');
  await userEvent.click(screen.getByRole('button', { name: 'Log time' }));
  await waitFor(() => expect(page.sent().at(-1)).toEqual({ request: 'POST /timer/stop', body: { minutes: 120 } }));
});

test('t starts it on the open task; with none open it says so', async () => {
  const page = await open(null, '/desk?task=t1');
  page.network.answer('POST /timer', 200, { timer: view() });
  await screen.findByRole('button', { name: 'Start the timer on Posts dug' });
  await waitFor(() => expect(screen.getByRole('button', { name: 'Start the timer on Posts dug' }).hasAttribute('disabled')).toBe(false));
  await userEvent.keyboard('t');
  await waitFor(() => expect(page.sent()).toEqual([{ request: 'POST /timer', body: { taskId: 't1' } }]));
  page.close();
  await open(null);
  await waitFor(() => expect(screen.getByRole('button', { name: 'Start the timer on Posts dug' }).hasAttribute('disabled')).toBe(false));
  await userEvent.keyboard('t');
  expect(await screen.findByText('Open a task to start its timer.')).toBeTruthy();
});

test('thrown away, nothing is logged', async () => {
  const page = await open(view());
  page.network.answer('DELETE /timer', 204);
  await userEvent.click(chip().getByRole('button', { name: '42 min on Posts dug' }));
  await userEvent.click(screen.getByRole('button', { name: /Discard timer/ }));
  await waitFor(() => expect(page.sent().map(({ request }) => request)).toEqual(['DELETE /timer']));
});

describe('left on a day whose time was closed meanwhile', () => {
  const left = { isLeft: true, isClosed: true, day: '2026-11-20', guessMinutes: 90 } as const;

  test('a member is told whom to ask, and can throw it away', async () => {
    const page = await open(view(left));
    page.network.answer('DELETE /timer', 204, null);
    await userEvent.click(chip().getByRole('button', { name: 'Timer left running on Posts dug' }));
    expect(screen.getByText(/The time of that day is closed/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Log time' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Discard timer' }));
    await waitFor(() => expect(page.sent().map(({ request }) => request)).toEqual(['DELETE /timer']));
  });

  test('a lead says why, and it goes along', async () => {
    const page = await open(view(left), '/desk', odalys);
    page.network.answer('POST /timer/stop', 200, { minutes: 90, day: '2026-11-20', title: 'Posts dug', undo });
    await userEvent.click(chip().getByRole('button', { name: 'Timer left running on Posts dug' }));
    await userEvent.click(screen.getByRole('button', { name: 'Log time' }));
    expect(await screen.findByText('Give the reason.')).toBeTruthy();
    await userEvent.type(screen.getByRole('textbox', { name: /^Why it is logged/ }), 'Was on site');
    await userEvent.click(screen.getByRole('button', { name: 'Log time' }));
    await waitFor(() => expect(page.sent().at(-1)).toEqual({ request: 'POST /timer/stop', body: { minutes: 90, reason: 'Was on site' } }));
  });
});
