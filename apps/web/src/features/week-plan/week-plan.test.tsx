import type { WeekPlan, WeekPlanTask } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { taskSheet } from '../../../test/samples.ts';
import { whoShould } from '../../../test/workload-samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { bandOf, withNames } from './bands.ts';
import { WeekPlanPage } from './WeekPlanPage.tsx';

const otto = { id: 'o2', name: 'Otto Brandt', initials: 'OB' };
const teo = { id: 'm1', name: 'Teo Marsh', initials: 'TM' };
const task = (id: string, title: string, more: Partial<WeekPlanTask> = {}): WeekPlanTask => ({
  ...{ id, title, engagementId: 'e1', due: '2026-11-26' },
  ...{ minutes: 120, hasEstimate: true, assigneeIds: ['o2'], isReady: true, plannedWeek: null, carried: 0, version: 4 },
  ...more,
});
const plan: WeekPlan = {
  ...{ thisWeek: '2026-11-23', nextWeek: '2026-11-30', until: '2026-12-06' },
  people: [
    { person: otto, roles: ['Installer'], capacity: [150, 2250], load: [180, 0] },
    { person: teo, roles: ['Installer'], capacity: [0, 1800], load: [0, 120] },
  ],
  engagements: [{ id: 'e1', name: 'Seed vault wayfinding', hue: 'leaf' }],
  everybody: [otto, teo],
  tasks: [
    task('q1', 'Posts dug', { plannedWeek: '2026-11-16', due: '2026-11-19', carried: 1 }),
    task('q2', 'Plan drawn', { assigneeIds: [], isReady: false }),
    task('q3', 'Signs set'),
    task('q4', 'Walls painted', { plannedWeek: '2026-11-23', minutes: 300, assigneeIds: ['o2', 'm1'] }),
    task('q5', 'Lamps hung', { plannedWeek: '2026-12-14', assigneeIds: ['m1'] }),
  ],
};

const open = (shown = plan, address = '/workload/week') =>
  openScreen(<WeekPlanPage />, {
    path: '/workload/week',
    address,
    answers: {
      'GET /week-plan': shown,
      'GET /tasks/q2/who': whoShould,
      'GET /crew': { people: whoShould.people.map(({ person }) => ({ ...person, roles: [] })), roles: [] },
      'POST /week-plan/places': { changeId: 'c1' },
      'POST /changes/c1/undo': { changeId: 'c2', kept: [] },
    },
  });
const titlesOf = (band: string): string[] =>
  within(screen.getByRole('grid', { name: band }))
    .queryAllByRole('row')
    .flatMap((row) => row.querySelector('b')?.textContent ?? []);

test('each task lies in one band: its week first, then whether somebody uses it', () => {
  expect(withNames(plan).tasks.map((each) => bandOf(each, plan))).toEqual(['left', 'nobody', 'unplaced', 'this', 'next']);
});

test('everybody’s hours are those of the workload, too many are marked', async () => {
  await open();
  const hours = screen.getByRole('region', { name: 'The team’s hours' });
  expect([...hours.querySelectorAll('small')].map((line) => line.textContent)).toEqual(['3 of 2.5 h', '0 of 37.5 h', 'away', '2 of 30 h']);
});

test('bands say what they hold, in tasks and hours, against the hours there are', async () => {
  await open();
  const words = (band: string): string | null => screen.getByRole('region', { name: band }).querySelector('header')?.textContent ?? null;
  expect(words('This week')).toBe('This week1 task · 5 h of 2.5 h available2.5 h more than available');
  expect(words('Not placed yet')).toBe('Not placed yet1 task · 2 h · what starts by 6 Dec, or a week later if nothing blocks it');
  expect(titlesOf('Next week')).toEqual(['Lamps hung']);
  expect(screen.getByRole('region', { name: 'The team’s hours' }).textContent).toContain('away');
});

test('a task is put into this week by its menu, and goes back by undo', async () => {
  const page = await open();
  await userEvent.click(screen.getByRole('button', { name: 'Place Signs set' }));
  expect((await screen.findAllByRole('menuitem')).map((item) => item.textContent)).toEqual(['This week', 'Next week']);
  await userEvent.click(screen.getByRole('menuitem', { name: 'This week' }));
  const notice = await screen.findByText('1 task for this week. Dates stay.');
  expect(page.sent()[0]?.body).toEqual({ tasks: [{ taskId: 'q3', week: '2026-11-23' }] });
  await userEvent.click(within(notice.parentElement as HTMLElement).getByRole('button', { name: /Undo/ }));
  await waitFor(() => expect(page.sent()[1]?.request).toBe('POST /changes/c1/undo'));
});

test('what is left over is carried into this week in one step, and says how often it was', async () => {
  const page = await open();
  expect(screen.getByText(/carried 1 ×/)).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Carry all into this week' }));
  await waitFor(() => expect(page.sent()[0]?.body).toEqual({ tasks: [{ taskId: 'q1', week: '2026-11-23' }] }));
});

test('with nothing left over there is no such band', async () => {
  await open({ ...plan, tasks: plan.tasks.slice(1) });
  expect(screen.queryByRole('region', { name: 'Carried over' })).toBeNull();
});

test('work nobody has is given in place, with the reason', async () => {
  const page = await open();
  page.network.answer('PATCH /tasks/q2', 200, { task: { ...taskSheet, id: 'q2' }, effect: null, changeId: null });
  await userEvent.click(screen.getByRole('button', { name: 'Who does Plan drawn: unassigned' }));
  await userEvent.click(await screen.findByRole('option', { name: /Teo Marsh/ }));
  await waitFor(() => expect(page.sent()[0]).toEqual({ request: 'PATCH /tasks/q2', body: { version: 4, assigneeIds: ['m1'] } }));
});

test('one person’s work is shown with what nobody has, and the address says whose', async () => {
  const page = await open();
  await userEvent.click(screen.getByRole('button', { name: /Person/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'Teo Marsh' }));
  expect(page.address()).toBe('/workload/week?who=m1');
  expect([titlesOf('Not placed yet'), titlesOf('Unassigned')]).toEqual([[], ['Plan drawn']]);
});

test('what cannot be placed is told', async () => {
  const page = await open();
  page.network.answer('POST /week-plan/places', 409, { code: 'wrong-moment', message: '“Signs set” is over.' });
  await userEvent.click(screen.getByRole('button', { name: 'Place Signs set' }));
  await userEvent.click(await screen.findByRole('menuitem', { name: 'Next week' }));
  expect(await screen.findByText('“Signs set” is over.')).toBeTruthy();
});

test('several are chosen by their boxes, and the menu of one of them places all', async () => {
  const page = await open({ ...plan, tasks: [...plan.tasks, task('q6', 'Rails cut'), task('q7', 'Caps fitted')] });
  for (const title of ['Signs set', 'Caps fitted'])
    await userEvent.click(screen.getByRole('checkbox', { name: new RegExp(`^Choose ${title}`) }));
  await userEvent.click(screen.getByRole('button', { name: 'Place Caps fitted' }));
  await userEvent.click(await screen.findByRole('menuitem', { name: 'This week' }));
  const [sent] = page.sent();
  expect(sent?.body).toMatchObject({ tasks: [{ taskId: 'q3' }, { taskId: 'q7' }] });
});
