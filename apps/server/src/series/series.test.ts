import type { EngagementPlan, EngagementTrack, RhythmChanged, RhythmTried, SeriesView, Workload } from '@crew/contract';
import { testWorld } from '../../test/harness.ts';
import { RepeatJob } from './repeat.job.ts';

const { harness, lead } = testWorld();

/** As the queue would each minute. */
async function runJobs(): Promise<void> {
  await harness.app.get(RepeatJob).all();
  await harness.settle();
}

const care = (more: object = {}): object => ({
  ...{ kind: 'repeating', name: 'Harbour care', templateId: harness.ids.template, clientId: harness.ids.client },
  ...{ firstDay: '2026-12-01', rule: 'FREQ=MONTHLY;BYMONTHDAY=1', retainerMinutes: 600, carry: 'all', ...more },
});
const line = (more: object = {}): object => ({
  ...{ kind: 'line', name: 'Kit', templateId: harness.ids.template, clientId: harness.ids.client },
  ...{ firstDay: '2026-11-30', rule: 'FREQ=WEEKLY;BYDAY=MO', aheadDays: 21, ...more },
});
const begin = async (input: object): Promise<SeriesView> => (await lead.post('/series', input).expect(201)).body as SeriesView;
const read = async (id: string): Promise<SeriesView> => (await lead.get(`/series/${id}`).expect(200)).body as SeriesView;
const starts = (series: SeriesView): string[] => series.units.map(({ start }) => start);

/** Somebody works on the first task of a unit for so many minutes. */
async function work(engagementId: string, minutes: number, day: string): Promise<void> {
  const plan = (await lead.get(`/engagements/${engagementId}/plan`).expect(200)).body as EngagementPlan;
  await lead.post(`/tasks/${plan.tasks[0]?.id}/time`, { day, minutes }).expect(201);
}

test('a monthly visit is an engagement each, with its people and its hours', async () => {
  const series = await begin(care());
  expect(series.units.map(({ name, start, state }) => ({ name, start, state }))).toEqual([
    { name: 'Harbour care, December', start: '2026-12-01', state: 'open' },
  ]);
  expect(series.units[0]?.balance).toEqual({
    ...{ agreed: 600, carriedIn: 0, used: 0, left: 600, over: 0 },
    ...{ isOver: false, carriedOut: 0, lost: 0 },
  });
  expect(series.coming.slice(0, 2).map(({ on }) => on)).toEqual(['2027-01-01', '2027-02-01']);
  expect(series.roles.every(({ person }) => person !== null)).toBe(true);
  const tracks = (await lead.get('/engagements').expect(200)).body as EngagementTrack[];
  expect(tracks.find(({ name }) => name === 'Harbour care, December')?.series).toEqual({ id: series.id, name: 'Harbour care' });
});

test('the job makes the next in time, once, and hours left go on into it', async () => {
  const series = await begin(care({ name: 'Lighthouse care' }));
  harness.clock.moveTo('2026-12-03');
  await work(series.units[0]?.id as string, 240, '2026-12-03');
  harness.clock.moveTo('2026-12-20');
  await runJobs();
  await harness.database.rows('UPDATE engagement_series SET settled_on = NULL');
  await runJobs();
  const later = await read(series.id);
  expect(starts(later)).toEqual(['2026-12-01', '2027-01-01']);
  const balances = ({ units }: SeriesView) => units.map(({ balance }) => [balance?.carriedIn, balance?.left, balance?.carriedOut]);
  expect(balances(later)).toEqual([
    [0, 360, 0],
    [0, 600, 0],
  ]);
  harness.clock.moveTo('2027-01-02');
  const carried = [
    [0, 0, 360],
    [360, 960, 0],
  ];
  expect(balances(await read(series.id))).toEqual(carried);
  // What was agreed for periods that have begun stays agreed.
  const { version } = await read(series.id);
  const none = (await lead.patch(`/series/${series.id}`, { version, carry: 'none' }).expect(200)).body as SeriesView;
  expect(balances(none).slice(0, 2)).toEqual(carried);
  harness.clock.moveTo('2026-11-23');
});

test('other agreed hours hold for periods that have not begun', async () => {
  const series = await begin(care({ firstDay: '2026-11-23', rule: 'FREQ=MONTHLY;BYMONTHDAY=23' }));
  const changed = (await lead.patch(`/series/${series.id}`, { version: series.version, retainerMinutes: 300 }).expect(200))
    .body as SeriesView;
  expect(changed.units.map(({ balance }) => balance?.agreed)).toEqual([600, 300]);
});

test('units can be scheduled back from the day they are promised for', async () => {
  const series = await begin(
    line({ name: 'Promised', places: 'promise', firstDay: '2026-12-11', rule: 'FREQ=WEEKLY;BYDAY=FR', aheadDays: 0 }),
  );
  expect(series.units.map(({ promise, finish }) => [promise, finish])).toContainEqual(['2026-12-11', '2026-12-11']);
});

test('a faster pace takes the place of what is ahead and untouched, and can be taken back', async () => {
  const series = await begin(line());
  expect(starts(series)).toEqual(['2026-11-30', '2026-12-07', '2026-12-14']);
  expect(series.units.map(({ name }) => name)).toEqual(['Kit 1', 'Kit 2', 'Kit 3']);
  const change = { version: series.version, from: '2026-12-07', rule: 'FREQ=WEEKLY;BYDAY=MO,WE,FR' };
  const changed = (await lead.post(`/series/${series.id}/rhythms`, change).expect(201)).body as RhythmChanged;
  expect(changed).toMatchObject({ removed: 2, made: 4 });
  expect(starts(changed.series)).toEqual(['2026-11-30', '2026-12-07', '2026-12-09', '2026-12-11', '2026-12-14']);
  expect(changed.series.units.map(({ name }) => name)).toEqual(['Kit 1', 'Kit 2', 'Kit 3', 'Kit 4', 'Kit 5']);
  expect(changed.series.rhythms.map(({ from, isAhead }) => [from, isAhead])).toEqual([
    ['2026-11-30', true],
    ['2026-12-07', true],
  ]);
  const back = await lead.post(`/series/${series.id}/rhythms/cancel`, { version: changed.series.version, from: '2026-12-07' }).expect(200);
  expect(starts(back.body as SeriesView)).toEqual(['2026-11-30', '2026-12-07', '2026-12-14']);
  await lead.post(`/series/${series.id}/rhythms`, change).expect(409);
});

test('a unit that somebody has touched stays when the pace changes', async () => {
  const series = await begin(line({ name: 'Touched' }));
  const second = series.units[1]?.id as string;
  const plan = (await lead.get(`/engagements/${second}/plan`).expect(200)).body as EngagementPlan;
  await lead.patch(`/tasks/${plan.tasks[0]?.id}`, { version: 1, title: 'Sketch it twice' }).expect(200);
  const change = { version: series.version, from: '2026-12-01', rule: 'FREQ=WEEKLY;BYDAY=TH' };
  const changed = (await lead.post(`/series/${series.id}/rhythms`, change).expect(201)).body as RhythmChanged;
  expect(starts(changed.series)).toEqual(['2026-11-30', '2026-12-03', '2026-12-07', '2026-12-10']);
});

test('asking what a pace costs saves nothing and tells hours by role and week, and whom it fills', async () => {
  const series = await begin(line({ name: 'Asked' }));
  const ask = { from: '2026-12-07', rule: 'FREQ=WEEKLY;BYDAY=MO,WE,FR', shownFrom: '2026-12-07', shownTo: '2026-12-27' };
  const tried = (await lead.post(`/series/${series.id}/rhythms/preview`, ask).expect(200)).body as RhythmTried;
  expect(await read(series.id)).toEqual(series);
  expect(tried.weeks[0]).toBe('2026-12-07');
  expect([tried.unitsBefore[0], tried.unitsAfter[0]]).toEqual([1, 3]);
  const drawer = tried.roles.find(({ role }) => role === 'Drawer');
  expect(drawer?.unitMinutes).toBe(24 * 60);
  const sum = (minutes: readonly number[] = []): number => minutes.slice(4, 8).reduce((all, week) => all + week, 0);
  expect(sum(drawer?.after) / sum(drawer?.before)).toBe(3);
  expect(sum(drawer?.before)).toBe(4 * 24 * 60);
  expect(drawer?.room).toHaveLength(12);
  expect(tried.people.length).toBeGreaterThan(0);
  for (const person of tried.people) expect(person.load).toHaveLength(21);
  // One drawer, three units a week of 24 hours each: nobody could do that alone.
  expect(tried.alone.map(({ person }) => person.name)).toContain(series.roles.find(({ role }) => role === 'Drawer')?.person?.name);
});

test('the earliest day is the first on which the pace puts nobody further over', async () => {
  const light = await begin(line({ name: 'Slow', rule: 'FREQ=MONTHLY;BYMONTHDAY=1', firstDay: '2027-03-01', aheadDays: 0 }));
  const ask = { from: '2027-03-22', rule: 'FREQ=MONTHLY;INTERVAL=2;BYMONTHDAY=22' };
  const tried = (await lead.post(`/series/${light.id}/rhythms/preview`, ask).expect(200)).body as RhythmTried;
  expect(tried.earliest).toBe('2027-03-22');
});

test('days are left out and added; what is stopped ends and goes on', async () => {
  const series = await begin(line({ name: 'Stopped' }));
  const skipping = (
    await lead.patch(`/series/${series.id}`, { version: series.version, skipped: ['2026-12-07'], extra: ['2026-12-10'] }).expect(200)
  ).body as SeriesView;
  expect(starts(skipping)).toEqual(['2026-11-30', '2026-12-10', '2026-12-14']);
  const stopped = (await lead.post(`/series/${series.id}/stop`, { version: skipping.version, from: '2026-12-11' }).expect(200))
    .body as SeriesView;
  expect(starts(stopped)).toEqual(['2026-11-30', '2026-12-10']);
  expect(stopped.coming).toEqual([]);
  await lead.post(`/series/${series.id}/stop`, { version: stopped.version, from: '2026-11-20' }).expect(400);
  const going = (await lead.post(`/series/${series.id}/resume`, { version: stopped.version }).expect(200)).body as SeriesView;
  expect(starts(going)).toEqual(['2026-11-30', '2026-12-10', '2026-12-14']);
});

test('who leaves the crew holds nothing up: the next is made with their role open', async () => {
  const dora = harness.ids.people['Dora'];
  const roles = (await harness.database.rows<{ roleId: string }>('SELECT id AS "roleId" FROM role')).map((role) => ({
    ...role,
    personId: dora,
  }));
  const series = await begin(line({ name: 'Left behind', roles }));
  await harness.database.rows('UPDATE person SET is_active = false WHERE id = $1', [dora]);
  harness.clock.moveTo('2026-12-07');
  await runJobs();
  const later = await read(series.id);
  expect(later.units.length).toBe(series.units.length + 2);
  expect(later.roles.every(({ person }) => person === null)).toBe(true);
  await harness.database.rows('UPDATE person SET is_active = true WHERE id = $1', [dora]);
  harness.clock.moveTo('2026-11-23');
});

test('two processes that settle at once make each unit once', async () => {
  const series = await begin(line({ name: 'Twice' }));
  harness.clock.moveTo('2026-12-07');
  await harness.database.rows('UPDATE engagement_series SET settled_on = NULL');
  await Promise.all([runJobs(), runJobs()]);
  const later = await read(series.id);
  expect(new Set(later.units.map(({ day }) => day)).size).toBe(later.units.length);
  expect(later.units.length).toBe(5);
  harness.clock.moveTo('2026-11-23');
});

test.each([
  [{ rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30' }, 'rule'],
  [{ firstDay: '2026-11-20' }, 'firstDay'],
  [{ templateId: '00000000-0000-4000-8000-000000000000' }, undefined],
  [{ clientId: '00000000-0000-4000-8000-000000000000' }, undefined],
  [{ each: 0 }, 'each'],
])('%j is refused and leaves nothing behind', async (more, field) => {
  const count = async (): Promise<unknown> => harness.database.row('SELECT count(*) AS n FROM engagement_series');
  const before = await count();
  const answer = await lead.post('/series', line({ name: 'Bad', ...more }));
  expect(answer.status).toBeGreaterThanOrEqual(400);
  expect(answer.status).toBeLessThan(500);
  if (field !== undefined) expect(answer.body).toMatchObject({ field });
  expect(await count()).toEqual(before);
});

test('a member reads them and changes nothing', async () => {
  const maker = await harness.as('Mak');
  const series = await begin(line({ name: 'Read' }));
  await maker.get(`/series/${series.id}`).expect(200);
  await maker.post(`/series/${series.id}/stop`, { version: 1 }).expect(403);
  await (await harness.as('Hal')).get('/series').expect(403);
});

describe('work that is not created yet', () => {
  const likelyOn = async (
    from: string,
    to: string,
  ): Promise<{ readonly load: number; readonly likely: number; readonly tasks: string[] }> => {
    const { rows } = (await lead.get(`/workload?from=${from}&to=${to}`).expect(200)).body as Workload;
    const sum = (pick: (row: Workload['rows'][number]) => readonly number[]): number =>
      rows.reduce((total, row) => total + pick(row).reduce((all, minutes) => all + minutes, 0), 0);
    return {
      ...{ load: sum((row) => row.load), likely: sum((row) => row.likely) },
      tasks: rows.flatMap((row) => row.tasks.filter((task) => task.isComing).map((task) => task.engagement.name)),
    };
  };
  beforeEach(() => harness.database.rows('DELETE FROM engagement_series').then(() => harness.database.rows('DELETE FROM engagement')));

  test('counts in the load as far as anybody looks, as likely work, and ends with the series', async () => {
    const series = await begin(line());
    await harness.settle();
    const spring = await likelyOn('2027-03-01', '2027-03-28');
    expect(spring.load).toBeGreaterThan(0);
    expect(spring.likely).toBe(spring.load);
    expect(spring.tasks.every((name) => name.startsWith('Kit'))).toBe(true);
    await lead.post(`/series/${series.id}/stop`, { version: series.version, from: '2027-02-01' }).expect(200);
    await harness.settle();
    expect((await likelyOn('2027-03-01', '2027-03-28')).load).toBe(0);
  });

  test('becomes real work once it is made, and is never counted twice', async () => {
    await begin(line());
    await harness.settle();
    const before = await likelyOn('2027-01-04', '2027-01-17');
    harness.clock.moveTo('2026-12-21');
    await runJobs();
    const after = await likelyOn('2027-01-04', '2027-01-17');
    harness.clock.moveTo('2026-11-23');
    expect(after.load).toBe(before.load);
    expect(after.likely).toBeLessThan(before.likely);
  });

  test('leaves its line out when another pace of it is tried', async () => {
    const series = await begin(line());
    await harness.settle();
    const same = { from: '2027-01-04', rule: 'FREQ=WEEKLY;BYDAY=MO' };
    const tried = (await lead.post(`/series/${series.id}/rhythms/preview`, same).expect(200)).body as RhythmTried;
    expect(tried.people).toEqual([]);
    expect(tried.roles.every(({ before, after }) => before.join() === after.join())).toBe(true);
  });
});

const close = (...days: readonly string[]) =>
  lead.post('/calendar/closed-days', { days: days.map((day) => ({ day, name: 'Closed' })) }).expect(201);

test('units that meet on one open day after a closure are all made', async () => {
  await harness.database.rows('DELETE FROM engagement_series');
  await close('2026-12-07', '2026-12-08', '2026-12-09');
  const series = await begin(line({ rule: 'FREQ=WEEKLY;BYDAY=MO,TU', firstDay: '2026-12-01' }));
  expect(starts(series).filter((day) => day === '2026-12-10')).toHaveLength(2);
  await harness.database.rows('DELETE FROM closed_day');
});

test('an ordinary week of a pace leaves closures out: one a week asks what one unit asks', async () => {
  await harness.database.rows('DELETE FROM engagement_series');
  const series = await begin(line());
  await close('2027-03-01', '2027-03-08');
  const tried = (
    await lead.post(`/series/${series.id}/rhythms/preview`, { from: '2027-01-04', rule: 'FREQ=WEEKLY;BYDAY=MO,TH' }).expect(200)
  ).body as RhythmTried;
  await harness.database.rows('DELETE FROM closed_day');
  for (const { unitMinutes, settled } of tried.roles) expect([settled.before, settled.after]).toEqual([unitMinutes, unitMinutes * 2]);
});
