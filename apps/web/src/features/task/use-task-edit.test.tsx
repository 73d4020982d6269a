import { act, renderHook, screen, render, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { TaskSheet } from '@crew/contract';
import useSWR, { mutate } from 'swr';
import { scriptNetwork } from '../../../test/network.ts';
import { planTask, stillEffect, taskSheet } from '../../../test/samples.ts';
import { read } from '../../api/client.ts';
import { NoticeRegion, undoLast } from '../../ui/toasts.tsx';
import { useTaskEdit } from './use-task-edit.ts';

const TODAY = '2026-11-23';
// Each test edits a task of its own: what was asked for a moment ago is not asked for again.
const opened: string[] = [];
const onConflict = (taskId: string): void => void opened.push(taskId);
const editing = (id = 't1') =>
  renderHook(() => ({ ...useTaskEdit(TODAY, onConflict), sheet: useSWR<TaskSheet>(`/tasks/${id}`, read).data })).result;

beforeEach(async () => {
  await mutate(() => true, undefined, { revalidate: false });
});

test('a change is sent with the version that was read, and what moved is told', async () => {
  const network = scriptNetwork();
  const effect = {
    ...stillEffect,
    moves: [
      {
        id: 't2',
        number: 8,
        title: 'Put right',
        from: { start: '2026-12-01', due: '2026-12-01' },
        to: { start: '2026-12-03', due: '2026-12-03' },
      },
    ],
    finish: { from: '2026-12-11', to: '2026-12-15' },
  };
  network.answer('GET /tasks/t1', 200, taskSheet);
  network.answer('PATCH /tasks/t1', 200, { task: { ...taskSheet, days: 6, version: 4 }, effect });
  render(<NoticeRegion />);
  const hook = editing();
  await act(async () => expect(await hook.current.edit(planTask, { days: 6 })).toBe(true));
  expect(network.asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ version: 3, days: 6 });
  expect(screen.getByText('“Signs set” saved. 1 task moved. Finishes 15 Dec, was 11 Dec.')).toBeTruthy();
});

test('a status is on the screen before the server has answered', async () => {
  const network = scriptNetwork();
  const sheet = { ...taskSheet, id: 't2' };
  network.answer('GET /tasks/t2', 200, sheet);
  network.answer('PATCH /tasks/t2', 200, { task: { ...sheet, status: 'active', version: 4 }, effect: null });
  const hook = editing('t2');
  await waitFor(() => expect(hook.current.sheet?.status).toBe('queued'));
  let saving: Promise<boolean> | undefined;
  const answer = globalThis.fetch;
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  globalThis.fetch = async (...given) => {
    await held;
    return answer(...given);
  };
  act(() => void (saving = hook.current.edit({ ...planTask, id: 't2' }, { status: 'active' })));
  await waitFor(() => expect(hook.current.sheet?.status).toBe('active'));
  network.answer('GET /tasks/t2', 200, { ...sheet, status: 'active', version: 4 });
  release();
  await act(async () => expect(await saving).toBe(true));
  expect(hook.current.sheet).toMatchObject({ status: 'active', version: 4 });
});

test('undo pressed at the very moment a change is made waits for it and undoes it', async () => {
  const network = scriptNetwork();
  const sheet = { ...taskSheet, id: 't9' };
  network.answer('GET /tasks/t9', 200, sheet);
  network.answer('PATCH /tasks/t9', 200, { task: { ...sheet, status: 'active', version: 4 }, effect: null, changeId: 'c9' });
  network.answer('GET /changes/c9/followed', 200, { isPlanned: true, moves: [] });
  network.answer('POST /changes/c9/undo', 200, { changeId: 'c10', kept: [] });
  const hook = editing('t9');
  await waitFor(() => expect(hook.current.sheet?.status).toBe('queued'));
  act(() => {
    void hook.current.edit({ ...planTask, id: 't9' }, { status: 'active' });
    undoLast();
  });
  await waitFor(() => expect(network.asked.some(({ path }) => path === '/changes/c9/undo')).toBe(true));
});

test('what the server refuses is told in its words, and the screen goes back', async () => {
  const network = scriptNetwork();
  const sheet = { ...taskSheet, id: 't3' };
  network.answer('GET /tasks/t3', 200, sheet);
  network.answer('PATCH /tasks/t3', 403, { code: 'not-allowed', message: 'You can change the status of your own tasks.' });
  render(<NoticeRegion />);
  const hook = editing('t3');
  await waitFor(() => expect(hook.current.sheet?.title).toBe('Signs set'));
  await act(async () => expect(await hook.current.edit({ ...planTask, id: 't3' }, { title: 'Signs' })).toBe(false));
  expect(screen.getByText('You can change the status of your own tasks.')).toBeTruthy();
  await waitFor(() => expect(hook.current.sheet?.title).toBe('Signs set'));
  expect(hook.current.conflict).toBeNull();
});

describe('a change that met another', () => {
  const current = { ...taskSheet, estimateMinutes: 1800, version: 4 };
  const meet = async () => {
    const network = scriptNetwork();
    network.answer('GET /tasks/t1', 200, current);
    network.answer('PATCH /tasks/t1', 409, { code: 'changed-meanwhile', message: 'Somebody changed this task.', details: { current } });
    const hook = editing();
    // Held is in good hands: the form closes, and what shows both is opened.
    await act(async () => expect(await hook.current.edit(planTask, { estimateMinutes: 1200 })).toBe(true));
    expect(opened.splice(0)).toEqual(['t1']);
    return { network, hook };
  };

  test('is held with both sides', async () => {
    const { hook } = await meet();
    expect(hook.current.conflict).toMatchObject({ taskId: 't1', wanted: { estimateMinutes: 1200 }, current: { estimateMinutes: 1800 } });
  });

  test('put in, it is sent with the version there is now', async () => {
    const { network, hook } = await meet();
    network.answer('PATCH /tasks/t1', 200, { task: { ...current, estimateMinutes: 1200, version: 5 }, effect: stillEffect });
    await act(() => hook.current.keepMine());
    expect(network.asked.filter(({ method }) => method === 'PATCH').at(-1)?.body).toEqual({ version: 4, estimateMinutes: 1200 });
    expect(hook.current.conflict).toBeNull();
  });

  test('left, nothing more is sent', async () => {
    const { network, hook } = await meet();
    const before = network.asked.filter(({ method }) => method === 'PATCH').length;
    await act(async () => hook.current.keepTheirs());
    expect(hook.current.conflict).toBeNull();
    expect(network.asked.filter(({ method }) => method === 'PATCH')).toHaveLength(before);
  });
});

test('a change of the plan is undone whole, with everything it moved', async () => {
  const network = scriptNetwork();
  network.answer('PATCH /tasks/t1', 200, { task: { ...taskSheet, days: 6, version: 4 }, effect: stillEffect, changeId: 'c1' });
  network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
  render(<NoticeRegion />);
  const hook = editing();
  await act(async () => void (await hook.current.edit(planTask, { days: 6 })));
  await userEvent.click(screen.getAllByRole('button', { name: 'Undo' }).at(-1) as HTMLElement);
  expect(await screen.findByText('Undone.')).toBeTruthy();
  expect(network.asked.filter(({ method }) => method !== 'GET').map(({ method, path }) => `${method} ${path}`)).toEqual([
    'PATCH /tasks/t1',
    'POST /changes/c1/undo',
  ]);
});
