import type { Me, WeekSheet } from '@crew/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { odalys, teo } from '../../../test/samples.ts';
import { crewTime, weekSheet } from '../../../test/time-samples.ts';
import { openScreen } from '../../../test/screen.tsx';
import { TimePage } from './TimePage.tsx';

const otto: Me = { ...teo, name: 'Otto Brandt', personId: 'o2' };
const open = (address = '/time?day=2026-11-19', { me = otto, week = weekSheet }: { readonly me?: Me; readonly week?: WeekSheet } = {}) =>
  openScreen(<TimePage />, {
    path: '/time',
    address,
    me,
    answers: {
      'GET /time…': week,
      'GET /time/crew…': crewTime,
      'GET /crew': { people: [], roles: [] },
      'POST /tasks/t1/time': {},
      'POST /tasks/t8/time': {},
      'PATCH /time/n4': {},
      'PATCH /time/n5': {},
      'PATCH /time/n1': {},
      'POST /time/n5/remove': undefined,
      'POST /time/closing': undefined,
    },
  });
const cell = (name: string): HTMLInputElement => screen.getByRole('textbox', { name });
const type = async (name: string, text: string): Promise<void> => {
  await userEvent.clear(cell(name));
  await userEvent.type(cell(name), `${text}{Enter}`);
};

describe('the week', () => {
  test('adds up by engagement and by day, against the available hours', async () => {
    await open();
    const rowsOf = (name: string): (string | null)[] =>
      within(screen.getByRole('rowheader', { name: new RegExp(`^${name}`) }).closest('tr') as HTMLElement)
        .getAllByRole('cell')
        .map((each) => each.textContent);
    expect(rowsOf('Seed vault wayfinding')).toEqual(['7', '7.5', '', '6.5', '', '', '', '21']);
    expect(rowsOf('Total')).toEqual(['7', '7.5', '', '6.5', '', '', '', '21']);
    expect(rowsOf('Available')).toEqual(['7.5', '7.5', '7.5', '7.5', '7.5', 'off', 'off', '37.5']);
    expect(
      screen.getByText('21 of 37.5 h logged, 18.5 h of it chargeable. One day is missing time. Entries overlap on Thu 19 Nov by 75 min.'),
    ).toBeTruthy();
  });

  test('is there as a file too: one’s own, or what a lead looks at', async () => {
    const link = (): string | null => screen.getByRole('link', { name: 'Export CSV' }).getAttribute('href');
    const own = await open();
    expect(link()).toBe('/api/time/export?day=2026-11-16');
    own.close();
    const crew = await open('/time?day=2026-11-19&show=crew', { me: odalys });
    expect(link()).toBe('/api/time/export?day=2026-11-16&person=crew');
    crew.close();
  });

  test('hours are typed where they are read, as people write them', async () => {
    const page = await open();
    await type('Signs set, Wed 18 Nov', '1:30');
    await waitFor(() =>
      expect(page.sent()[0]).toEqual({ request: 'POST /tasks/t1/time', body: { day: '2026-11-18', minutes: 90, personId: 'o2' } }),
    );
    await type('Posts dug, Tue 17 Nov', '6.5');
    await waitFor(() => expect(page.sent()[1]).toEqual({ request: 'PATCH /time/n5', body: { version: 1, minutes: 390 } }));
  });

  test('what is no number stays typed and is marked, with how to write it; nothing is sent', async () => {
    const page = await open();
    await type('Signs set, Wed 18 Nov', 'long');
    expect(cell('Signs set, Wed 18 Nov').getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByRole('alert').textContent).toBe('Write hours as 1.5, 1:30 or 90m.');
    await type('Signs set, Wed 18 Nov', '30');
    expect(screen.getByRole('alert').textContent).toBe('A day has 24 hours. Write at most 24.');
    expect(page.sent()).toEqual([]);
  });

  test('emptied, an entry is asked about, then taken out, and comes back by undo', async () => {
    const page = await open();
    page.network.answer('POST /tasks/t2/time', 201, {});
    await userEvent.clear(cell('Posts dug, Tue 17 Nov'));
    await userEvent.keyboard('{Enter}');
    const ask = screen.getByRole('alertdialog', { name: 'Remove this entry?' });
    expect(ask.textContent).toContain('Remove 7.5 h of Tue 17 Nov on “Posts dug”');
    await userEvent.click(within(ask).getByRole('button', { name: 'Cancel' }));
    expect(cell('Posts dug, Tue 17 Nov').value).toBe('7.5');
    expect(page.sent()).toEqual([]);
    await type('Posts dug, Tue 17 Nov', '0');
    const again = screen.getByRole('alertdialog', { name: 'Remove this entry?' });
    await userEvent.click(within(again).getByRole('button', { name: 'Remove' }));
    expect(await screen.findByText('7.5 h removed.')).toBeTruthy();
    expect(page.sent()[0]).toEqual({ request: 'POST /time/n5/remove', body: { version: 1 } });
    await userEvent.click(screen.getByRole('button', { name: /Undo/ }));
    await waitFor(() => expect(page.sent()[1]?.body).toMatchObject({ day: '2026-11-17', minutes: 450, isChargeable: true }));
  });

  test('closed days and days to come cannot be typed into', async () => {
    await open();
    expect(screen.queryByRole('textbox', { name: /Mon 16 Nov/ })).toBeNull();
    expect(screen.getAllByText('closed')).toHaveLength(1);
    expect(screen.getByText('time missing?')).toBeTruthy();
  });

  test('another task of theirs gets a row when asked for', async () => {
    const page = await open();
    expect(screen.queryByRole('rowheader', { name: /Depot tidied/ })).toBeNull();
    const find = screen.getByRole('combobox', { name: 'Another task' });
    await userEvent.type(find, 'no such work');
    expect(await screen.findByText('No task of yours matches.')).toBeTruthy();
    await userEvent.clear(find);
    await userEvent.type(find, 'tidied depot');
    await userEvent.click(await screen.findByRole('option', { name: /Depot tidied/ }));
    await type('Depot tidied, Fri 20 Nov', '45m');
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ day: '2026-11-20', minutes: 45, personId: 'o2' }));
  });

  test('goes a week earlier and later by button and by key', async () => {
    const page = await open();
    await userEvent.click(screen.getByRole('button', { name: 'A week earlier' }));
    expect(page.address()).toBe('/time?day=2026-11-12');
    await userEvent.keyboard(']]');
    expect(page.address()).toBe('/time?day=2026-11-26');
  });
});

describe('a day, entry by entry', () => {
  const day = () => screen.getByRole('region', { name: 'Entries of Thu 19 Nov' });

  test('says when, and which entries are at the same time', async () => {
    await open();
    expect(within(day()).getByText('6.5 h logged of 7.5 h')).toBeTruthy();
    expect(within(day()).getByText('15 min at the same time as “Signs set”, 60 min at the same time as “Signs set”')).toBeTruthy();
    expect(within(day()).getByText('to 14:15')).toBeTruthy();
    expect(screen.getByText(/Entries overlap on Thu 19 Nov by 75 min\./)).toBeTruthy();
  });

  test.each([
    ['when it began', async () => type('When Posts dug started', '14'), { startMinute: 840 }],
    ['that nobody knows when', async () => type('When Posts dug started', ' '), { startMinute: null }],
    ['the note', async () => type('Note on Posts dug', 'Clay'), { note: 'Clay' }],
    ['the hours', async () => type('Hours on Posts dug', '2h'), { minutes: 120 }],
  ])('%s is put right in place', async (_what, act, change) => {
    const page = await open();
    await act();
    await waitFor(() => expect(page.sent()[0]).toEqual({ request: 'PATCH /time/n4', body: { version: 1, ...change } }));
  });

  test('whether it is chargeable is a tick', async () => {
    const page = await open();
    const ticks = within(day()).getAllByRole('checkbox', { name: 'chargeable' }) as HTMLInputElement[];
    expect(ticks.map((tick) => tick.checked)).toEqual([true, false, false]);
    await userEvent.click(ticks[1] as HTMLInputElement);
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 1, isChargeable: true }));
  });

  test('a closed one is read only, and says who can put it right', async () => {
    await open('/time?day=2026-11-16');
    const closed = screen.getByRole('region', { name: 'Entries of Mon 16 Nov' });
    expect(within(closed).getByText(/Its time is closed: a lead can correct it/)).toBeTruthy();
    expect(within(closed).queryByRole('textbox')).toBeNull();
  });

  test('a day without any says how to begin', async () => {
    await open('/time?day=2026-11-18');
    expect(screen.getByText(/^Nothing yet. Type hours into the grid/)).toBeTruthy();
  });
});

describe('for leads', () => {
  test('a closed day opens with a reason, which goes along', async () => {
    const page = await open('/time?day=2026-11-16&person=o2', { me: odalys });
    await userEvent.type(screen.getByRole('textbox', { name: /Why are you changing them/ }), 'Counted twice');
    await type('Signs set, Mon 16 Nov', '6');
    await waitFor(() =>
      expect(page.sent()[0]).toEqual({ request: 'PATCH /time/n1', body: { version: 1, minutes: 360, reason: 'Counted twice' } }),
    );
  });

  test('the crew’s week says who told little, and what was changed after closing', async () => {
    const page = await open('/time?day=2026-11-19', { me: odalys });
    await userEvent.click(screen.getByRole('radio', { name: 'The crew' }));
    expect(page.address()).toBe('/time?day=2026-11-19&show=crew');
    const row = (await screen.findByRole('link', { name: 'Otto Brandt' })).closest('tr') as HTMLElement;
    expect(row.textContent).toContain('21 / 37.5 h50 % of it');
    expect([...row.querySelectorAll('td.short')].map((short) => short.textContent)).toEqual(['0', '0']);
    expect(screen.getByText('Closed through Mon 16 Nov.')).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Changed after closing' }).textContent).toContain(
      '7.5 h became 7 h · “Counted twice” · Odalys Renn',
    );
  });

  test('time is closed through a day, or opened again', async () => {
    const page = await open('/time?day=2026-11-19&show=crew', { me: odalys });
    await userEvent.click(await screen.findByRole('button', { name: 'Close time…' }));
    const through = screen.getByLabelText('Through');
    await userEvent.clear(through);
    await userEvent.type(through, '20 Nov');
    await userEvent.click(screen.getByRole('button', { name: 'Close time' }));
    await waitFor(() => expect(page.sent()[0]).toEqual({ request: 'POST /time/closing', body: { through: '2026-11-20' } }));
    expect(await screen.findByText('Time is closed through 20 Nov.')).toBeTruthy();
  });

  test('members see neither the crew nor a choice of people', async () => {
    await open('/time?day=2026-11-19&show=crew');
    expect(screen.queryByRole('radio', { name: 'The crew' })).toBeNull();
    expect(screen.getByRole('group', { name: 'Hours by task and day' })).toBeTruthy();
  });
});
