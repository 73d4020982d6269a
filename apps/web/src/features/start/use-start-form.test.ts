import { act, renderHook, waitFor } from '@testing-library/react';
import type { DryRun } from '@crew/contract';
import { mutate } from 'swr';
import { scriptNetwork, type Network } from '../../../test/network.ts';
import { useStartForm } from './use-start-form.ts';

const TODAY = '2026-11-23';
const run: DryRun = {
  template: { id: 'g', kind: 'engagement', name: 'Permanent gallery', description: '', version: 1, usedTimes: 2, isChanged: false },
  ...{ copyOf: null, notes: [], effortByRole: [] },
  ...{ start: TODAY, finish: '2027-04-27', promise: null, closedDays: 7, effortMinutes: 34_200 },
  ...{ phases: [], tasks: [], conflicts: [], roles: [], overloads: [] },
};

let network: Network;
beforeEach(async () => {
  network = scriptNetwork();
  network.answer('POST /engagements/preview', 201, run);
  await mutate(() => true, undefined, { revalidate: false });
});

const form = (templateId: string | null = 'g') => renderHook(() => useStartForm({ templateId }, TODAY)).result;
const asked = (path: string): unknown[] => network.asked.filter((request) => request.path === path).map((request) => request.body);

test('without a template nothing is computed', () => {
  expect(form(null).current.run).toBeUndefined();
  expect(network.asked).toEqual([]);
});

test('with one it is laid from today at once', async () => {
  const hook = form();
  await waitFor(() => expect(hook.current.run?.finish).toBe('2027-04-27'));
  expect(asked('/engagements/preview')).toEqual([{ templateId: 'g', start: TODAY, withoutPhases: [], withoutTasks: [], roles: [] }]);
});

test('back from a promise the promise alone is asked, and nothing before there is one', async () => {
  const hook = form('back');
  await waitFor(() => expect(hook.current.run).toBeDefined());
  act(() => hook.current.change({ from: 'promise' }));
  expect(hook.current.run).toBeUndefined();
  act(() => hook.current.change({ promise: '2027-05-28' }));
  await waitFor(() => expect(hook.current.run).toBeDefined());
  expect(asked('/engagements/preview').at(-1)).toEqual({
    ...{ templateId: 'back', promise: '2027-05-28', withoutPhases: [], withoutTasks: [], roles: [] },
  });
});

test('what is left out, for whom and by whom goes along; taken out twice it is in again', async () => {
  const hook = form('parts');
  act(() => hook.current.toggle('withoutTasks', 't1'));
  act(() => hook.current.toggle('withoutTasks', 't2'));
  act(() => hook.current.toggle('withoutTasks', 't1'));
  act(() => hook.current.toggle('withoutPhases', 'p1'));
  act(() => hook.current.change({ clientId: 'c1', roles: { writer: 'mirela', installer: null } }));
  await waitFor(() =>
    expect(asked('/engagements/preview').at(-1)).toMatchObject({
      ...{ clientId: 'c1', withoutTasks: ['t2'], withoutPhases: ['p1'] },
      roles: [
        { roleId: 'writer', personId: 'mirela' },
        { roleId: 'installer', personId: null },
      ],
    }),
  );
});

test('what the server cannot lay is told, and the last answer stays in sight', async () => {
  const hook = form('late');
  await waitFor(() => expect(hook.current.run).toBeDefined());
  network.answer('POST /engagements/preview', 400, { code: 'promise-too-early', message: 'No start is early enough.', field: 'promise' });
  act(() => hook.current.change({ promise: '2026-11-24' }));
  await waitFor(() => expect(hook.current.problem?.message).toBe('No start is early enough.'));
  expect(hook.current.run?.finish).toBe('2027-04-27');
});

describe('starting it', () => {
  test('with something missing says so at each field and makes nothing', async () => {
    const hook = form('missing');
    await act(async () => expect(await hook.current.start()).toBeNull());
    expect(hook.current.faults).toEqual({ clientId: 'Choose the client.', name: 'Give the engagement a name.' });
    act(() => hook.current.change({ from: 'promise', start: '' }));
    await act(async () => expect(await hook.current.start()).toBeNull());
    expect(hook.current.faults).toMatchObject({ promise: 'Give the promised date to plan back from.' });
    expect(asked('/engagements/in-steps')).toEqual([]);
  });

  test('sends what the review showed, with name and client', async () => {
    network.answerInLines('POST /engagements/in-steps', [
      { kind: 'making', step: 'tasks', done: 0, of: 40 },
      { kind: 'made', id: 'e1' },
    ]);
    const hook = form('send');
    act(() => hook.current.change({ clientId: 'c1', contactId: 'k1', name: 'Reed walk', promise: '2027-05-28' }));
    await act(async () => expect(await hook.current.start()).toBe('e1'));
    expect(asked('/engagements/in-steps')).toEqual([
      {
        ...{ templateId: 'send', start: TODAY, promise: '2027-05-28', clientId: 'c1', contactId: 'k1', name: 'Reed walk' },
        ...{ withoutPhases: [], withoutTasks: [], roles: [] },
      },
    ]);
  });

  test('a refusal stands at its field and goes when something is changed', async () => {
    network.answer('POST /engagements/in-steps', 400, {
      code: 'unknown-id',
      message: 'This client is not of your agency.',
      field: 'clientId',
    });
    const hook = form('refused');
    act(() => hook.current.change({ clientId: 'c9', name: 'Reed walk' }));
    await act(async () => expect(await hook.current.start()).toBeNull());
    expect(hook.current.faults).toEqual({ clientId: 'This client is not of your agency.' });
    act(() => hook.current.change({ clientId: 'c1' }));
    expect(hook.current.faults).toEqual({});
  });
});

test('what is added goes along; a phase that is taken out again takes along what was put into it', async () => {
  const hook = form('grown');
  act(() =>
    hook.current.change({
      addPhases: [{ templateId: 'press', phaseIds: ['x', 'y'] }],
      addTasks: [
        { taskId: 'a', phaseId: 'x' },
        { taskId: 'b', phaseId: 'p1' },
      ],
    }),
  );
  await waitFor(() =>
    expect(asked('/engagements/preview').at(-1)).toMatchObject({ addPhases: [{ templateId: 'press', phaseIds: ['x', 'y'] }] }),
  );
  act(() => hook.current.takeOutPhase('x'));
  expect(hook.current.form).toMatchObject({
    addPhases: [{ templateId: 'press', phaseIds: ['y'] }],
    addTasks: [{ taskId: 'b', phaseId: 'p1' }],
  });
  act(() => hook.current.takeOutPhase('y'));
  act(() => hook.current.takeOutTask('b'));
  expect(hook.current.form).toMatchObject({ addPhases: [], addTasks: [] });
});

test('what goes wrong half way is told, and nothing counts as made', async () => {
  network.answerInLines('POST /engagements/in-steps', [
    { kind: 'making', step: 'tasks', done: 250, of: 400 },
    { kind: 'refused', refusal: { code: 'changed-meanwhile', message: 'Somebody changed this at the same moment. Try once more.' } },
  ]);
  const hook = form('half');
  act(() => hook.current.change({ clientId: 'c1', name: 'Reed walk' }));
  await act(async () => expect(await hook.current.start()).toBeNull());
  expect(hook.current.faults).toEqual({ start: 'Somebody changed this at the same moment. Try once more.' });
  expect(hook.current.making).toBeNull();
});

test('a copy is for the same client until another is chosen, and asks for no template', async () => {
  const copyOf = { id: 'e7', name: 'Comet cart', clientId: 'c7' };
  network.answer('POST /engagements/preview', 201, { ...run, copyOf });
  network.answerInLines('POST /engagements/in-steps', [{ kind: 'made', id: 'e8' }]);
  const hook = renderHook(() => useStartForm({ templateId: null, copyOf: 'e7' }, TODAY)).result;
  await waitFor(() => expect(hook.current.form.clientId).toBe('c7'));
  act(() => hook.current.change({ name: 'Comet cart, again', withoutDeliverables: ['Cart'] }));
  await act(async () => expect(await hook.current.start()).toBe('e8'));
  expect(asked('/engagements/in-steps')).toEqual([
    {
      ...{ copyOf: 'e7', start: TODAY, clientId: 'c7', name: 'Comet cart, again', withoutDeliverables: ['Cart'] },
      ...{ withoutPhases: [], withoutTasks: [], roles: [] },
    },
  ]);
});
