import type { IsoDay } from '@crew/core';
import { workload } from '../../../test/workload-samples.ts';
import { cellsOf, columnsOf, dayMoved, narrowedTo, packLanes, totalsOf } from './columns.ts';
import { weekNumber } from './GridHead.tsx';
import { shiftOf } from './use-ticket-drag.ts';
import { mergeParts, partOfShift } from './use-shift.ts';

const [otto, teo] = workload.rows as [(typeof workload.rows)[number], (typeof workload.rows)[number]];
const [drawing] = workload.unassigned as [(typeof workload.unassigned)[number]];
const days = columnsOf(workload, 'days');

/** Three weeks from Monday 23 November, everybody with the same hours. */
const long: typeof workload = {
  ...workload,
  dates: Array.from({ length: 21 }, (_, index) => ({
    date: new Date(Date.UTC(2026, 10, 23 + index)).toISOString().slice(0, 10) as IsoDay,
    isClosed: false,
  })),
  rows: [],
};

describe('columns', () => {
  test('leave a weekend out unless somebody works or has work then', () => {
    expect(days.map(({ from }) => from.slice(8))).toEqual(['23', '24', '25', '26', '27']);
    const busy = { ...workload, rows: [{ ...otto, load: [0, 0, 0, 0, 0, 60, 0] }] };
    expect(columnsOf(busy, 'days').map(({ from }) => from.slice(8))).toEqual(['23', '24', '25', '26', '27', '28']);
  });

  test('are whole weeks, in months', () => {
    expect(columnsOf(long, 'weeks').map(({ from, to, places, opensGroup }) => [from, to, places.length, opensGroup])).toEqual([
      ['2026-11-23', '2026-11-29', 7, true],
      ['2026-11-30', '2026-12-06', 7, false],
      ['2026-12-07', '2026-12-13', 7, true],
    ]);
  });

  test.each<[IsoDay, number]>([
    ['2026-11-23', 48],
    ['2026-12-31', 53],
    ['2027-01-01', 53],
    ['2027-01-04', 1],
  ])('%s lies in week %i', (day, week) => {
    expect(weekNumber(day)).toBe(week);
  });
});

describe('cells', () => {
  test('say what is over, and when somebody is away', () => {
    const cells = cellsOf(otto, days);
    expect(cells.map(({ over }) => over)).toEqual([0, 0, 150, 0, 0]);
    expect(cells.map(({ isOff }) => isOff)).toEqual([false, false, false, false, true]);
  });

  test('room on one day of a week does not make good what is too much on another', () => {
    const [week] = cellsOf({ ...teo, load: [900, 0, 0, 0, 0, 0, 0] }, columnsOf(workload, 'weeks'));
    expect(week).toMatchObject({ capacity: 2250, load: 900, over: 450 });
  });

  test('show another load in place of their own', () => {
    expect(cellsOf(teo, days, [0, 0, 0, 500, 0, 0, 0]).map(({ load }) => load)).toEqual([0, 0, 0, 500, 0]);
  });

  test('totals count from today on', () => {
    expect(totalsOf(otto, workload.dates, '2026-11-25')).toEqual({ capacity: 900, load: 1050, over: 150, free: 0, overDays: 1 });
  });
});

describe('a role or a person narrows', () => {
  const [role, roleId] = [otto.roles[0] as string, otto.roleIds[0] as string];
  const nobodys = (id: string, of: string | null) => ({ ...drawing, id, roleId: of, assigneeIds: [] });
  const ottos = { ...drawing, id: 'his', assigneeIds: [otto.person.id] };
  const teos = { ...drawing, id: 'hers', assigneeIds: [teo.person.id] };
  const all = {
    ...workload,
    rows: [otto, { ...teo, roles: ['Another'], roleIds: ['other'] }],
    unassigned: [nobodys('own', roleId), nobodys('other', 'other'), nobodys('none', null)],
    unestimated: [ottos, teos, nobodys('own', roleId), nobodys('other', 'other')],
  };
  const left = (by: { role?: string; person?: string }) => {
    const { rows, unassigned, unestimated } = narrowedTo(all, { role: null, person: null, ...by });
    return [rows.map((row) => row.person.name), unassigned.map(({ id }) => id), unestimated.map(({ id }) => id)];
  };
  test('rows, what is nobody’s, and what has no estimate', () => {
    expect(left({})).toEqual([
      [otto.person.name, teo.person.name],
      ['own', 'other', 'none'],
      ['his', 'hers', 'own', 'other'],
    ]);
    expect(left({ role })).toEqual([[otto.person.name], ['own'], ['his', 'own']]);
    expect(left({ person: teo.person.id })).toEqual([[teo.person.name], ['own', 'other', 'none'], ['hers', 'own', 'other']]);
  });
});

describe('tickets', () => {
  test('lie on as few lanes as they need, late ones on the first day shown', () => {
    const { placed, count } = packLanes([...otto.tasks, drawing], days);
    expect(count).toBe(2);
    expect(placed.map(({ task, lane, first, last }) => [task.title, lane, first, last])).toEqual([
      ['Posts dug', 0, 0, 0],
      ['Signs set', 1, 0, 3],
      ['Plan drawn', 0, 1, 2],
    ]);
  });

  test('outside the window are left out', () => {
    expect(packLanes([{ ...drawing, start: '2027-01-04', due: '2027-01-05' }], days).placed).toEqual([]);
  });

  test.each([
    ['where it is', 0, null],
    ['two days on', 2, '2026-11-26'],
    ['before the window', -9, '2026-11-23'],
    ['behind the window', 99, '2026-11-27'],
  ])('moved %s it begins then', (_where, by, start) => {
    expect(dayMoved(drawing, days, by)).toBe(start);
  });
});

describe('letting go of a ticket', () => {
  const drag = { task: drawing, from: null, dx: 0, dy: 0, over: null };
  test('over somebody gives it to them, on the same day', () => {
    expect(shiftOf({ ...drag, over: 'm1' }, days, 40)).toEqual({ task: drawing, start: null, assigneeIds: ['m1'] });
  });
  test('further along moves it', () => {
    expect(shiftOf({ ...drag, dx: 80, over: 'nobody' }, days, 40)).toEqual({ task: drawing, start: '2026-11-26', assigneeIds: null });
  });
  test('where it was changes nothing', () => {
    expect(shiftOf({ ...drag, over: 'nobody' }, days, 40)).toBeNull();
    expect(shiftOf(drag, days, 40)).toBeNull();
  });
  test('a shared task changes only the hands it was taken from', () => {
    const shared = { ...drawing, assigneeIds: ['o2', 'x1'] };
    expect(shiftOf({ ...drag, task: shared, from: 'o2', over: 'm1' }, days, 40)?.assigneeIds).toEqual(['m1', 'x1']);
    expect(shiftOf({ ...drag, task: shared, from: 'o2', over: 'x1' }, days, 40)?.assigneeIds).toEqual(['x1']);
    expect(shiftOf({ ...drag, task: shared, from: 'o2', over: 'nobody' }, days, 40)?.assigneeIds).toEqual(['x1']);
  });
});

describe('the change behind a shift', () => {
  test.each([
    ['an ordinary task may not begin earlier', drawing, { notBefore: '2026-11-26' }],
    ['a fixed one is fixed anew', { ...drawing, fixedDay: '2026-11-24' as const }, { fixedDay: '2026-11-26' }],
    ['what is under way keeps its start', { ...drawing, isBegun: true }, {}],
  ])('%s', (_rule, task, change) => {
    const part = partOfShift({ task, start: '2026-11-26', assigneeIds: null });
    expect(part).toEqual({ engagementId: 'e1', tasks: [{ id: 't9', version: 3, ...change }] });
  });

  test('changes of one engagement go together', () => {
    const part = (engagementId: string, id: string) => ({ engagementId, tasks: [{ id, version: 1 }] });
    expect(
      mergeParts([part('a', '1'), part('b', '2'), part('a', '3')]).map(({ engagementId, tasks }) => [engagementId, tasks.length]),
    ).toEqual([
      ['a', 2],
      ['b', 1],
    ]);
  });
});
