import type { TaskSheet as Task } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { taskSheet } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { calls } from '../../../test/series-samples.ts';
import { RepeatsPart } from './RepeatsPart.tsx';
import { RepeatsValue } from './RepeatsValue.tsx';

const TODAY = '2026-11-23';
const open = (more: Partial<Task>, series = calls) => {
  const task: Task = { ...taskSheet, start: '2026-11-24', ...more };
  const element = (
    <>
      <RepeatsValue task={task} today={TODAY} />
      {task.seriesId === null ? null : <RepeatsPart task={task} today={TODAY} />}
    </>
  );
  return openScreen(element, {
    path: '/sheet',
    answers: {
      'GET /task-series/ts1': series,
      'PATCH /task-series/ts1': { ...series, version: 3 },
      'POST /task-series/ts1/like': { ...series, version: 3 },
      'POST /task-series/ts1/stop': { ...series, version: 3 },
      'POST /task-series/ts1/resume': { ...series, version: 4 },
      'POST /tasks/t1/series': { ...series, rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU' },
      'POST /rhythms/preview': {
        days: [
          { day: '2026-11-24', on: '2026-11-24', each: 1 },
          { day: '2026-12-29', on: '2027-01-04', each: 1 },
        ],
      },
    },
  });
};
const press = async (name: string | RegExp): Promise<void> => userEvent.click(await screen.findByRole('button', { name }));

test('a task that does not repeat is made to, and its next days are seen before', async () => {
  const page = await open({});
  await press('no');
  const form = within(await screen.findByRole('dialog', { name: /repeats/ }));
  await userEvent.clear(form.getByRole('textbox', { name: 'How many' }));
  await userEvent.type(form.getByRole('textbox', { name: 'How many' }), '2');
  expect(await form.findByText(/Tue 24 Nov, Mon 4 Jan 2027 in place of Tue 29 Dec/)).toBeTruthy();
  await userEvent.click(form.getByRole('checkbox', { name: 'drop a missed one when the next one starts' }));
  await userEvent.click(form.getByRole('button', { name: 'Start repeating' }));
  await screen.findByText(/repeats every second Tuesday/);
  expect(page.sent().find(({ request }) => request === 'POST /tasks/t1/series')?.body).toEqual({
    ...{ rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', onClosed: 'after', whenMissed: 'drop', isPhaseOnly: false },
  });
});

test('while a slot is not filled right there is nothing to send', async () => {
  const page = await open({});
  await press('no');
  const form = within(await screen.findByRole('dialog', { name: /repeats/ }));
  await userEvent.clear(form.getByRole('textbox', { name: 'How many' }));
  await userEvent.click(form.getByRole('button', { name: 'Start repeating' }));
  expect((await form.findByRole('alert')).textContent).toBe('Fill in every slot with a whole number or a day.');
  expect(page.sent().filter(({ request }) => request.endsWith('/series'))).toEqual([]);
});

test('what has subtasks or is over is not offered to repeat', async () => {
  await open({ isGroup: true });
  expect(screen.queryByRole('button', { name: 'no' })).toBeNull();
  expect(screen.getByText('no')).toBeTruthy();
});

describe('one that repeats', () => {
  const later = async () => within(await screen.findByRole('list', { name: 'Later ones' }));

  test('says how, and lists the later ones: moved, not created yet, skipped', async () => {
    await open({ seriesId: 'ts1' });
    const list = await later();
    expect(list.getByText(/Wed 9 Dec, moved from Tue 8 Dec/)).toBeTruthy();
    expect(list.getByText('Tue 5 Jan 2027').textContent).toContain('made later');
    expect(list.getByRole('button', { name: 'Restore Tue 22 Dec' })).toBeTruthy();
    expect(screen.getByText(/a missed one is dropped when the next one starts/)).toBeTruthy();
  });

  test('one is left out and taken in again from the notice', async () => {
    const page = await open({ seriesId: 'ts1' });
    await press('Skip Tue 8 Dec');
    await screen.findByText('Tue 8 Dec skipped.');
    await press('Undo');
    await waitFor(() =>
      expect(page.sent().map(({ body }) => body)).toEqual([
        { version: 2, skipped: ['2026-12-22', '2026-12-08'] },
        { version: 3, skipped: ['2026-12-22'] },
      ]),
    );
  });

  test('later ones are made like this one', async () => {
    const page = await open({ seriesId: 'ts1' });
    await press('Make later ones like this');
    await screen.findByText('Later ones now match this one.');
    expect(page.sent()).toEqual([{ request: 'POST /task-series/ts1/like', body: { version: 2, taskId: 't1' } }]);
  });

  test('another rule holds from its next day on', async () => {
    const page = await open({ seriesId: 'ts1' });
    await press('Change…');
    const form = within(await screen.findByRole('dialog', { name: 'How it repeats' }));
    await userEvent.click(form.getByRole('button', { name: 'Thursday' }));
    await userEvent.click(form.getByRole('button', { name: 'Change it' }));
    await screen.findByText(/every second week on Tuesday and Thursday/);
    expect(page.sent().find(({ request }) => request.startsWith('PATCH'))?.body).toEqual({
      ...{ version: 2, onClosed: 'after', rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH', from: '2026-11-24' },
    });
  });

  test('stopped it says since when, and goes on with one press', async () => {
    const page = await open({ seriesId: 'ts1' }, { ...calls, stoppedOn: '2026-12-01', coming: [], skipped: [] });
    expect(await screen.findByText('No more to come.')).toBeTruthy();
    await press('Resume');
    await screen.findByText('“Call” repeats again.');
    expect(page.sent()[0]).toEqual({ request: 'POST /task-series/ts1/resume', body: { version: 2 } });
  });
});
