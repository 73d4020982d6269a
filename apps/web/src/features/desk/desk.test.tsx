import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Desk } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { desk, deskTask, handoffLine, odalys, taskSheet, teo } from '../../../test/samples.ts';
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
const linesOf = (title: string): (string | null)[] =>
  within(group(title))
    .queryAllByRole('button')
    .map((line) => line.textContent);

test('each group says its own: how long, since when, until what', async () => {
  await open();
  expect(linesOf('Overdue')).toEqual(['Posts dugwas due Thu 19 Nov']);
  expect(linesOf('Ready to start')).toEqual(['Signs set26 h']);
  expect(linesOf('Waiting on someone')).toEqual(['Facts checkedthe client · since Mon 16 Nov', 'Labels hunguntil Signs set · Mon 30 Nov']);
  expect(linesOf('New to you')).toEqual(['mark seen', 'Ladder hireduntil Setting is picked up']);
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

test('an empty group says why nothing is there', async () => {
  await open({ overdue: [], ready: [], waiting: [], fresh: [] });
  expect(screen.queryByRole('heading', { name: 'Overdue' })).toBeNull();
  for (const words of ['Nothing is ready: what is yours waits for something.', 'Nothing of yours waits.', 'Nothing new.'])
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

  test('with nothing under way says what to do', async () => {
    await open({ now: null });
    expect(screen.getByText('Set something from “Ready to start” under way and it stands here.')).toBeTruthy();
  });
});

describe('the week', () => {
  test('says of each day how much of it is planned, and what is over or off', async () => {
    await open();
    const day = (date: string): string | null => screen.getByLabelText(date).textContent;
    expect(day('2026-11-23')).toContain('Mon 23 today0 / 7.5 h');
    expect(day('2026-11-24')).toContain('9 / 7.5 h');
    expect(day('2026-11-24')).toContain('Signs setdue · Seed vault wayfinding9 h');
    expect(day('2026-11-27')).toContain('off');
  });

  test('is summed against the hours there are', async () => {
    await open();
    expect(screen.getByRole('region', { name: 'This week' }).textContent).toBe('This week9 of 30 hplanned from today on · 3 h logged');
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
    await userEvent.click(screen.getByRole('button', { name: 'mark seen' }));
    await waitFor(() => expect(page.sent()).toEqual([{ request: 'POST /desk/seen', body: undefined }]));
  });

  test('that could not be marked is told', async () => {
    const page = await open();
    page.network.cut();
    await userEvent.click(screen.getByRole('button', { name: 'mark seen' }));
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
    await userEvent.click(screen.getByRole('button', { name: /Whose desk/ }));
    await userEvent.click(await screen.findByRole('option', { name: 'Teo Marsh' }));
    expect(await screen.findByRole('heading', { name: 'The desk of Teo Marsh' })).toBeTruthy();
    expect(page.address()).toBe('/desk?person=m1');
    expect(screen.queryByRole('button', { name: 'mark seen' })).toBeNull();
    expect(linesOf('Not looked at yet')).toHaveLength(1);
  });

  test('is nothing a member is asked about', async () => {
    await open({}, { me: teo });
    expect(screen.queryByRole('button', { name: /Whose desk/ })).toBeNull();
  });
});

test('a task opens beside the desk', async () => {
  const page = await open({}, { answers: { 'GET /tasks/ready': { ...taskSheet, id: 'ready' } } });
  await userEvent.click(within(group('Ready to start')).getByRole('button'));
  expect(page.address()).toBe('/desk?task=ready');
  expect(await screen.findByDisplayValue('Signs set')).toBeTruthy();
});
