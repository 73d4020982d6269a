import { act, renderHook, waitFor } from '@testing-library/react';
import type { DryRun } from '@crew/contract';
import { mutate } from 'swr';
import { idOf } from '../../../test/ids.ts';
import { scriptNetwork, type Network } from '../../../test/network.ts';
import { useStartForm, type StartForm } from './use-start-form.ts';

const TODAY = '2026-11-23';
const run: DryRun = {
  template: { id: 'g', kind: 'engagement', name: 'Permanent gallery', description: '', version: 1, usedTimes: 2, isChanged: false },
  ...{ copyOf: null, notes: [], effortByRole: [] },
  ...{
    start: TODAY,
    finish: '2027-04-27',
    promise: null,
    late: null,
    closedDays: 7,
    effortMinutes: 34_200,
    unestimated: { tasks: 0, minutesEach: 60 },
  },
  ...{ phases: [], tasks: [], conflicts: [], roles: [], overloads: [] },
};

let network: Network;
beforeEach(async () => {
  onStarted.mockClear();
  network = scriptNetwork();
  network.answer('POST /engagements/preview', 201, run);
  await mutate(() => true, undefined, { revalidate: false });
});

const onStarted = jest.fn<Promise<void>, [string]>(() => Promise.resolve());
const form = (template: string | null = 'g') =>
  renderHook(() => useStartForm({ templateId: template === null ? null : idOf(template) }, { today: TODAY, onStarted })).result;
type Hook = ReturnType<typeof form>;
const start = async (hook: Hook): Promise<void> => {
  act(() => hook.current.fields.submit());
  await waitFor(() => expect(hook.current.fields.isSending).toBe(false));
};
const faultAt = (hook: Hook, name: keyof StartForm): string | undefined => hook.current.fields.bind(name).error;
const asked = (path: string): unknown[] => network.asked.filter((request) => request.path === path).map((request) => request.body);

test('without a template nothing is computed', () => {
  expect(form(null).current.run).toBeUndefined();
  expect(network.asked).toEqual([]);
});

test('with one it is scheduled from today at once', async () => {
  const hook = form();
  await waitFor(() => expect(hook.current.run?.finish).toBe('2027-04-27'));
  expect(asked('/engagements/preview')).toEqual([{ templateId: idOf('g'), start: TODAY, withoutPhases: [], withoutTasks: [], roles: [] }]);
});

test('back from a promise the promise alone is asked, and nothing before there is one', async () => {
  const hook = form('back');
  await waitFor(() => expect(hook.current.run).toBeDefined());
  act(() => hook.current.change({ from: 'promise' }));
  expect(hook.current.run).toBeUndefined();
  act(() => hook.current.change({ promise: '2027-05-28' }));
  await waitFor(() => expect(hook.current.run).toBeDefined());
  expect(asked('/engagements/preview').at(-1)).toEqual({
    ...{ templateId: idOf('back'), promise: '2027-05-28', withoutPhases: [], withoutTasks: [], roles: [] },
  });
});

test('what is left out, for whom and by whom goes along; taken out twice it is in again', async () => {
  const hook = form('parts');
  act(() => hook.current.toggle('withoutTasks', 't1'));
  act(() => hook.current.toggle('withoutTasks', 't2'));
  act(() => hook.current.toggle('withoutTasks', 't1'));
  act(() => hook.current.toggle('withoutPhases', 'p1'));
  act(() => hook.current.change({ clientId: idOf('c1'), roles: { writer: 'mirela', installer: null } }));
  await waitFor(() =>
    expect(asked('/engagements/preview').at(-1)).toMatchObject({
      ...{ clientId: idOf('c1'), withoutTasks: ['t2'], withoutPhases: ['p1'] },
      roles: [
        { roleId: 'writer', personId: 'mirela' },
        { roleId: 'installer', personId: null },
      ],
    }),
  );
});

test('what the server cannot schedule is told, and the last answer stays in sight', async () => {
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
    await start(hook);
    await waitFor(() => expect(faultAt(hook, 'clientId')).toBe('Choose the client.'));
    expect(faultAt(hook, 'name')).toBe('Give the engagement a name.');
    act(() => hook.current.change({ from: 'promise', start: '' }));
    await start(hook);
    await waitFor(() => expect(faultAt(hook, 'promise')).toBe('Give the promised date to plan back from.'));
    expect(asked('/engagements/in-steps')).toEqual([]);
  });

  test('sends what the review showed, with name and client', async () => {
    network.answerInLines('POST /engagements/in-steps', [
      { kind: 'making', step: 'tasks', done: 0, of: 40 },
      { kind: 'made', id: 'e1' },
    ]);
    const hook = form('send');
    act(() => hook.current.change({ clientId: idOf('c1'), contactId: idOf('k1'), name: 'Reed walk', promise: '2027-05-28' }));
    await start(hook);
    await waitFor(() => expect(onStarted).toHaveBeenCalledWith('e1'));
    expect(asked('/engagements/in-steps')).toEqual([
      {
        ...{
          templateId: idOf('send'),
          start: TODAY,
          promise: '2027-05-28',
          clientId: idOf('c1'),
          contactId: idOf('k1'),
          name: 'Reed walk',
        },
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
    act(() => hook.current.change({ clientId: idOf('c9'), name: 'Reed walk' }));
    await start(hook);
    await waitFor(() => expect(faultAt(hook, 'clientId')).toBe('This client is not of your agency.'));
    expect(onStarted).not.toHaveBeenCalled();
    act(() => hook.current.change({ clientId: idOf('c1') }));
    await waitFor(() => expect(faultAt(hook, 'clientId')).toBeUndefined());
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
  act(() => hook.current.removePhase('x'));
  expect(hook.current.form).toMatchObject({
    addPhases: [{ templateId: 'press', phaseIds: ['y'] }],
    addTasks: [{ taskId: 'b', phaseId: 'p1' }],
  });
  act(() => hook.current.removePhase('y'));
  act(() => hook.current.removeTask('b'));
  expect(hook.current.form).toMatchObject({ addPhases: [], addTasks: [] });
});

test('what goes wrong half way is told, and nothing counts as made', async () => {
  network.answerInLines('POST /engagements/in-steps', [
    { kind: 'making', step: 'tasks', done: 250, of: 400 },
    { kind: 'refused', refusal: { code: 'changed-meanwhile', message: 'Somebody changed this at the same moment. Try once more.' } },
  ]);
  const hook = form('half');
  act(() => hook.current.change({ clientId: idOf('c1'), name: 'Reed walk' }));
  await start(hook);
  await waitFor(() => expect(hook.current.fields.trouble).toBe('Somebody changed this at the same moment. Try once more.'));
  expect(onStarted).not.toHaveBeenCalled();
  expect(hook.current.making).toBeNull();
});

test('a copy is for the same client until another is chosen, and asks for no template', async () => {
  const copyOf = { id: idOf('e7'), name: 'Comet cart', clientId: idOf('c7') };
  network.answer('POST /engagements/preview', 201, { ...run, copyOf });
  network.answerInLines('POST /engagements/in-steps', [{ kind: 'made', id: 'e8' }]);
  const hook = renderHook(() => useStartForm({ templateId: null, copyOf: idOf('e7') }, { today: TODAY, onStarted })).result;
  await waitFor(() => expect(hook.current.form.clientId).toBe(idOf('c7')));
  act(() => hook.current.change({ name: 'Comet cart, again', withoutDeliverables: ['Cart'] }));
  await start(hook);
  await waitFor(() => expect(onStarted).toHaveBeenCalledWith('e8'));
  expect(asked('/engagements/in-steps')).toEqual([
    {
      ...{ copyOf: idOf('e7'), start: TODAY, clientId: idOf('c7'), name: 'Comet cart, again', withoutDeliverables: ['Cart'] },
      ...{ withoutPhases: [], withoutTasks: [], roles: [] },
    },
  ]);
});
