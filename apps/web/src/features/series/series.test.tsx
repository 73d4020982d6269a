import type { SeriesView } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { idOf } from '../../../test/ids.ts';
import { odalys, teo } from '../../../test/samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { care, line, rhythmTried } from '../../../test/series-samples.ts';
import { SeriesListPage } from './SeriesListPage.tsx';
import { SeriesPage } from './SeriesPage.tsx';

const calendar = { week: [450, 450, 450, 450, 450, 0, 0], closed: [] };
const crew = {
  roles: [],
  people: [{ id: 'o2', name: 'Otto Brandt', initials: 'OB', access: 'member', roleIds: ['r1'], roles: ['Writer'], week: [] }],
};
const openOne = (series: SeriesView = line, show = '', me = odalys) =>
  openScreen(<SeriesPage />, {
    ...{ path: '/engagements/repeating/:id', address: `/engagements/repeating/${series.id}${show}`, me },
    answers: {
      [`GET /series/${series.id}`]: series,
      [`PATCH /series/${series.id}`]: { ...series, version: series.version + 1 },
      [`POST /series/${series.id}/stop`]: { ...series, version: series.version + 1 },
      [`POST /series/${series.id}/resume`]: { ...series, version: series.version + 2 },
      [`POST /series/${series.id}/rhythms/preview`]: rhythmTried,
      [`POST /series/${series.id}/rhythms`]: { series: { ...series, version: series.version + 1 }, removed: 1, made: 4 },
      [`POST /series/${series.id}/rhythms/cancel`]: series,
      'GET /calendar': calendar,
      'GET /crew': crew,
      'POST /rhythms/preview': { days: [] },
    },
  });
const openList = (series: readonly SeriesView[], tasks: readonly object[] = [], address = '/engagements/repeating') =>
  openScreen(<SeriesListPage />, {
    ...{ path: '/engagements/repeating', address },
    answers: {
      'GET /series': series,
      'GET /task-series': tasks,
      'GET /clients': [{ id: idOf('c1'), name: 'Pellworth Tram Museum' }],
      'GET /templates': [
        { id: idOf('x1'), kind: 'engagement', name: 'Care visits' },
        { id: 'x2', kind: 'phase', name: 'Close-out' },
      ],
      'POST /rhythms/preview': { days: [{ day: '2026-11-30', on: '2026-11-30', each: 1 }] },
      'POST /series': { ...care, id: 's9' },
    },
  });
const press = (name: string | RegExp): Promise<void> => userEvent.click(screen.getByRole('button', { name }));
const rowOf = (name: string): string => screen.getByText(name).closest('li')?.textContent ?? '';

describe('all that repeats', () => {
  test('a row says how it goes and how often, and leads to the series', async () => {
    await openList([line, care]);
    expect(rowOf('Talk kits')).toContain('1 under way, 1 ahead1 a week');
    expect(rowOf('Monthly care')).toContain('4.5 of 10 h lefton the 20th of each month');
    expect(screen.getByRole('link', { name: 'Talk kits' }).getAttribute('href')).toBe('/engagements/repeating/s1');
  });

  test('tasks that repeat stand below, each a way to its next one', async () => {
    const task = {
      id: 'ts1',
      title: 'Call',
      engagement: { id: 'e1', name: 'Seed vault', client: line.client },
      stoppedOn: null,
      assignees: [],
    };
    await openList([line], [{ ...task, rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', taskId: 't9', next: '2026-12-08' }]);
    expect(rowOf('Call')).toContain('Every second Tuesdaynext Tue 8 Dec');
    expect(screen.getByRole('link', { name: 'Call' }).getAttribute('href')).toBe('/engagements/e1?task=t9');
  });

  test('where nothing repeats it says what belongs here', async () => {
    await openList([]);
    expect(screen.getByText('Nothing repeats yet.')).toBeTruthy();
  });

  test('something is let repeat with its hours; nothing is sent before all of it is there', async () => {
    const page = await openList([], [], '/engagements/repeating?show=start');
    const sheet = within(screen.getByRole('complementary', { name: 'New repeating work' }));
    const go = (): HTMLElement => sheet.getByRole('button', { name: 'Start repeating' });
    await userEvent.click(go());
    expect(await sheet.findByText('Choose the client.')).toBeTruthy();
    expect(page.sent().filter(({ request }) => request === 'POST /series')).toEqual([]);
    await userEvent.type(sheet.getByRole('textbox', { name: 'Name' }), 'Harbour care');
    await userEvent.click(sheet.getByRole('button', { name: /Client/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'Pellworth Tram Museum' }));
    await userEvent.click(sheet.getByRole('button', { name: /Template/ }));
    expect(screen.getAllByRole('option').map((option) => option.textContent)).toEqual(['Care visits']);
    await userEvent.click(await screen.findByRole('option', { name: 'Care visits' }));
    await userEvent.type(sheet.getByRole('textbox', { name: 'Agreed hours each' }), 'eight');
    await userEvent.click(go());
    expect(await sheet.findByText('Write hours as 1.5, 1:30 or 90m.')).toBeTruthy();
    await userEvent.clear(sheet.getByRole('textbox', { name: 'Agreed hours each' }));
    await userEvent.type(sheet.getByRole('textbox', { name: 'Agreed hours each' }), '7:30');
    await userEvent.click(go());
    await waitFor(() => expect(page.address()).toBe('/engagements/repeating/s9'));
    expect(page.sent().find(({ request }) => request === 'POST /series')?.body).toEqual({
      ...{
        kind: 'repeating',
        name: 'Harbour care',
        unitName: 'Harbour care, {month}',
        clientId: idOf('c1'),
        templateId: idOf('x1'),
        firstDay: '2026-11-30',
      },
      ...{ places: 'start', rule: 'FREQ=WEEKLY;BYDAY=MO', onClosed: 'after', retainerMinutes: 450, carry: 'none' },
    });
  });
});

describe('one series', () => {
  test('each of it with where it stands, what is to come, and what is over', async () => {
    await openOne();
    expect(rowOf('Kit 2')).toContain('Script, 40 % of its effort, 2 days late4 of 10 h used');
    expect(rowOf('Kit 3')).toContain('starts Mon 7 Dec');
    expect(rowOf('One more')).toContain('Mon 4 Jan 2027in place of Mon 28 Dec');
    expect(within(screen.getByRole('list', { name: 'Over' })).getByText('Kit 1')).toBeTruthy();
  });

  test('agreed hours are said period by period, carried and over', async () => {
    await openOne(care);
    expect(rowOf('Care, November')).toContain('4.5 of 10 h left, 2 h carried in');
    expect(rowOf('Care, October')).toContain('1 h over 8 h');
    expect(screen.getByRole('img', { name: 'Care, October: 9 h used of 8 h; Care, November: 5.5 h used of 10 h' })).toBeTruthy();
    expect(screen.getByRole('button', { name: '8 h; unused hours carry into the next period, then expire' })).toBeTruthy();
  });

  test('one is left out, and the notice takes it in again', async () => {
    const page = await openOne();
    await press('Skip Kit 3');
    await screen.findByText('Mon 7 Dec skipped.');
    await press('Undo');
    await screen.findByText('Undone.');
    expect(page.sent().map(({ body }) => body)).toEqual([
      { version: 4, skipped: ['2026-12-07'] },
      { version: 5, skipped: [] },
    ]);
  });

  test('stopping it says what stays, and can be undone', async () => {
    const page = await openOne();
    await press('Stop');
    await screen.findByText(/upcoming ones not yet started are removed/);
    await press('Undo');
    await waitFor(() => expect(page.sent().map(({ request }) => request)).toEqual(['POST /series/s1/stop', 'POST /series/s1/resume']));
  });

  test('somebody else is chosen for those to come', async () => {
    const page = await openOne();
    await userEvent.click(screen.getByRole('button', { name: /Writer/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'Unassigned' }));
    await screen.findByText('Nobody is Writer of upcoming ones.');
    expect(page.sent()[0]?.body).toEqual({ version: 4, roles: [{ roleId: 'r1', personId: null }] });
  });

  test('a member sees it and has nothing to press', async () => {
    await openOne(line, '?show=pace', teo);
    expect(screen.queryByRole('button', { name: /Leave out|Stop it|Change/ })).toBeNull();
    expect(screen.queryByRole('complementary')).toBeNull();
  });
});

describe('another pace', () => {
  const sheet = () => within(screen.getByRole('complementary', { name: 'Change pace' }));
  const faster = async (): Promise<void> => {
    const field = sheet().getByRole('textbox', { name: 'How many' });
    await userEvent.clear(field);
    await userEvent.type(field, '3');
  };

  test('nothing is asked of the pace there is', async () => {
    const page = await openOne(line, '?show=pace');
    expect(sheet().getByText(/^Now it is 1 a week/)).toBeTruthy();
    expect(page.sent()).toEqual([]);
  });

  test('its cost by role is shown before anybody says yes, with the week from which there is room', async () => {
    const page = await openOne(line, '?show=pace');
    await faster();
    const writer = (await sheet().findByRole('button', { name: 'Writer' })).closest('tr')?.textContent;
    expect(writer).toBe('Writer8.5 h25.5 h15 h');
    expect(sheet().getByRole('button', { name: 'Client manager' }).closest('tr')?.textContent).toContain('nobody holds it');
    expect(sheet().getByText(/too much for Otto \(1.5 h in 12 weeks\)/)).toBeTruthy();
    expect(page.sent().at(-1)?.body).toEqual({ from: '2026-11-30', rule: 'FREQ=WEEKLY;BYDAY=MO,WE,FR', each: 1 });
    await userEvent.click(sheet().getByRole('button', { name: 'From Mon 11 Jan 2027' }));
    await waitFor(() => expect(page.sent().at(-1)?.body).toMatchObject({ from: '2027-01-11' }));
  });

  test('choosing days makes the number, and a number beyond the days comes so many at a time', async () => {
    await openOne(line, '?show=pace');
    await userEvent.click(sheet().getByRole('button', { name: 'Tuesday' }));
    expect(sheet().getByRole<HTMLInputElement>('textbox', { name: 'How many' }).value).toBe('2');
    const field = sheet().getByRole('textbox', { name: 'How many' });
    await userEvent.clear(field);
    await userEvent.type(field, '6');
    expect(sheet().getByText('2 at a time')).toBeTruthy();
  });

  test('it is taken with one press, told, and taken back from the notice', async () => {
    const page = await openOne(line, '?show=pace');
    await faster();
    await sheet().findByRole('button', { name: 'Writer' });
    await userEvent.click(sheet().getByRole('button', { name: 'Apply: 3 a week from Mon 30 Nov' }));
    await screen.findByText(/3 a week from Mon 30 Nov. 1 one not yet started removed, 4 created in advance/);
    const notice = screen.getByText(/4 created in advance/).parentElement as HTMLElement;
    await userEvent.click(within(notice).getByRole('button', { name: 'Undo' }));
    const done = () => page.sent().filter(({ request }) => !request.endsWith('preview'));
    await waitFor(() =>
      expect(done()).toEqual([
        { request: 'POST /series/s1/rhythms', body: { version: 4, from: '2026-11-30', rule: 'FREQ=WEEKLY;BYDAY=MO,WE,FR', each: 1 } },
        { request: 'POST /series/s1/rhythms/cancel', body: { version: 5, from: '2026-11-30' } },
      ]),
    );
  });

  test('what is refused is said, and nothing is lost', async () => {
    const page = await openOne(line, '?show=pace');
    page.network.answer('POST /series/s1/rhythms', 409, {
      code: 'changed-meanwhile',
      message: 'Somebody changed this since you opened it. Reload and check.',
    });
    await faster();
    await sheet().findByRole('button', { name: 'Writer' });
    await userEvent.click(sheet().getByRole('button', { name: /^Apply:/ }));
    expect((await sheet().findByRole('alert')).textContent).toContain('Somebody changed this');
    expect(sheet().getByRole<HTMLInputElement>('textbox', { name: 'How many' }).value).toBe('3');
  });

  test('what repeats by the month is asked how often instead', async () => {
    const page = await openOne(care, '?show=pace');
    const field = sheet().getByRole('textbox', { name: 'How many' });
    await userEvent.clear(field);
    await userEvent.type(field, '2');
    await waitFor(() => expect(page.sent().at(-1)?.body).toMatchObject({ rule: 'FREQ=MONTHLY;INTERVAL=2;BYMONTHDAY=20' }));
  });
});
