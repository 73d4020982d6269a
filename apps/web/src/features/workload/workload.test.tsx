import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openScreen } from '../../../test/screen.tsx';
import { workload } from '../../../test/samples.ts';
import { WorkloadPage } from './WorkloadPage.tsx';

const open = (address = '/workload', shown = workload) =>
  openScreen(<WorkloadPage />, { path: '/workload', address, answers: { 'GET /workload': shown } });
const rowOf = (name: string): HTMLElement =>
  screen.getByRole('button', { name: `${name}: see the tasks behind` }).parentElement as HTMLElement;
const shownPeople = (): (string | null)[] =>
  screen.queryAllByRole('button', { name: /see the tasks behind/ }).map((button) => button.getAttribute('aria-label'));

describe('the grid', () => {
  test('says who is over and who has room, from today on', async () => {
    await open();
    expect(rowOf('Otto Brandt').textContent).toContain('108 %2.5 h over');
    expect(rowOf('Teo Marsh').textContent).toContain('20 %30 h free');
  });

  test('says of every day what is planned of what is open, and how much too much', async () => {
    await open();
    const day = screen.getByRole('img', { name: 'Wed 25 Nov: 10 h planned of 7.5 h open' });
    expect(day.textContent).toBe('+2.5');
    expect(within(rowOf('Otto Brandt')).getByTitle('Fri 27 Nov: 0 h planned of 0 h open, time off')).toBeTruthy();
  });

  test('leaves the weekend out unless somebody works then', async () => {
    const { close } = await open();
    expect(screen.queryByTitle('Sat 28 Nov')).toBeNull();
    close();
    const [first, ...others] = workload.rows;
    const days = first?.days.map((day) => (day.date === '2026-11-28' ? { ...day, load: 60, over: 60 } : day)) ?? [];
    await open('/workload', { ...workload, rows: [{ ...first, days } as (typeof workload.rows)[number], ...others] });
    expect(screen.getAllByTitle('Sat 28 Nov')).toHaveLength(1);
    expect(screen.queryByTitle('Sun 29 Nov')).toBeNull();
  });

  test('shows what nobody has on its days, as a way to the task', async () => {
    await open();
    expect(screen.getByText('1 task · 12 h')).toBeTruthy();
    const ticket = screen.getByRole('link', { name: 'Plan drawn, Seed vault wayfinding, 12 h' });
    expect(ticket.getAttribute('href')).toBe('/engagements/e1?task=t9');
    expect(ticket.style.left).toBe('20%');
    expect(ticket.style.width).toBe('40%');
  });

  test('with everything given says so', async () => {
    await open('/workload', { ...workload, unassigned: [] });
    expect(screen.getByText('everything has somebody')).toBeTruthy();
  });

  test('tells which effort was guessed', async () => {
    await open();
    expect(screen.getByText('23 – 29 Nov · 2 of 2 crew · 2 tasks with no estimate counted at 4 h')).toBeTruthy();
  });
});

describe('one person', () => {
  test('opens to the tasks behind, and the address says who', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: /^Otto Brandt/ }));
    expect(page.address()).toBe('/workload?person=o2');
    expect(screen.getByText('2.5 h over on 1 day, first Wed 25 Nov.')).toBeTruthy();
    expect(screen.getByText('was due Thu 19 Nov')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Signs set' }).getAttribute('href')).toBe('/engagements/e1?task=t1');
  });

  test('with nothing planned says so, and closes', async () => {
    const page = await open('/workload?person=m1');
    expect(screen.getByText('Nothing is over in these weeks.')).toBeTruthy();
    expect(screen.getByText('No task is planned here.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Close sheet' }));
    expect(page.address()).toBe('/workload');
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
});

test('an address with a day that is none shows this week', async () => {
  await open('/workload?from=2026-13-01');
  expect(shownPeople()).toHaveLength(2);
});

test('what cannot be read is told', async () => {
  await openScreen(<WorkloadPage />, { path: '/workload', address: '/workload?from=2031-01-06', answers: {} });
  expect(screen.getByText(/^Nothing answers \/workload/)).toBeTruthy();
});
