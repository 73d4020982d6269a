import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { TaskSheet as Task } from '@crew/contract';
import { idOf } from '../../../test/ids.ts';
import { openScreen } from '../../../test/screen.tsx';
import { odalys, plan, planTask, stillEffect, taskSheet, teo } from '../../../test/samples.ts';
import { briefWords } from './OutsideEditor.tsx';
import { wordsTyped } from '../../ui/form/typed.ts';
import { TaskSheet } from './TaskSheet.tsx';
import { useTaskEdit } from './use-task-edit.ts';

function Beside() {
  const editing = useTaskEdit('2026-11-23', () => undefined);
  return <TaskSheet taskId="t1" editing={editing} onClose={() => undefined} onOpen={() => undefined} />;
}
/** Opens the sheet of a task of an engagement of its own. */
const open = async (id: string, more: Partial<Task> = {}, me = odalys) => {
  const engagement = { ...taskSheet.engagement, id };
  const task = { ...taskSheet, ...more, engagement };
  const tasks = plan.tasks.map((other) => (other.id === 't2' ? { ...other, id: idOf('t2') } : other));
  const shown = { ...plan, tasks, deliverables: [{ id: 'd1', name: 'Panel set' }] };
  const page = await openScreen(<Beside />, {
    path: '/sheet',
    address: '/sheet',
    me,
    answers: { 'GET /tasks/t1': task, [`GET /engagements/${id}/plan`]: shown },
  });
  page.network.answer('POST /tasks/t1/preview', 200, stillEffect);
  page.network.answer('PATCH /tasks/t1', 200, { task: { ...task, version: 4 }, effect: stillEffect, changeId: 'c1' });
  await screen.findByDisplayValue(task.title);
  return page;
};
const press = (name: string | RegExp): Promise<void> => userEvent.click(screen.getByRole('button', { name }));
const lastEdit = (page: Awaited<ReturnType<typeof open>>) =>
  page
    .sent()
    .filter(({ request }) => request.startsWith('PATCH'))
    .at(-1)?.body;

describe('what it waits for', () => {
  const waitsFor = [{ id: idOf('t3'), number: 9, title: 'Posts dug', status: 'queued' as const, type: 'SS' as const, lag: 2 }];
  const after = [{ id: idOf('t3'), number: 9, type: 'SS' as const, lag: 2 }];

  test('is said in words, with the kind and the days between', async () => {
    await open('dependencies', { waitsFor, after });
    expect(screen.getByRole('button', { name: 'Edit dependency on Posts dug' }).textContent).toBe('starts with it, 2 days later');
  });

  test('a new dependency is found by typing, shown with what it would do, and stands beside the others', async () => {
    const page = await open('types', { waitsFor, after });
    await press('New dependency…');
    await userEvent.type(await screen.findByRole('combobox', { name: /The other task/ }), 'labels');
    await userEvent.click(await screen.findByRole('option', { name: /Labels hung/ }));
    expect(await screen.findByLabelText('What this would do')).toBeTruthy();
    await press('Add dependency');
    await waitFor(() =>
      expect(lastEdit(page)).toEqual({
        version: 3,
        after: [
          { taskId: idOf('t3'), type: 'SS', lag: 2 },
          { taskId: idOf('t2'), type: 'FS', lag: 0 },
        ],
      }),
    );
  });

  test('a loop is said before anything is saved', async () => {
    const page = await open('loops', { waitsFor, after });
    const message = 'These wait on each other: Signs set → Posts dug → Signs set. Remove one link.';
    page.network.answer('POST /tasks/t1/preview', 409, { code: 'waits-in-a-loop', message });
    await press('Edit dependency on Posts dug');
    await userEvent.clear(await screen.findByLabelText(/Lag in working days/));
    await userEvent.type(screen.getByLabelText(/Lag in working days/), '0');
    expect((await screen.findByRole('alert')).textContent).toBe(message);
    expect(screen.getByRole('button', { name: 'Save' }).hasAttribute('disabled')).toBe(true);
  });

  test('a dependency is taken away', async () => {
    const page = await open('unties', { waitsFor, after });
    await press('Edit dependency on Posts dug');
    await userEvent.click(await screen.findByRole('button', { name: 'Remove dependency' }));
    await waitFor(() => expect(lastEdit(page)).toEqual({ version: 3, after: [] }));
  });
});

describe('done outside', () => {
  const outside = {
    maker: 'Pane & Sons',
    turnaroundDays: 5,
    bufferDays: 2,
    neededOn: null,
    state: 'to-brief' as const,
    briefBy: '2026-11-20' as const,
  };

  test.each([
    [outside, 'brief was due Fri 20 Nov', true],
    [{ ...outside, briefBy: '2026-11-26' as const }, 'send the brief by Thu 26 Nov', false],
    [{ ...outside, state: 'making' as const }, 'being made', false],
  ])('%j', (part, text, isLate) => {
    expect(briefWords(part, '2026-11-23')).toEqual({ text, isLate });
  });

  test('is given a maker, how long they take and our buffer', async () => {
    const page = await open('makes');
    await press('Outside maker: none');
    await userEvent.type(await screen.findByLabelText('Outside maker'), 'Pane & Sons');
    await userEvent.clear(screen.getByLabelText('Turnaround, working days'));
    await userEvent.type(screen.getByLabelText('Turnaround, working days'), '6');
    expect(screen.getByText('The brief goes out 8 working days before it is needed.')).toBeTruthy();
    await press('Save');
    await waitFor(() =>
      expect(lastEdit(page)).toEqual({
        version: 3,
        outside: { maker: 'Pane & Sons', turnaroundDays: 6, bufferDays: 2, neededOn: null, state: 'to-brief' },
      }),
    );
  });

  test('comes back into the house', async () => {
    const page = await open('back', { outside });
    await press('Outside maker: Pane & Sons');
    await userEvent.click(await screen.findByRole('button', { name: 'Remove outside maker' }));
    await waitFor(() => expect(lastEdit(page)).toEqual({ version: 3, outside: null }));
  });
});

describe('gathering', () => {
  test('labels are words between commas, each once', async () => {
    expect(wordsTyped(' glass, room 2,, glass ')).toEqual(['glass', 'room 2']);
    const page = await open('labels', { labels: ['glass'] });
    await press('Labels: glass');
    const field = await screen.findByLabelText('Labels, separated by commas');
    await userEvent.type(field, ', room 2{Enter}');
    await waitFor(() => expect(lastEdit(page)).toEqual({ version: 3, labels: ['glass', 'room 2'] }));
  });

  test('a new deliverable is named where it is missed, and the task is for it', async () => {
    const page = await open('things');
    page.network.answer('POST /engagements/things/deliverables', 201, { id: 'd2' });
    await press(/Deliverable/);
    await userEvent.click(await screen.findByRole('option', { name: 'New deliverable…' }));
    await userEvent.type(await screen.findByLabelText('Name of the new deliverable'), 'Opening film{Enter}');
    await waitFor(() => expect(lastEdit(page)).toEqual({ version: 3, deliverableId: 'd2' }));
    expect(page.sent().find(({ request }) => request.endsWith('/deliverables'))?.body).toEqual({ name: 'Opening film' });
  });

  test('subtasks stand below with what they come to, and one more is typed', async () => {
    const page = await open('parts');
    page.network.answer('POST /engagements/parts/tasks', 201, taskSheet);
    page.network.answer('POST /engagements/parts/tasks/preview', 200, stillEffect);
    await userEvent.type(screen.getByLabelText('Add a subtask'), 'Pack the tools{Enter}');
    const group = await screen.findByRole('group', { name: 'Add Pack the tools' });
    expect(group.textContent).toContain('no longer count');
    expect(page.sent().some(({ request }) => request.endsWith('/tasks'))).toBe(false);
    await userEvent.click(within(group).getByRole('button', { name: 'Apply' }));
    await waitFor(() =>
      expect(page.sent().find(({ request }) => request.endsWith('/tasks'))?.body).toEqual({
        phaseId: planTask.phaseId,
        parentId: 't1',
        title: 'Pack the tools',
      }),
    );
  });

  test('what subtasks decide cannot be set by hand', async () => {
    await open('group', { isGroup: true, status: 'active' });
    expect(screen.getByText('Under way, as its subtasks are')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'the sum of its subtasks' }).hasAttribute('disabled')).toBe(true);
  });
});

test('days that are not those promised are said', async () => {
  await open('drift', { due: '2026-12-02', baselineStart: '2026-11-25', baselineDue: '2026-11-30' });
  expect(screen.getByText('Later than the baseline: 25 – 30 Nov')).toBeTruthy();
});

test('somebody with only their own tasks reads all this and changes none of it', async () => {
  await open('own', {}, { ...teo, access: 'freelancer' });
  const sheet = screen.getByRole('complementary', { name: 'Task' });
  expect(within(sheet).queryByRole('button', { name: 'New dependency…' })).toBeNull();
  expect(within(sheet).queryByLabelText('Add a subtask')).toBeNull();
});

describe('when', () => {
  test('a day that is not kept is the earliest, one that is kept is fixed', async () => {
    const page = await open('when');
    await press(/25 Nov/);
    const day = await screen.findByLabelText('First day');
    await userEvent.clear(day);
    await userEvent.type(day, '2 dec');
    expect(screen.getByText(/Starts Wed 2 Dec at the earliest/)).toBeTruthy();
    await userEvent.click(screen.getByText('Fix to this date'));
    expect(screen.getByText(/The planner never moves it/)).toBeTruthy();
    await press('Save');
    await waitFor(() => expect(lastEdit(page)).toEqual({ version: 3, fixedDay: '2026-12-02', notBefore: null }));
  });

  test('fixed to the day it has it is saved at once, like everything in its place', async () => {
    const page = await open('fixed');
    await press(/25 Nov/);
    await userEvent.click(await screen.findByText('Fix to this date'));
    await waitFor(() => expect(lastEdit(page)).toEqual({ version: 3, fixedDay: planTask.start, notBefore: null }));
  });

  test('what has begun says so, and only its length changes', async () => {
    await open('begun', { realStart: '2026-11-20', status: 'active' });
    await press(/25 Nov/);
    expect(await screen.findByText('Started on Fri 20 Nov.')).toBeTruthy();
    expect(screen.queryByLabelText('First day')).toBeNull();
  });
});
