import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { WayOut } from '@crew/contract';
import { idOf } from '../../../test/ids.ts';
import { odalys, plan, stillEffect, teo } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { WaysOut } from './WaysOut.tsx';

const engagement = { id: 'e1', name: 'Seed vault wayfinding' };
const [first] = plan.tasks as [(typeof plan.tasks)[number]];
const loop: WayOut = {
  ...{ id: idOf('w1'), taskId: idOf('t9'), ending: null, reason: 'changes wanted' },
  to: { id: first.id, number: first.number, title: first.title },
};
const ending: WayOut = { id: idOf('w2'), taskId: idOf('t9'), to: null, ending: 'Not a fit', reason: 'they look for something else' };

const open = (ways: readonly WayOut[], me = odalys) =>
  openScreen(<WaysOut ways={ways} engagement={engagement} />, {
    path: '/',
    address: '/',
    me,
    answers: {
      'GET /engagements/e1/plan': { ...plan, phases: plan.phases.map((phase) => ({ ...phase, round: 2, rounds: 2 })) },
      'POST /engagements/e1/rounds/preview': stillEffect,
    },
  });

test('a loop says which round it would be and that it is more than agreed, and is undone from its notice', async () => {
  const page = await open([loop]);
  await userEvent.click(screen.getByRole('button', { name: `Another round from “${first.title}”…` }));
  expect((await screen.findByText('Round 3 of 2')).parentElement?.textContent).toContain('more than was agreed with the client');
  page.network.answer('POST /engagements/e1/rounds', 200, { changeId: 'c1', effect: stillEffect });
  await userEvent.click(await screen.findByRole('button', { name: 'Start round 3' }));
  await screen.findByText(/^Round 3 of .* has started\. No tasks moved\.$/);
  expect(page.sent().at(-1)).toEqual({ request: 'POST /engagements/e1/rounds', body: { taskId: loop.taskId, wayId: loop.id } });
  page.network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(page.sent().at(-1)?.request).toBe('POST /changes/c1/undo'));
});

test('who does not lead asks the lead about a round beyond those agreed', async () => {
  const page = await open([loop], teo);
  await userEvent.click(screen.getByRole('button', { name: `Another round from “${first.title}”…` }));
  expect((await screen.findByText('Round 3 of 2')).parentElement?.textContent).toContain('The lead decides about it.');
  page.network.answer('POST /engagements/e1/rounds', 200, { changeId: 'c1', effect: stillEffect });
  await userEvent.click(await screen.findByRole('button', { name: 'Ask the lead about round 3' }));
  await screen.findByText(/^The lead has a task to decide about round 3\./);
  expect(page.sent().at(-1)?.body).toEqual({ taskId: loop.taskId, wayId: loop.id, askLead: true });
});

test('an ending closes the engagement by its name, with its reason to be changed', async () => {
  const page = await open([ending]);
  await userEvent.click(screen.getByRole('button', { name: 'Close: Not a fit…' }));
  const reason = await screen.findByRole<HTMLInputElement>('textbox', { name: 'Why' });
  expect(reason.value).toBe('they look for something else');
  page.network.answer('POST /engagements/e1/drop', 200, { version: 2 });
  const close = screen.getByRole<HTMLButtonElement>('button', { name: 'Close engagement' });
  await waitFor(() => expect(close.disabled).toBe(false));
  await userEvent.click(close);
  await screen.findByText(/is closed/);
  expect(page.sent().at(-1)?.body).toEqual({ version: 1, reason: 'they look for something else', ending: 'Not a fit' });
});

test('who does not lead is offered the loop and no ending', async () => {
  await open([loop, ending], teo);
  const offered = screen.getAllByRole('button', { name: /^(Another round|Close:)/ }).map((button) => button.textContent);
  expect(offered).toEqual([`Another round from “${first.title}”…`]);
});
