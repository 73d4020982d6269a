import type { EaseView, WorkloadTask } from '@crew/contract';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openScreen } from '../../../test/screen.tsx';
import { ease, plansTried, whoShould, workload } from '../../../test/workload-samples.ts';
import { WorkloadPage } from './WorkloadPage.tsx';

const open = (address = '/workload', shown = workload, easing: EaseView = ease) =>
  openScreen(<WorkloadPage />, {
    path: '/workload',
    address,
    answers: {
      'GET /workload…': shown,
      'GET /workload/ease…': easing,
      'GET /tasks/t9/who': whoShould,
      'POST /workload/changes/preview': plansTried,
      'POST /workload/changes': { ...plansTried, changeId: 'c1' },
    },
  });
const rowOf = (name: string): HTMLElement =>
  screen.getByRole('button', { name: `${name}: see the tasks behind` }).closest('[data-row-of]') as HTMLElement;
const shownPeople = (): (string | null)[] =>
  screen.queryAllByRole('button', { name: /see the tasks behind/ }).map((button) => button.getAttribute('aria-label'));

describe('the grid', () => {
  test('says who is over and who has room, from today on', async () => {
    await open();
    expect(rowOf('Otto Brandt').textContent).toContain('108 %2.5 h over');
    expect(rowOf('Teo Marsh').textContent).toContain('20 %30 h free');
  });

  test('reads each row aloud: planned, open, and where it is too much', async () => {
    await open();
    expect(
      screen.getByRole('img', { name: 'Otto Brandt: 32.5 h planned of 30 h available; 2.5 h over: Wed 25 Nov by 2.5 h' }).textContent,
    ).toBe('');
    expect(screen.getByRole('img', { name: 'Teo Marsh: 7.5 h planned of 37.5 h available; nothing is over' })).toBeTruthy();
  });

  test('of very much that nobody has the first to begin are drawn, the rest when asked for', async () => {
    const [one] = workload.unassigned;
    const many = Array.from({ length: 90 }, (_, index): WorkloadTask => ({
      ...one!,
      id: `n${index}`,
      title: `Ticket ${90 - index}`,
      start: index < 10 ? '2026-11-27' : '2026-11-24',
      due: '2026-11-27',
    }));
    await open('/workload', { ...workload, unassigned: many });
    const tickets = (): number => screen.getAllByRole('button', { name: /^Move or reassign Ticket/ }).length;
    expect(tickets()).toBe(80);
    expect(screen.queryByRole('button', { name: /^Move or reassign Ticket 90,/ })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'The first 80 are here: show all' }));
    expect(tickets()).toBe(90);
  });

  test('shows what nobody has, as something to give', async () => {
    await open();
    expect(screen.getByText('1 task · 12 h, drop on a person')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Move or reassign Plan drawn, Seed vault wayfinding, 24 – 25 Nov, 12 h' })).toBeTruthy();
  });

  test('with everything given says so', async () => {
    await open('/workload', { ...workload, unassigned: [] });
    expect(screen.getByText('everything is assigned')).toBeTruthy();
  });

  test('tells which effort was guessed, and names it', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: '1 task with no estimate counted at 4 h' }));
    expect(page.address()).toBe('/workload?show=unestimated');
    const sheet = screen.getByRole('complementary', { name: 'No estimate' });
    expect(within(sheet).getByRole('link', { name: 'Posts dug' }).getAttribute('href')).toBe('/engagements/e1?task=t2');
  });
});

describe('one person', () => {
  test('opens to the tasks behind, and the address says who', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: /^Otto Brandt: see/ }));
    expect(page.address()).toBe('/workload?person=o2');
    const sheet = await screen.findByRole('complementary', { name: 'Otto Brandt' });
    expect(await within(sheet).findByText(/^2.5 h over across 1 day/)).toBeTruthy();
    expect(within(sheet).getByText('was due Thu 19 Nov')).toBeTruthy();
    expect(within(sheet).getByRole('link', { name: 'Signs set' }).getAttribute('href')).toBe('/engagements/e1?task=t1');
    expect(screen.getByRole('button', { name: /^Move or reassign Signs set/ })).toBeTruthy();
  });

  test('with nothing planned says so, and closes', async () => {
    const page = await open('/workload?person=m1', workload, {
      ...ease,
      person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' },
      over: 0,
      proposals: [],
    });
    expect(await screen.findByText('Not over capacity in these weeks.')).toBeTruthy();
    expect(screen.getByText('No task is planned here.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Close sheet' }));
    expect(page.address()).toBe('/workload');
  });
});

describe('easing a load', () => {
  const proposals = () => screen.findAllByRole('checkbox');

  test('offers what could be done, why, and what it costs', async () => {
    await open('/workload?person=o2');
    expect((await proposals()).map((box) => box.closest('label')?.textContent)).toEqual([
      'Reassign “Signs set” to Teo Marsh−2.5 hExhibit designer · 22.5 h free in those days · knows the client',
      'Delay “Signs set” 3 days−2 hits slack is 2 days: the promise of Seed vault wayfinding, Fri 18 Dec, is at risk; due Tue 1 Dec',
      'Split “Posts dug” with Teo Marsh−1 hOtto keeps 5 h and passes on 1.5 h; 10 h free in those days',
    ]);
    expect((screen.getByRole('button', { name: 'Choose what to apply' }) as HTMLButtonElement).disabled).toBe(true);
  });

  test('shows before and after of all that is chosen, and takes it in one step', async () => {
    const page = await open('/workload?person=o2');
    const [give, , split] = (await proposals()) as [HTMLElement, HTMLElement, HTMLElement];
    await userEvent.click(give);
    await userEvent.click(split);
    expect(await screen.findByText('Otto, busiest day')).toBeTruthy();
    expect(screen.getByText('Otto, busiest day').nextElementSibling?.textContent).toBe('133 %100 %');
    expect(screen.getByText(/No other task moves, no promise is missed/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Apply 2 changes' }));
    expect(await screen.findByText('2 changes applied for Otto.')).toBeTruthy();
    const taken = page.sent().find(({ request }) => request === 'POST /workload/changes');
    expect(taken?.body).toEqual({
      parts: [{ engagementId: 'e1', tasks: [ease.proposals[0]?.change, ease.proposals[2]?.change] }],
      from: '2026-11-23',
      to: '2026-11-29',
    });
  });

  test('takes one proposal a task: another for the same one puts the first back', async () => {
    await open('/workload?person=o2');
    const [give, slip] = (await proposals()) as [HTMLInputElement, HTMLInputElement];
    await userEvent.click(give);
    await userEvent.click(slip);
    expect([give.checked, slip.checked]).toEqual([false, true]);
  });

  test('where nothing helps it says why', async () => {
    await open('/workload?person=o2', workload, { ...ease, proposals: [] });
    expect(await screen.findByText(/^Nothing helps without overloading somebody else/)).toBeTruthy();
  });
});

describe('giving a task away', () => {
  test('names who should do it with the reason, shows what follows, and takes it', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: /^Move or reassign Plan drawn/ }));
    const sheet = screen.getByRole('complementary', { name: 'Move or reassign Plan drawn' });
    expect(within(sheet).getByText(/nothing is saved until you apply it/)).toBeTruthy();
    await userEvent.click(within(sheet).getByRole('button', { name: /Who does it/ }));
    expect((await screen.findAllByRole('option')).map((option) => option.textContent)).toEqual([
      'Teo Marsh3 h free afterwards, knows the client',
      'Otto Brandtwould be 14.5 h over',
      'Unassigned',
    ]);
    await userEvent.click(screen.getByRole('option', { name: /Teo Marsh/ }));
    expect(await within(sheet).findByText('Teo, busiest day')).toBeTruthy();
    await userEvent.click(within(sheet).getByRole('button', { name: 'Apply' }));
    expect(await screen.findByText('“Plan drawn” goes to Teo Marsh.')).toBeTruthy();
    const taken = page.sent().find(({ request }) => request === 'POST /workload/changes');
    expect(taken?.body).toMatchObject({ parts: [{ engagementId: 'e1', tasks: [{ id: 't9', version: 3, assigneeIds: ['m1'] }] }] });
    expect(screen.queryByRole('complementary')).toBeNull();
  });

  test('what cannot be done is said, and nothing is taken', async () => {
    const page = await open();
    page.network.answer('POST /workload/changes/preview', 409, { code: 'changed-meanwhile', message: 'Somebody changed it since.' });
    await userEvent.click(screen.getByRole('button', { name: /^Move or reassign Plan drawn/ }));
    const day = screen.getByLabelText('Starts on');
    await userEvent.clear(day);
    await userEvent.type(day, '26 Nov');
    expect(await screen.findByText('Somebody changed it since.')).toBeTruthy();
    expect((screen.getByRole('button', { name: 'Apply' }) as HTMLButtonElement).disabled).toBe(true);
    await userEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(screen.queryByRole('complementary')).toBeNull();
  });
});

describe('what is shown', () => {
  test('only those of a role, kept in the address', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: /Role/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'Exhibit designer' }));
    expect(shownPeople()).toEqual(['Teo Marsh: see the tasks behind']);
    expect(page.address()).toBe('/workload?role=Exhibit+designer');
    await userEvent.click(screen.getByRole('button', { name: /Role/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'All roles' }));
    expect(shownPeople()).toHaveLength(2);
  });

  test('a role nobody holds says so', async () => {
    await open('/workload?role=Gilder');
    expect(screen.getByText('Nobody holds this role.')).toBeTruthy();
  });

  test.each([
    ['a week later by its button', () => userEvent.click(screen.getByRole('button', { name: 'A week later' })), '2026-11-30', '2026-12-20'],
    [
      'a week earlier by its button',
      () => userEvent.click(screen.getByRole('button', { name: 'A week earlier' })),
      '2026-11-16',
      '2026-12-06',
    ],
    ['a week later by key', () => userEvent.keyboard(']'), '2026-11-30', '2026-12-20'],
    ['a week earlier by key', () => userEvent.keyboard('[['), '2026-11-16', '2026-12-06'],
  ])('%s', async (_way, go, from, to) => {
    const page = await open();
    await go();
    expect(page.address()).toBe(`/workload?from=${from}`);
    expect(page.network.asked.map(({ path }) => path)).toContain(`/workload?from=${from}&to=${to}`);
  });

  test('weeks instead of days, as far as asked', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('radio', { name: 'Weeks' }));
    expect(page.network.asked.at(-1)?.path).toBe('/workload?from=2026-11-23&to=2027-02-21');
    await userEvent.click(screen.getByRole('button', { name: /Period/ }));
    await userEvent.click(await screen.findByRole('option', { name: '26 weeks' }));
    expect(page.address()).toBe('/workload?view=weeks&weeks=26');
    expect(screen.getByRole('group', { name: 'Hours by person and week' })).toBeTruthy();
  });

  test('only one person', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: /^Everybody/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'Teo Marsh' }));
    expect(shownPeople()).toEqual(['Teo Marsh: see the tasks behind']);
    expect(page.address()).toBe('/workload?only=m1');
  });
});

test('an address with a day that is none shows this week', async () => {
  await open('/workload?from=2026-13-01');
  expect(shownPeople()).toHaveLength(2);
});

test('what cannot be read is told', async () => {
  await openScreen(<WorkloadPage />, { path: '/workload', address: '/workload?from=2031-01-06', answers: {} });
  expect(screen.getByText(/^Nothing answers \/workload/)).toBeTruthy();
});
