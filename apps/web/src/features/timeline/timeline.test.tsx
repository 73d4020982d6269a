import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { EngagementPlan, PlanEffect } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { plan, planTask, stillEffect } from '../../../test/samples.ts';
import { PlanPage } from '../engagement/PlanPage.tsx';
import { headLabels, isUnder } from './head-labels.ts';
import { placeOf, slackEnd, dependencyPath } from './geometry.ts';
import { sheetsOf } from './PrintedTimeline.tsx';
import { movedPhases, timelineRows } from './rows.ts';
import { fittingScale, ticksOf, timeScale, ZOOMS } from './scale.ts';
import { compileCalendar, formatDay, type IsoDay } from '@crew/core';

const open = async (id: string, more: Partial<EngagementPlan> = {}) => {
  const page = await openScreen(<PlanPage />, {
    path: '/engagements/:id',
    address: `/engagements/${id}?view=timeline`,
    answers: { [`GET /engagements/${id}/plan`]: { ...plan, ...more, engagement: { ...plan.engagement, id } } },
  });
  await screen.findByRole('treegrid', { name: 'Phases and tasks' });
  return page;
};
const row = (name: RegExp): HTMLElement => screen.getByRole('row', { name });

describe('the scale', () => {
  test.each(ZOOMS)(
    '%s: later days lie further right, a day is as wide as every other, and the day under a place is found again',
    (zoom) => {
      const scale = timeScale(['2026-11-02', '2027-03-10'], zoom);
      for (const day of ['2026-11-02', '2026-12-31', '2027-01-01', '2027-03-10'] as const) {
        expect(scale.right(day) - scale.x(day)).toBeCloseTo(scale.dayPx);
        expect(formatDay(scale.dayAt(scale.x(day) + scale.dayPx / 2))).toBe(day);
      }
      expect(scale.x('2026-11-02')).toBeGreaterThanOrEqual(0);
      expect(scale.right('2027-03-10')).toBeLessThanOrEqual(scale.width);
    },
  );

  test.each(ZOOMS)('%s: a short plan fills the room there is, a long one takes what it needs', (zoom) => {
    const short = timeScale(['2026-11-23', '2026-11-27'], zoom, 900);
    expect(short.width).toBeGreaterThan(900 - short.dayPx);
    expect(short.width).toBeLessThanOrEqual(900);
    expect(timeScale(['2020-01-01', '2026-11-27'], zoom, 900).width).toBeGreaterThan(900);
  });

  test('the head names Mondays by weeks, first days by months, with the year where it changes', () => {
    const labels = (zoom: (typeof ZOOMS)[number]) => ticksOf(timeScale(['2026-12-14', '2027-02-10'], zoom)).map((tick) => tick.label);
    expect(labels('weeks')).toEqual(expect.arrayContaining(['14 Dec', '28 Dec', '4 Jan 2027', '11 Jan']));
    expect(labels('months')).toEqual(expect.arrayContaining(['Jan 2027', 'Feb']));
    expect(labels('quarters')).toEqual(expect.arrayContaining(['Jan – Mar']));
    for (const tick of ticksOf(timeScale(['2026-12-14', '2027-02-10'], 'weeks')))
      expect(new Date(tick.day * 86_400_000).getUTCDay()).toBe(1);
  });
});

describe('what the head says beside its days', () => {
  const scale = timeScale(['2026-11-23', '2027-03-31'], 'weeks');
  const said = (promise: IsoDay | null, likely: IsoDay | null) =>
    headLabels(scale, {
      promise,
      forecast: likely === null ? null : { likely, safe: '2027-03-12' },
    });

  test('promise and forecast stand at their days where there is room for both', () => {
    expect(said('2026-12-11', '2027-02-26')).toEqual([
      { x: scale.right('2026-12-11') + 4, text: 'promise 11 Dec' },
      { x: scale.right('2027-02-26') + 4, text: 'likely 26 Feb, safe 12 Mar' },
    ]);
    expect(said(null, null)).toEqual([]);
  });

  test('where they would lie on each other they are one line, the earlier first', () => {
    expect(said('2027-02-24', '2027-02-26').map(({ text }) => text)).toEqual(['promise 24 Feb · likely 26 Feb, safe 12 Mar']);
    expect(said('2027-03-05', '2027-02-26').map(({ text }) => text.split(' ')[0])).toEqual(['likely']);
  });

  test('no day is named under a label', () => {
    const labels = said('2027-02-19', '2027-03-12');
    const covered = ticksOf(scale).filter((tick) => isUnder(labels, tick));
    expect(covered.map((tick) => tick.label)).toContain('22 Feb');
    expect(covered.map((tick) => tick.label)).not.toContain('15 Feb');
  });
});

describe('the drawing', () => {
  const scale = timeScale(['2026-11-23', '2026-12-31'], 'weeks');
  const compiled = compileCalendar(plan.calendar);
  if (!compiled.ok) throw new Error('calendar');
  const calendar = compiled.value;

  test('a bar takes its days whole', () => {
    expect(placeOf(scale, { start: '2026-11-25', due: '2026-11-26' })).toEqual({ x: scale.x('2026-11-25'), width: 2 * scale.dayPx });
  });

  test('slack is a tail of working days; nothing is left of it once it is done', () => {
    // Two working days after Monday the 30th is Wednesday.
    expect(slackEnd(scale, planTask, calendar)).toBe(scale.right('2026-12-02'));
    expect(slackEnd(scale, { ...planTask, status: 'done' }, calendar)).toBeNull();
    expect(slackEnd(scale, { ...planTask, slack: -1 }, calendar)).toBeNull();
  });

  test.each(['FS', 'SS', 'FF', 'SF'] as const)('a dependency %s leaves one bar and reaches the other at the ends it names', (type) => {
    const [from, to] = [
      { x: 10, width: 40, row: 0 },
      { x: 120, width: 30, row: 3 },
    ];
    const path = dependencyPath(from, to, type);
    const [startX] = /^M([\d.]+)/.exec(path)?.slice(1).map(Number) ?? [];
    const endX = Number(/H([\d.-]+)$/.exec(path)?.[1]);
    expect(startX).toBe(type[0] === 'F' ? 50 : 10);
    expect(endX).toBe(type[1] === 'F' ? 150 : 120);
  });

  test('what is folded keeps its parts to itself', () => {
    const tasks = [
      { ...planTask, id: 'g', isGroup: true },
      { ...planTask, id: 'g1', parentId: 'g' },
    ];
    const ids = (folded: string[]) => timelineRows({ phases: plan.phases.slice(1, 2), tasks }, new Set(folded)).map((line) => line.id);
    expect(ids([])).toEqual(['p1', 'g', 'g1']);
    expect(ids(['g'])).toEqual(['p1', 'g']);
    expect(ids(['p1'])).toEqual(['p1']);
  });

  test('a phase ahead stretches with the tasks that would move; one that runs keeps its start', () => {
    const move = {
      id: 't1',
      number: 7,
      title: '',
      from: { start: '2026-11-25', due: '2026-11-30' },
      to: { start: '2026-12-02', due: '2026-12-20' },
    } as const;
    expect(movedPhases(plan, new Map([['t1', move]])).get('p1')).toEqual({ start: plan.phases[1]?.start, due: '2026-12-20' });
    expect(movedPhases(plan, new Map()).size).toBe(0);
  });
});

describe('on paper', () => {
  test('all its days have room on the width of a sheet', () => {
    for (const last of ['2026-12-01', '2027-06-30', '2031-01-01'] as const) {
      const scale = fittingScale(['2026-11-23', last], 800);
      expect(scale.width).toBe(800);
      expect(scale.x('2026-11-23')).toBeGreaterThanOrEqual(0);
      expect(scale.right(last)).toBeLessThanOrEqual(800);
    }
    expect(fittingScale(['2026-11-23', '2026-12-01'], 800).zoom).toBe('days');
    expect(fittingScale(['2026-11-23', '2031-01-01'], 800).zoom).toBe('quarters');
  });

  test.each([0, 5, 18, 19, 100])('%d rows stand on sheets, each once and in order', (rows) => {
    const stood = sheetsOf(rows).flatMap(({ from, to }) => Array.from({ length: to - from }, (_, index) => from + index));
    expect(stood).toEqual(Array.from({ length: rows }, (_, index) => index));
  });

  test('every row is drawn while the page is printed, and the screen is as before afterwards', async () => {
    const tasks = Array.from({ length: 60 }, (_, index) => ({ ...planTask, id: `x${index}`, title: `Sign ${index}` }));
    await open('paper', { tasks });
    const before = screen.queryAllByRole('row').length;
    act(() => void window.dispatchEvent(new Event('beforeprint')));
    for (const { title } of tasks) expect(screen.getAllByRole('row', { name: new RegExp(`^${title}\\b`) }).length).toBeGreaterThan(0);
    act(() => void window.dispatchEvent(new Event('afterprint')));
    expect(screen.queryAllByRole('row')).toHaveLength(before);
  });
});

describe('by keyboard', () => {
  const later: PlanEffect = {
    ...stillEffect,
    moves: [
      {
        id: 't1',
        number: 7,
        title: 'Signs set',
        from: { start: '2026-11-25', due: '2026-11-30' },
        to: { start: '2026-11-27', due: '2026-12-02' },
      },
    ],
    newConflicts: [{ id: 'm', title: 'Sign-off', days: 1, fixedDay: '2027-01-07' }],
    overloads: [{ person: { id: 'v', name: 'Tavi Lindqvist', initials: 'TL' }, minutes: 210, firstDay: '2026-12-14' }],
    promiseSlack: { from: 3, to: 1 },
  };

  test('a bar is moved, what would move is shown, and Enter takes it', async () => {
    const page = await open('keys');
    page.network.answer('POST /engagements/keys/changes/preview', 200, later);
    page.network.answer('POST /engagements/keys/changes', 201, { changeId: 'c', effect: later });
    act(() => row(/^Signs set/).focus());
    await userEvent.keyboard('{Alt>}{ArrowRight}{ArrowRight}{/Alt}');
    const panel = await screen.findByRole('complementary', { name: 'What would change' });
    await waitFor(() => expect(panel.textContent).toContain('Promise 18 Dec'));
    expect(within(panel).getByRole('heading').textContent).toBe('If “Signs set” starts 2 days later');
    expect(panel.textContent).toContain('“Sign-off” on 7 Jan 2027 misses its date by 1 day');
    expect(panel.textContent).toContain('Tavi would be 3.5 h over');
    expect(panel.textContent).toContain('met, slack falls from 3 days to 1');
    expect(page.sent().filter(({ request }) => request.endsWith('/changes'))).toEqual([]);
    act(() => row(/^Signs set/).focus());
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(page.sent().at(-1)?.request).toBe('POST /engagements/keys/changes'));
    expect(page.sent().at(-1)?.body).toEqual({ tasks: [{ id: 't1', version: 3, notBefore: '2026-11-27' }] });
    expect(await screen.findByText('Saved. 1 task moved.')).toBeTruthy();
  });

  test('with Shift it grows, and Escape puts it back', async () => {
    const page = await open('grow');
    page.network.answer('POST /engagements/grow/changes/preview', 200, later);
    act(() => row(/^Signs set/).focus());
    await userEvent.keyboard('{Alt>}{Shift>}{ArrowRight}{/Shift}{/Alt}');
    expect(await screen.findByText('If “Signs set” takes 1 day longer')).toBeTruthy();
    act(() => row(/^Signs set/).focus());
    await userEvent.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByText('If “Signs set” takes 1 day longer')).toBeNull());
    expect(page.sent().filter(({ request }) => request.endsWith('/changes'))).toEqual([]);
  });

  test('what the server refuses is said in the panel, and nothing can be taken', async () => {
    const page = await open('refuses');
    const message = 'These wait on each other: Signs set → Labels hung → Signs set. Remove one link.';
    page.network.answer('POST /engagements/refuses/changes/preview', 409, { code: 'waits-in-a-loop', message });
    act(() => row(/^Signs set/).focus());
    await userEvent.keyboard('{Alt>}{ArrowRight}{/Alt}');
    expect((await screen.findByRole('alert')).textContent).toBe(message);
    expect(screen.getByRole('button', { name: 'Apply' }).hasAttribute('disabled')).toBe(true);
  });

  test('arrows walk and fold; Enter opens the task beside it', async () => {
    const page = await open('walk');
    act(() => row(/^Setting/).focus());
    await userEvent.keyboard('{ArrowLeft}');
    expect(screen.queryByRole('row', { name: /^Signs set/ })).toBeNull();
    await userEvent.keyboard('{ArrowRight}{ArrowDown}');
    await waitFor(() => expect(document.activeElement).toBe(row(/^Signs set/)));
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(page.address()).toContain('task=t1'));
  });
});

test('each row says in words what its bar shows', async () => {
  await open('words');
  expect(screen.getByRole('row', { name: 'Signs set, unassigned, 25 – 30 Nov, 2 days of slack' })).toBeTruthy();
  expect(screen.getByRole('row', { name: /^Posts dug.*on a fixed day/ })).toBeTruthy();
});
