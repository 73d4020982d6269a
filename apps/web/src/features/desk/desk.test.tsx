import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Desk } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { desk, deskTask, handoffLine, odalys, taskSheet, teo, stillEffect } from '../../../test/samples.ts';
import { whoShould } from '../../../test/workload-samples.ts';
import { DeskPage } from './DeskPage.tsx';

const open = (
  more: Partial<Desk> = {},
  { address = '/desk', me = odalys, answers = {} }: { address?: string; me?: typeof odalys; answers?: object } = {},
) =>
  openScreen(<DeskPage />, {
    path: '/desk',
    address,
    me,
    answers: { [`GET ${address.replace(/[?&]task=\w+/, '')}`]: { ...desk, ...more }, 'GET /crew': { people: [], roles: [] }, ...answers },
  });
const group = (title: string): HTMLElement => screen.getByRole('heading', { name: title }).parentElement?.parentElement as HTMLElement;
const before = { personId: 'o1', taskId: 'ready', days: ['2026-11-25'], places: [] };
const places = (page: Awaited<ReturnType<typeof open>>) => page.sent().filter(({ request }) => request.startsWith('POST /desk/places'));
const rowsOf = (label: string): (string | null)[] =>
  within(screen.getByRole('grid', { name: label }))
    .queryAllByRole('row')
    .map((row) => row.textContent);
const linesOf = (title: string): (string | null)[] =>
  within(group(title))
    .queryAllByRole('button')
    .map((line) => line.textContent);

test('each group says its own: how long, since when, until what', async () => {
  await open();
  expect(linesOf('Overdue: decide what to do')[0]).toBe('Posts dugSeed vault wayfinding · was due Thu 19 Nov · 26 h left');
  expect(rowsOf('Ready to start')).toEqual(['Signs set26 h⋯']);
  expect(linesOf('Waiting')).toEqual([
    'Facts checkedon the client since Mon 16 Nov · until it is set under way again',
    'Labels hunguntil Otto has done “Signs set”, due Fri 27 Nov · starts Mon 30 Nov',
  ]);
  expect(linesOf('New to you')).toEqual(['Mark as seen', 'Ladder hireduntil Setting is picked up']);
});

test('a day that is over says what was logged, and leads to its entries', async () => {
  await open({}, { me: { ...odalys, today: '2026-11-24' } });
  const monday = screen.getByRole('region', { name: 'Mon 23 Nov' });
  expect(monday.textContent).toContain('3 of 7.5 h logged');
  expect(within(monday).getByRole('link').getAttribute('href')).toBe('/time?day=2026-11-23');
});

test('briefs say whom they go to and by when, and which should have gone', async () => {
  const outside = { maker: 'Tallow & Tin', turnaroundDays: 5, bufferDays: 2, neededOn: null, state: 'to-brief' } as const;
  await open({
    briefs: [
      { ...deskTask, id: 'b1', title: 'Bench made', outside: { ...outside, briefBy: '2026-11-20' } },
      { ...deskTask, id: 'b2', title: 'Labels printed', outside: { ...outside, briefBy: '2026-11-25' } },
    ],
  });
  expect(linesOf('Briefs to send')).toEqual([
    'Bench madeTallow & Tin · brief was due Fri 20 Nov',
    'Labels printedTallow & Tin · send the brief by Wed 25 Nov',
  ]);
});

test('work of phases that have not begun stands under the week in which it begins, all of it when asked', async () => {
  const later = Array.from({ length: 10 }, (_, index) => ({
    ...deskTask,
    ...{
      id: `l${index}`,
      title: `Path ${index}`,
      start: index < 3 ? ('2026-12-09' as const) : ('2026-12-14' as const),
      estimateMinutes: 120,
    },
    remainingMinutes: 120,
  }));
  await open({ later });
  const part = screen.getByRole('region', { name: 'Later' });
  const headings = (): (string | null)[] =>
    within(part)
      .queryAllByRole('heading', { level: 3 })
      .map((heading) => heading.textContent);
  expect(headings()).toEqual(['Week of 7 Dec', 'Week of 14 Dec']);
  expect(part.textContent).toContain('Path 5Seed vault wayfinding · 2 h');
  expect(part.textContent).not.toContain('Path 6');
  await userEvent.click(within(part).getByRole('button', { name: 'Show all 10' }));
  expect(part.textContent).toContain('Path 9');
});

test('an empty group says why nothing is there', async () => {
  await open({ overdue: [], ready: [], waiting: [], fresh: [] });
  expect(screen.queryByRole('region', { name: 'Overdue' })).toBeNull();
  for (const words of ['None of your tasks can start right now.', 'None of your tasks is waiting.', 'Nothing new.'])
    expect(screen.getByText(words)).toBeTruthy();
});

describe('now', () => {
  test('stands the one thing under way, with its hours and whom it holds up', async () => {
    await open();
    const now = screen.getByRole('region', { name: 'Now' });
    expect(now.textContent).toContain('Walls painted');
    expect(now.textContent).toContain('3 of 10 h · due Thu 26 Nov · holds up 2');
  });

  test('is done by one press', async () => {
    const page = await open();
    page.network.answer('PATCH /tasks/now', 200, { task: { ...taskSheet, id: 'now', status: 'done' }, effect: null });
    await userEvent.click(screen.getByRole('button', { name: 'Done' }));
    await waitFor(() => expect(page.sent()).toEqual([{ request: 'PATCH /tasks/now', body: { version: 3, status: 'done' } }]));
  });

  test('with the timer on it, what was counted is logged too; one left running is asked about first', async () => {
    const task = { id: 'now', title: 'Walls painted', engagement: { id: 'e1', name: 'Seed vault wayfinding' } };
    const timer = { task, elapsedSeconds: 1080, isRunning: true, day: '2026-11-23', isLeft: false, isClosed: false, guessMinutes: null };
    for (const isLeft of [false, true]) {
      const page = await open({}, { answers: { 'GET /timer': { timer: { ...timer, isLeft } } } });
      page.network.answer('PATCH /tasks/now', 200, { task: { ...taskSheet, id: 'now', status: 'done' }, effect: null, changeId: null });
      page.network.answer('POST /timer/stop', 200, { minutes: 18, day: '2026-11-23', title: 'Walls painted', undo: {} });
      await userEvent.click(screen.getByRole('button', { name: 'Done' }));
      await screen.findByText(isLeft ? '“Signs set” saved.' : '0.3 h logged on “Walls painted”.');
      const steps = ['PATCH /tasks/now', ...(isLeft ? [] : ['POST /timer/stop'])];
      await waitFor(() => expect(page.sent().map(({ request }) => request)).toEqual(steps));
      cleanup();
    }
  });

  test('with nothing under way says what to do', async () => {
    await open({ now: null });
    expect(screen.getByText('Start a task from “Ready to start” and it appears here.')).toBeTruthy();
  });
});

describe('the week', () => {
  test('says of each day how much of it is planned, and what is over or off', async () => {
    await open();
    const day = (date: string): string | null => screen.getByLabelText(date).textContent;
    expect(day('today')).toContain('Mon 23 today0 / 7.5 h');
    expect(day('Tue 24 Nov')).toContain('9 / 7.5 h');
    expect(rowsOf('Work of Tue 24 Nov')).toEqual(['Signs setdue · Seed vault wayfinding9 h⋯']);
    expect(day('Fri 27 Nov')).toContain('off');
  });

  test('is summed against the hours there are', async () => {
    await open();
    expect(screen.getByRole('region', { name: 'This week' }).textContent).toBe('This week9 of 30 h3 h logged');
  });
});

test('[ and ] look at other weeks, and this week is one press away', async () => {
  const page = await open({}, { answers: { 'GET /desk?week=2026-11-30': { ...desk, monday: '2026-11-30' } } });
  await userEvent.keyboard(']');
  expect(await screen.findByText('30 Nov – 6 Dec')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'This week' }));
  await waitFor(() => expect(screen.queryByText('30 Nov – 6 Dec')).toBeNull());
  page.close();
});

describe('arranging the week', () => {
  const arrange = async (title: string, list: string, choice: RegExp) => {
    const page = await open();
    page.network.answer('POST /desk/places', 200, before);
    page.network.answer('POST /desk/places/remove', 200, before);
    await userEvent.click(within(screen.getByRole('grid', { name: list })).getByRole('button', { name: `Arrange ${title}` }));
    await userEvent.click(await screen.findByRole('menuitem', { name: choice }));
    return page;
  };

  test('something ready is put on a day by its menu, and goes back by undo', async () => {
    const page = await arrange('Signs set', 'Ready to start', /^Do it on Thu 26 Nov/);
    const notice = await screen.findByText('“Signs set” is planned for Thu 26 Nov. Its dates do not change.');
    expect(places(page)[0]?.body).toEqual({ taskId: 'ready', day: '2026-11-26', beforeTaskId: null, personId: 'o1' });
    page.network.answer('POST /desk/places/restore', 200, before);
    await userEvent.click(within(notice.parentElement as HTMLElement).getByRole('button', { name: /Undo/ }));
    await waitFor(() => expect(places(page)[1]).toEqual({ request: 'POST /desk/places/restore', body: before }));
  });

  test('what was put on a day moves on with its hours', async () => {
    const page = await arrange('Lamps hung', 'Work of Wed 25 Nov', /^Do it on Thu 26 Nov/);
    await waitFor(() =>
      expect(places(page)[0]?.body).toEqual({
        ...{ taskId: 'put', day: '2026-11-26', beforeTaskId: null, fromDay: '2026-11-25', minutes: 120, personId: 'o1' },
      }),
    );
  });

  test('or is left to the plan again', async () => {
    const page = await arrange('Lamps hung', 'Work of Wed 25 Nov', /^Follow the plan/);
    await waitFor(() => expect(places(page)[0]?.request).toBe('POST /desk/places/remove'));
    expect(await screen.findByText('“Lamps hung” follows the plan again.')).toBeTruthy();
  });

  test('its dates move only when that is asked for', async () => {
    const page = await open({ ready: [{ ...desk.ready[0], id: 'put', title: 'Lamps hung' } as Desk['ready'][number]] });
    page.network.answer('PATCH /tasks/put', 200, { task: { ...taskSheet, id: 'put' }, effect: null, changeId: null });
    await userEvent.click(
      within(screen.getByRole('grid', { name: 'Work of Wed 25 Nov' })).getByRole('button', { name: 'Arrange Lamps hung' }),
    );
    await userEvent.click(await screen.findByRole('menuitem', { name: /^Also reschedule/ }));
    await waitFor(() => expect(page.sent()[0]).toEqual({ request: 'PATCH /tasks/put', body: { version: 3, notBefore: '2026-11-25' } }));
  });

  test('how much of it is for the day is written there; what the plan spreads is only told', async () => {
    const page = await open();
    page.network.answer('POST /desk/places', 200, before);
    const field = screen.getByRole('textbox', { name: 'Hours of Lamps hung on this day' });
    await userEvent.clear(field);
    await userEvent.type(field, '1:30{Enter}');
    await waitFor(() =>
      expect(places(page)[0]?.body).toEqual({ taskId: 'put', day: '2026-11-25', fromDay: '2026-11-25', minutes: 90, personId: 'o1' }),
    );
    expect(screen.queryByRole('textbox', { name: /Hours of Signs set/ })).toBeNull();
  });

  test('a day that cannot take it says why', async () => {
    const page = await open();
    page.network.answer('POST /desk/places', 409, { code: 'wrong-moment', message: '“Signs set” is over.' });
    await userEvent.click(within(screen.getByRole('grid', { name: 'Ready to start' })).getByRole('button', { name: 'Arrange Signs set' }));
    await userEvent.click(await screen.findByRole('menuitem', { name: 'Do it today' }));
    expect(await screen.findByText('“Signs set” is over.')).toBeTruthy();
  });
});

describe('what is overdue asks first', () => {
  const answer = (name: string | RegExp) =>
    within(screen.getByRole('group', { name: 'Decide what to do with Posts dug' })).getByRole('button', { name });

  test('do it: it is put on today', async () => {
    const page = await open();
    page.network.answer('POST /desk/places', 200, before);
    await userEvent.click(answer('Do it today'));
    await waitFor(() => expect(places(page)[0]?.body).toMatchObject({ taskId: 'late', day: '2026-11-23' }));
  });

  test('what was put on today is decided: it says so, and is not asked again', async () => {
    const late = { id: 'late', title: 'Posts dug', engagement: 'Seed vault wayfinding', hue: 'leaf' } as const;
    const placed = { ...late, minutes: 60, hasEstimate: true, due: '2026-11-19', isDue: false, isPlaced: true } as const;
    await open({ days: desk.days.map((day) => (day.date === '2026-11-23' ? { ...day, tasks: [placed] } : day)) });
    const asked = screen.getByRole('group', { name: 'Decide what to do with Posts dug' });
    expect(within(asked).getByText('planned for today')).toBeTruthy();
    expect(within(asked).queryByRole('button', { name: 'Do it today' })).toBeNull();
  });

  test('move it: it begins on another day', async () => {
    const page = await open();
    page.network.answer('PATCH /tasks/late', 200, { task: { ...taskSheet, id: 'late' }, effect: null, changeId: null });
    page.network.answer('POST /tasks/late/preview', 200, {
      ...stillEffect,
      moves: ['a', 'b'].map((id) => ({
        id,
        number: 1,
        title: id,
        from: { start: '2026-11-24', due: '2026-11-24' },
        to: { start: '2026-11-27', due: '2026-11-27' },
      })),
    });
    await userEvent.click(answer('Move…'));
    await userEvent.type(screen.getByLabelText('Starts on'), '26 Nov');
    await screen.findByText('2 other tasks move', { exact: false });
    expect(page.sent().some(({ request }) => request === 'PATCH /tasks/late')).toBe(false);
    await userEvent.click(screen.getByRole('button', { name: 'Apply' }));
    await waitFor(() =>
      expect(page.sent().at(-1)).toEqual({ request: 'PATCH /tasks/late', body: { version: 3, notBefore: '2026-11-26' } }),
    );
  });

  test('give it: to who should do it', async () => {
    const people = whoShould.people.map(({ person }) => ({ ...person, roles: [] }));
    const page = await open({}, { answers: { 'GET /tasks/late/who': whoShould, 'GET /crew': { people, roles: [] } } });
    page.network.answer('PATCH /tasks/late', 200, { task: { ...taskSheet, id: 'late' }, effect: null, changeId: null });
    await userEvent.click(answer('Reassign…'));
    await userEvent.click((await screen.findAllByRole('option'))[0] as HTMLElement);
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 3, assigneeIds: ['o1', 'm1'] }));
  });

  test('drop it', async () => {
    const page = await open();
    page.network.answer('PATCH /tasks/late', 200, { task: { ...taskSheet, id: 'late' }, effect: null, changeId: null });
    await userEvent.click(answer('Drop'));
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 3, status: 'dropped' }));
  });
});

describe('what is done', () => {
  test('without its time asks for it, on the day it was done', async () => {
    const page = await open();
    page.network.answer('POST /tasks/told/time', 201, { id: 'told', entry: { id: 'n1', version: 1 } });
    const field = screen.getByRole('textbox', { name: 'Hours Map proofed took' });
    expect(field.getAttribute('placeholder')).toBe('2.5?');
    await userEvent.type(field, '90m{Enter}');
    await waitFor(() => expect(page.sent()[0]).toEqual({ request: 'POST /tasks/told/time', body: { day: '2026-11-19', minutes: 90 } }));
  });

  test('this week is told, and so are days nobody has told of', async () => {
    await open();
    expect(screen.getByRole('region', { name: 'Done this week' }).textContent).toContain('Paint bought');
    const forgotten = screen.getByRole('region', { name: 'Missing time' });
    expect(forgotten.textContent).toContain('Less than half of the available hours are logged on Wed 18 Nov and Fri 20 Nov.');
    expect(within(forgotten).getByRole('link').getAttribute('href')).toBe('/time?day=2026-11-20');
  });
});

describe('whose turn it is', () => {
  const flying = { ...handoffLine, state: 'handed-off', baton: 'handed-off', since: '2026-11-20T16:20:00Z' } as const;

  test('stands above all else, with who gave it', async () => {
    await open({ person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' }, handoffs: [flying] }, { me: teo });
    const turn = screen.getByRole('region', { name: 'It is your turn' });
    expect(turn.textContent).toContain('Your turn: Design');
    expect(turn.textContent).toContain('Odalys Renn handed Concept off');
    expect(within(turn).getByRole('link', { name: 'Read and pick up' }).getAttribute('href')).toBe('/handoffs?handoff=h1');
  });

  test('a question that came back is to be answered', async () => {
    await open({ handoffs: [{ ...flying, state: 'sent-back', baton: 'sent-back', question: 'Which wall is it?' }] });
    const turn = screen.getByRole('region', { name: 'It is your turn' });
    expect(turn.textContent).toContain('A question about Concept');
    expect(turn.textContent).toContain('“Which wall is it?”');
    expect(within(turn).getByRole('link', { name: 'Answer' })).toBeTruthy();
  });
});

describe('what is new', () => {
  test('is marked as seen', async () => {
    const page = await open();
    page.network.answer('POST /desk/seen', 204);
    await userEvent.click(screen.getByRole('button', { name: 'Mark as seen' }));
    await waitFor(() => expect(page.sent()).toEqual([{ request: 'POST /desk/seen', body: undefined }]));
  });

  test('that could not be marked is told', async () => {
    const page = await open();
    page.network.cut();
    await userEvent.click(screen.getByRole('button', { name: 'Mark as seen' }));
    expect(await screen.findByText(/The server did not answer/)).toBeTruthy();
  });
});

describe('another one’s desk', () => {
  const colleague = {
    answers: {
      'GET /crew': {
        people: [
          { id: 'o1', name: 'Odalys Renn' },
          { id: 'm1', name: 'Teo Marsh' },
        ],
        roles: [],
      },
    },
  };

  test('is opened by who leads, and nothing is marked there', async () => {
    const page = await open({}, colleague);
    page.network.answer('GET /desk?person=m1', 200, { ...desk, person: { id: 'm1', name: 'Teo Marsh', initials: 'TM' } });
    await userEvent.click(screen.getByRole('button', { name: /Person/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'Teo Marsh' }));
    expect(await screen.findByRole('heading', { name: 'The desk of Teo Marsh' })).toBeTruthy();
    expect(page.address()).toBe('/desk?person=m1');
    expect(screen.queryByRole('button', { name: 'Mark as seen' })).toBeNull();
    expect(linesOf('Not opened yet')).toHaveLength(1);
  });

  test('is nothing a member is asked about', async () => {
    await open({}, { me: teo });
    expect(screen.queryByRole('button', { name: /Person/ })).toBeNull();
  });
});

test('a task opens beside the desk', async () => {
  const page = await open({}, { answers: { 'GET /tasks/ready': { ...taskSheet, id: 'ready' } } });
  await userEvent.click(within(screen.getByRole('grid', { name: 'Ready to start' })).getByText('Signs set'));
  expect(page.address()).toBe('/desk?task=ready');
  expect(await screen.findByDisplayValue('Signs set')).toBeTruthy();
});
