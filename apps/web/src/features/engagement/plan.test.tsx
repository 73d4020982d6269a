import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EngagementPlan, PersonRef, WhoShouldDoIt } from '@crew/contract';
import { idOf } from '../../../test/ids.ts';
import { openScreen } from '../../../test/screen.tsx';
import { handoffSheet, plan, stillEffect, taskSheet, teo, odalys } from '../../../test/samples.ts';
import { PlanPage } from './PlanPage.tsx';

/** Each test opens an engagement of its own. */
const open = (id: string, more: Partial<EngagementPlan> = {}, { me = odalys, answers = {}, query = '' } = {}) =>
  openScreen(<PlanPage />, {
    path: '/engagements/:id',
    address: `/engagements/${id}${query}`,
    me,
    answers: {
      [`GET /engagements/${id}/plan`]: { ...plan, ...more, engagement: { ...plan.engagement, ...more.engagement, id } },
      ...answers,
    },
  });
const row = (title: string): HTMLElement => screen.getByRole('row', { name: title });
const titles = (): (string | null)[] => screen.queryAllByRole('row').map((line) => line.getAttribute('aria-label') ?? line.textContent);
const press = (name: string | RegExp): Promise<void> => userEvent.click(screen.getByRole('button', { name }));

test('a freelancer reads the plan of their own tasks, and changes only what doing them changes', async () => {
  const page = await open('own', {}, { me: { ...teo, access: 'freelancer' } });
  expect(screen.getByRole('banner').textContent).toContain('40 % of the effort of your tasks done');
  expect(screen.queryByText(/forecast/)).toBeNull();
  expect(screen.queryByRole('button', { name: 'Add task' })).toBeNull();
  const enabled = screen
    .getAllByRole<HTMLButtonElement>('button', { name: /^(Who does|When is|Effort of) / })
    .filter(({ disabled }) => !disabled);
  expect(enabled).toEqual([]);
  expect(screen.getAllByRole<HTMLButtonElement>('button', { name: /^Change the status of / }).every(({ disabled }) => !disabled)).toBe(
    true,
  );
  expect(page.network.asked.filter(({ path }) => path.includes('forecast'))).toEqual([]);
});

describe('the head', () => {
  test('says whose it is, where it stands and what it has used', async () => {
    await open('head');
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Seed vault wayfinding');
    expect(screen.getByRole('banner').textContent).toContain('Now: Being set');
    expect(screen.getByRole('banner').textContent).toContain('40 % of its effort done · 10 of 40 h used');
    expect(screen.getByRole('banner').textContent).toContain('plan finishes 15 Dec');
  });

  test('says when a phase waits to be picked up', async () => {
    const phases = plan.phases.map((phase) =>
      phase.id === 'p1' ? { ...phase, state: 'over' as const, baton: 'handed-off' as const } : phase,
    );
    await open('flying', { phases, engagement: { ...plan.engagement, phases } });
    expect(screen.getByText('Setting handed off, waiting to be picked up')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Open handoff of Setting' })).toBeTruthy();
  });

  test('what is one of several leads to all of them; other work can be let repeat', async () => {
    const item = async (name: RegExp): Promise<void> => {
      await press('More actions');
      await userEvent.click(await screen.findByRole('menuitem', { name }));
    };
    const template = { id: 'x1', name: 'Care visits', version: 1, newest: 1 };
    const one = await open('one', { engagement: { ...plan.engagement, template, series: { id: 's1', name: 'Monthly care' } } });
    await item(/Repeat this engagement|All of/);
    expect(one.address()).toBe('/engagements/repeating/s1');
    one.close();
    const other = await open('other', { engagement: { ...plan.engagement, template, series: null } });
    await item(/Repeat this engagement/);
    expect(other.address()).toBe('/engagements/repeating?show=start&name=Seed+vault+wayfinding&template=x1');
    other.close();
  });

  test('opens the handoff of what runs beside the plan', async () => {
    const page = await open('joint', {}, { answers: { 'GET /handoffs/h1': handoffSheet } });
    await press('Hand off Setting…');
    expect(page.address()).toBe('/engagements/joint?handoff=h1');
    expect(await screen.findByText('What goes along')).toBeTruthy();
  });

  test('lets a lead take a client’s yes, and nobody else', async () => {
    const engagement = { ...plan.engagement, state: 'proposal' as const };
    const page = await open('yes', { engagement });
    page.network.answer('POST /engagements/yes/accept', 200, { changeId: 'c1' });
    await press('Mark as accepted');
    expect(await screen.findByText('The proposal is now open work and counts in full.')).toBeTruthy();
    page.close();
    await open('no', { engagement }, { me: teo });
    expect(screen.queryByRole('button', { name: 'Mark as accepted' })).toBeNull();
  });
});

describe('the outline', () => {
  test('folds what is over, and opens it again', async () => {
    await open('folds');
    expect(screen.queryByRole('row', { name: 'Storyline' })).toBeNull();
    await press('Expand Concept');
    expect(row('Storyline')).toBeTruthy();
    await press('Collapse Concept');
    expect(screen.queryByRole('row', { name: 'Storyline' })).toBeNull();
  });

  test('says of each phase what is done and what its gate still wants', async () => {
    await open('phases');
    expect(screen.getByText('0 of 3 done · 25 % by effort · 9 Nov – 4 Dec')).toBeTruthy();
    expect(screen.getByText('starts when it is picked up · planned 7 – 15 Dec · 0 of 1 done')).toBeTruthy();
    expect(screen.getByText('round 1 of 2')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'gate: 1 of 3 clear' })).toBeTruthy();
  });

  test('says of each task who, when, how much and what matters next', async () => {
    await open('tasks');
    expect(row('Signs set').textContent).toBe('7Signs setInstaller25 – 30 Nov0 / 26 h');
    expect(row('Labels hung').textContent).toContain('after 7');
    expect(row('Posts dug').textContent).toContain('due 19 Nov ●');
    expect(row('Client looks').textContent).toContain('short 2 d');
    expect(within(row('Client looks')).getByRole('button', { name: 'Who does Client looks: client' })).toBeTruthy();
  });

  test('opens a task beside it', async () => {
    const page = await open('opens', {}, { answers: { 'GET /tasks/t2': { ...taskSheet, id: 't2', title: 'Labels hung' } } });
    await userEvent.click(screen.getByText('Labels hung'));
    expect(await screen.findByDisplayValue('Labels hung')).toBeTruthy();
    expect(page.address()).toBe('/engagements/opens?task=t2');
  });
});

describe('a new task', () => {
  test('shows what it would move, is added to the phase it was asked for, and goes again by undo', async () => {
    // The rules of the contract take no other ids than the API's.
    const phaseId = idOf('handover');
    const page = await open('adds', { phases: plan.phases.map((phase) => (phase.id === 'p2' ? { ...phase, id: phaseId } : phase)) });
    const later = { ...stillEffect, finish: { from: '2026-12-11', to: '2026-12-14' } };
    page.network.answer('POST /engagements/adds/tasks/preview', 200, later);
    page.network.answer('POST /engagements/adds/tasks', 201, {
      task: { ...taskSheet, title: 'Keys handed over' },
      effect: later,
      changeId: 'c1',
    });
    page.network.answer('POST /changes/c1/undo', 200, { changeId: 'c2', kept: [] });
    await userEvent.click(screen.getAllByRole('button', { name: 'Add task' })[1] as HTMLElement);
    await userEvent.type(screen.getByRole('textbox', { name: 'New task in Handover' }), 'Keys handed over');
    expect((await screen.findByLabelText('What this would do')).textContent).toContain('Finishes 14 Dec, was 11 Dec');
    await press('Add');
    expect(await screen.findByText('“Keys handed over” added. Finishes 14 Dec, was 11 Dec.')).toBeTruthy();
    await press('Undo');
    expect(await screen.findByText('Undone.')).toBeTruthy();
    expect(page.sent().filter(({ request }) => !request.endsWith('/preview'))).toEqual([
      { request: 'POST /engagements/adds/tasks', body: { phaseId, title: 'Keys handed over' } },
      { request: 'POST /changes/c1/undo', body: undefined },
    ]);
  });

  test('that is refused stays in the field with the reason', async () => {
    const page = await open('refused');
    await userEvent.click(screen.getAllByRole('button', { name: 'Add task' })[0] as HTMLElement);
    await userEvent.type(screen.getByRole('textbox', { name: 'New task in Setting' }), ' ');
    await press('Add');
    expect(await screen.findByText('Give the task a title.')).toBeTruthy();
    expect(page.sent().filter(({ request }) => !request.endsWith('/preview'))).toEqual([]);
    await press('Cancel');
    expect(screen.queryByRole('textbox', { name: 'New task in Setting' })).toBeNull();
  });
});

describe('in place', () => {
  const saved = (task: object) => ({ task: { ...taskSheet, ...task, version: 4 }, effect: stillEffect, changeId: 'c1' });

  test('a status is chosen from its glyph, waiting with what it waits on', async () => {
    const page = await open('status');
    page.network.answer('PATCH /tasks/t1', 200, saved({ status: 'waiting' }));
    await press('Change the status of Signs set');
    await userEvent.click(await screen.findByText('Waiting on a supplier'));
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 3, status: 'waiting', waitingOn: 'supplier' }));
  });

  test('who does it is chosen among the crew, who should do it first, with the reason', async () => {
    const crew = [
      { id: 'a', name: 'Anna Hill', initials: 'AH', roles: ['Writer'] },
      { id: 'b', name: 'Ben Orr', initials: 'BO', roles: ['Installer'] },
      { id: 'c', name: 'Cleo Ash', initials: 'CA', roles: ['Installer'] },
    ];
    const [, ben, cleo] = crew;
    const who: WhoShouldDoIt = {
      ...{ role: 'Installer', start: '2026-11-24', due: '2026-11-25', away: [cleo as PersonRef] },
      people: [
        {
          person: ben as PersonRef,
          freeMinutes: 180,
          neededMinutes: 720,
          isFull: false,
          knows: 'engagement',
          awayMinutes: 90,
          isAssigned: false,
        },
      ],
    };
    const page = await open('who', {}, { answers: { 'GET /crew': { people: crew, roles: [] }, 'GET /tasks/t1/who': who } });
    page.network.answer('PATCH /tasks/t1', 200, saved({}));
    await press('Who does Signs set: Installer');
    const options = await screen.findAllByRole('option');
    expect(options.map((option) => option.textContent)).toEqual([
      'Ben Orr3 h free afterwards, knows this work, away 1.5 h of it',
      'Anna HillWriter, not Installer',
      'Cleo Ashaway on all of its days',
    ]);
    await userEvent.click(options[0] as HTMLElement);
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 3, assigneeIds: ['b'] }));
  });

  test.each([
    ['1:30', 90],
    ['1,5', 90],
    ['90m', 90],
    ['', null],
  ])('effort is written as people write it: “%s”', async (text, minutes) => {
    const page = await open(`effort${minutes}${text.length}`);
    page.network.answer('PATCH /tasks/t1', 200, saved({}));
    await press('Effort of Signs set');
    const field = await screen.findByLabelText('Hours');
    await userEvent.clear(field);
    if (text !== '') await userEvent.type(field, text);
    await press('Save');
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 3, estimateMinutes: minutes }));
  });

  test('effort that is no number is told and not sent', async () => {
    const page = await open('words');
    await press('Effort of Signs set');
    await userEvent.type(await screen.findByLabelText('Hours'), ' or so');
    await press('Save');
    expect(await screen.findByText('Write hours as 1.5, 1:30 or 90m.')).toBeTruthy();
    expect(page.sent()).toEqual([]);
  });

  test('a length is tried on the plan before it counts, and then taken', async () => {
    const page = await open('when');
    const move = {
      ...{ id: 't2', number: 8, title: 'Labels hung' },
      from: { start: '2026-12-01', due: '2026-12-01' },
      to: { start: '2026-12-03', due: '2026-12-03' },
    };
    page.network.answer('POST /tasks/t1/preview', 200, { ...stillEffect, moves: [move] });
    page.network.answer('PATCH /tasks/t1', 200, saved({ days: 6 }));
    await press('When is Signs set');
    const days = await screen.findByLabelText('Working days');
    await userEvent.clear(days);
    await userEvent.type(days, '6');
    await userEvent.click(await screen.findByRole('button', { name: 'Apply' }));
    await waitFor(() => expect(page.sent().at(-1)).toEqual({ request: 'PATCH /tasks/t1', body: { version: 3, days: 6 } }));
    expect(page.sent().filter(({ request }) => request.startsWith('PATCH'))).toHaveLength(1);
  });
});

test('an engagement that is not there says so, and no row stands there', async () => {
  await openScreen(<PlanPage />, { path: '/engagements/:id', address: '/engagements/none', answers: {} });
  expect(screen.getByText('Nothing answers /engagements/none/plan here.')).toBeTruthy();
  expect(titles()).toEqual([]);
});
