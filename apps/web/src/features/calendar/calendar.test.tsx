import type { AgencyCalendar, CalendarEffect, CalendarFile, TimeOffAdded } from '@crew/contract';
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openScreen } from '../../../test/screen.tsx';
import { odalys } from '../../../test/samples.ts';
import { AgencyWeek } from './AgencyWeek.tsx';
import { CalendarPage } from './CalendarPage.tsx';

const calendar: AgencyCalendar = {
  week: [450, 450, 450, 450, 450, 0, 0],
  closed: [
    { day: '2026-05-03', name: 'Spring day' },
    { day: '2026-12-28', name: 'Studio closed' },
    { day: '2026-12-29', name: 'Studio closed' },
  ],
  timeOff: [
    {
      id: 'o1',
      person: { id: 'otto', name: 'Otto Brandt', initials: 'OB' },
      from: '2026-12-02',
      to: '2026-12-04',
      minutes: 120,
      note: 'School',
    },
  ],
};
const added: TimeOffAdded = {
  ids: ['o2'],
  changeId: 'b1',
  tasks: [
    {
      ...{ id: 't1', number: 7, title: 'Signs set', start: '2026-12-08', due: '2026-12-09' },
      engagement: { id: 'e1', name: 'Seed vault wayfinding' },
    },
  ],
};
const found: CalendarFile = {
  ...{ spans: [], isKept: false, days: [{ day: '2027-05-01', name: 'Labour Day' }] },
  leftOut: ['“Fire drill” on 2027-05-03 is only a part of a day.'],
  ...{ unchanged: 2, removed: [], faults: ['Line 9: “20270230” is not a date or time that exists.'], changeId: null },
};

/** jsdom's files cannot be read as text; browsers' can. */
const readable = (name: string, text: string): File =>
  Object.assign(new File([text], name, { type: 'text/calendar' }), { text: () => Promise.resolve(text) });
const bodies = (sent: readonly { readonly body: unknown }[]): unknown[] => sent.map(({ body }) => body);
const open = (answers: Readonly<Record<string, unknown>> = {}) =>
  openScreen(<CalendarPage />, {
    path: '/calendar',
    address: '/calendar',
    answers: { 'GET /calendar': calendar, 'GET /crew': { people: [], roles: [] }, ...answers },
  });

describe('the calendar', () => {
  test('says who is away, when and how much of it', async () => {
    await open();
    expect(screen.getByRole('img', { name: '2 – 4 Dec, 2 h a day: School' })).toBeTruthy();
    expect(within(screen.getByRole('list', { name: 'Time off' })).getByText('2 h a day · School')).toBeTruthy();
  });

  test('shows closed days to come, those gone by when asked', async () => {
    await open();
    expect(screen.getByText('28 – 29 Dec')).toBeTruthy();
    expect(screen.queryByText('Spring day')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Show 1 past day' }));
    expect(screen.getByText('Spring day')).toBeTruthy();
  });

  test('time off names the work that falls in it, as ways to it', async () => {
    const { sent } = await open({ [`POST /crew/${odalys.personId}/time-off`]: added });
    const form = screen.getByRole('form', { name: 'Add time off' });
    await userEvent.type(within(form).getByRole('textbox', { name: 'From' }), '8 Dec');
    await userEvent.type(within(form).getByRole('textbox', { name: 'Hours a day' }), '2:30');
    await userEvent.click(within(form).getByRole('button', { name: 'Add time off' }));
    const asks = await screen.findByRole('region', { name: 'Work on those days' });
    expect(within(asks).getByRole('link', { name: 'Signs set' }).getAttribute('href')).toBe('/engagements/e1?task=t1');
    expect(bodies(sent())).toEqual([expect.objectContaining({ from: '2026-12-08', to: '2026-12-08', minutes: 150 })]);
  });

  test('time off that ends before it begins cannot be entered', async () => {
    const { sent } = await open();
    const form = screen.getByRole('form', { name: 'Add time off' });
    await userEvent.type(within(form).getByRole('textbox', { name: 'From' }), '8 Dec');
    await userEvent.type(within(form).getByRole('textbox', { name: 'To (optional)' }), '7 Dec');
    await userEvent.click(within(form).getByRole('button', { name: 'Add time off' }));
    expect(await within(form).findByText('This is before the start.')).toBeTruthy();
    expect(sent()).toEqual([]);
  });

  test('a file is shown before anything of it is kept', async () => {
    const { sent } = await open({ 'POST /calendar/import': found });
    const input = [...document.querySelectorAll<HTMLInputElement>('input[type=file]')].at(-1) as HTMLInputElement;
    await userEvent.upload(input, readable('holidays.ics', 'BEGIN:VCALENDAR'));
    const preview = await screen.findByRole('region', { name: 'Contents of holidays.ics' });
    expect(within(preview).getByText('Labour Day')).toBeTruthy();
    expect(within(preview).getByText(/Fire drill/)).toBeTruthy();
    expect(within(preview).getByText('holidays.ics: 1 new entry, 2 already here; 1 line cannot be read')).toBeTruthy();
    expect(within(preview).getByText(/^Line 9: “20270230”/)).toBeTruthy();
    expect(bodies(sent())).toEqual([{ text: 'BEGIN:VCALENDAR', isTrial: true }]);
    await userEvent.click(within(preview).getByRole('button', { name: 'Import 1 entry' }));
    expect(bodies(sent())).toHaveLength(2);
    expect(screen.queryByRole('region', { name: 'Contents of holidays.ics' })).toBeNull();
  });

  test('what closing a day would move is seen before it is closed', async () => {
    const finish = { from: '2027-02-18', to: '2027-02-22' } as const;
    const effect: CalendarEffect = {
      engagements: [
        {
          id: 'e1',
          name: 'Keepers’ Quarters',
          promise: '2027-02-19',
          finish,
          moves: 3,
          fixed: [{ id: 't1', title: 'Opening', day: '2027-02-12' }],
        },
      ],
      overloads: [{ person: { id: 'otto', name: 'Otto Brandt', initials: 'OB' }, minutes: 90, firstDay: '2027-02-15' }],
    };
    const { sent } = await open({ 'POST /calendar/preview': effect });
    const form = screen.getByRole('form', { name: 'Add closed days' });
    await userEvent.type(within(form).getByRole('textbox', { name: 'Closed from' }), '12 Feb');
    const list = await within(form).findByRole('list', { name: 'What this would do' });
    expect(list.textContent).toBe(
      'Keepers’ Quarters: finishes 22 Feb 2027, was 18 Feb 2027; promised 19 Feb 2027; 3 tasks ahead move; “Opening” is fixed to Fri 12 Feb 2027, which would be closed' +
        'Otto Brandt would be 1.5 h over from Mon 15 Feb 2027',
    );
    expect(bodies(sent())).toEqual([{ close: ['2027-02-12'] }]);
  });

  test('a week that cannot be read is not sent', async () => {
    const { sent } = await open();
    const monday = screen.getByRole('textbox', { name: 'Mon' });
    await userEvent.clear(monday);
    await userEvent.type(monday, 'lots');
    await userEvent.click(screen.getByRole('button', { name: 'Save working week' }));
    expect(screen.getByRole('alert').textContent).toContain('Write hours as 7.5');
    expect(sent().filter(({ request }) => request !== 'POST /calendar/preview')).toEqual([]);
  });
});

test('what is typed of the week stays while somebody else changes it; untouched, the form follows', async () => {
  const week = [450, 450, 450, 450, 450, 0, 0];
  const longer = [480, 450, 450, 450, 450, 0, 0];
  const { rerender } = render(<AgencyWeek calendar={{ ...calendar, week }} today="2026-11-23" mayEdit />);
  const monday = (): HTMLInputElement => screen.getByRole('textbox', { name: 'Mon' });
  rerender(<AgencyWeek calendar={{ ...calendar, week: longer }} today="2026-11-23" mayEdit />);
  expect(monday().value).toBe('8');
  await userEvent.type(screen.getByRole('textbox', { name: 'Sat' }), '4');
  rerender(<AgencyWeek calendar={{ ...calendar, week }} today="2026-11-23" mayEdit />);
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Sat' }).value).toBe('4');
  expect(monday().value).toBe('8');
});
