import { act, render, renderHook, screen, waitFor } from '@testing-library/react';
import { scriptNetwork } from '../../test/network.ts';
import { call } from '../api/client.ts';
import { useCrew } from '../api/queries.ts';
import { NoticeRegion, undoLast } from '../ui/toasts.tsx';
import { backBy, perform, performOrThrow } from './perform.ts';

const shownNotices = (): string[] => screen.queryAllByText(/./, { selector: 'span' }).map((notice) => notice.textContent ?? '');

beforeEach(() => render(<NoticeRegion />));

test('a step is said once it is done, and its notice undoes it by its id', async () => {
  const network = scriptNetwork();
  network.answer('POST /clients', 201, { id: 'c', changeId: 'change-1' });
  network.answer('POST /changes/change-1/undo', 200, { changeId: 'change-2', kept: [] });
  const step = {
    send: () => call<{ changeId: string }>('POST', '/clients', { name: 'Quay' }),
    said: 'Quay is added.',
    undo: ({ changeId }: { changeId: string }) => changeId,
  };
  await act(async () => expect(await perform(step)).toMatchObject({ isDone: true, answer: { id: 'c' } }));
  expect(shownNotices()).toContain('Quay is added.');
  await act(async () => undoLast());
  expect(network.asked.at(-1)).toMatchObject({ method: 'POST', path: '/changes/change-1/undo' });
  expect(shownNotices()).toContain('Undone.');
});

test('undo pressed while a step is on its way undoes that step', async () => {
  const network = scriptNetwork();
  network.answer('POST /clients', 201, {});
  network.answer('DELETE /clients/q', 204);
  const going = perform({ send: () => call('POST', '/clients'), said: 'Added.', undo: () => backBy(() => call('DELETE', '/clients/q')) });
  undoLast();
  expect(network.asked.map(({ method }) => method)).not.toContain('DELETE');
  await act(async () => void (await going));
  await act(async () => undefined);
  expect(network.asked.map(({ method }) => method)).toContain('DELETE');
});

test('a refusal is told in its own words, or where the form shows it', async () => {
  const network = scriptNetwork();
  network.answer('POST /clients', 409, { code: 'already-there', message: 'There is a Quay already.' });
  await act(async () => expect(await perform({ send: () => call('POST', '/clients') })).toEqual({ isDone: false }));
  expect(shownNotices()).toContain('There is a Quay already.');
  const told: string[] = [];
  await act(async () => void (await perform({ send: () => call('POST', '/clients', { a: 1 }), onTrouble: (words) => told.push(words) })));
  expect(told).toEqual(['There is a Quay already.']);
});

test('a fault of the page is said to be one, and goes to the console whole', async () => {
  scriptNetwork();
  const logged = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const fault = new TypeError("Cannot read properties of undefined (reading 'id')");
  await act(async () => void (await perform({ send: () => Promise.reject(fault) })));
  expect(shownNotices().some((words) => words.includes('Something went wrong on this page'))).toBe(true);
  expect(shownNotices().some((words) => words.includes('undefined'))).toBe(false);
  expect(logged).toHaveBeenCalledWith(fault);
  logged.mockRestore();
});

test('a form that was met by another change throws that on, with what is there now read around it', async () => {
  const network = scriptNetwork();
  network.answer('GET /crew', 200, { people: [], roles: [] });
  network.answer('PATCH /clients/q', 409, { code: 'changed-meanwhile', message: 'Somebody changed it.' });
  network.answer('PATCH /clients/r', 400, { code: 'invalid-input', message: 'Give it a name.', field: 'name' });
  renderHook(() => useCrew());
  const reads = (): number => network.asked.filter(({ path }) => path === '/crew').length;
  await waitFor(() => expect(reads()).toBe(1));
  const edit = (id: string): Promise<unknown> => performOrThrow({ send: () => call('PATCH', `/clients/${id}`, {}) });
  await act(async () => expect(edit('r')).rejects.toMatchObject({ field: 'name' }));
  expect(reads()).toBe(1);
  await act(async () => expect(edit('q')).rejects.toMatchObject({ code: 'changed-meanwhile' }));
  expect(reads()).toBe(2);
});
