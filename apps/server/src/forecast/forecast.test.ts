import type { EngagementPlan, EngagementTrack, ForecastLine, ForecastState, ForecastView, PlanTask } from '@crew/contract';
import { forecast, type ForecastInput } from '@crew/core';
import { startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { KeepForecast } from './keep-forecast.ts';
import { forecastInWorkers } from './run-in-workers.ts';

const { harness, lead } = testWorld();
let id: string;
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('DELETE FROM engagement');
  id = await startSmall(lead, harness, { promise: '2026-12-11' });
});

const state = async (): Promise<ForecastState> => (await lead.get(`/engagements/${id}/forecast`).expect(200)).body as ForecastState;
async function make(caller: Caller = lead): Promise<ForecastLine[]> {
  const answer = await caller.post(`/engagements/${id}/forecast`).expect(201);
  expect(answer.headers['content-type']).toContain('application/x-ndjson');
  return answer.text
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as ForecastLine);
}
async function made(): Promise<ForecastView> {
  const last = (await make()).at(-1);
  if (last?.kind !== 'made') throw new Error(JSON.stringify(last));
  return last.forecast;
}
async function task(title: string): Promise<PlanTask> {
  const { tasks } = (await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan;
  return tasks.find((each) => each.title === title) as PlanTask;
}

test('before it is computed there is none, and that is said', async () => {
  expect(await state()).toEqual({ forecast: null, isStale: true });
});

test('it tells how far it is, then a likely, a safe and an almost sure day, with what drives them', async () => {
  const lines = await make();
  const counted = lines.filter((line) => line.kind === 'running');
  expect(counted.length).toBeGreaterThan(3);
  expect(counted.every((line) => line.of === 10_000 && line.done <= 10_000)).toBe(true);
  const view = await state().then(({ forecast: kept }) => kept as ForecastView);
  expect(lines.at(-1)).toEqual({ kind: 'made', forecast: view });
  expect(view.likely <= view.safe && view.safe <= view.almostSure).toBe(true);
  expect(view.spread.reduce((sum, day) => sum + day.runs, 0)).toBe(10_000);
  expect(view.drivers.map((driver) => driver.title).sort()).toEqual(['Client looks', 'Cut', 'Ink', 'Paint', 'Sketch']);
  expect(view).toMatchObject({ promise: '2026-12-11', planned: '2026-12-07', basis: { finishedTasks: 0, ownRoles: [], sharedRoles: [] } });
});

test('as long as nothing changed it stays, and says the same when it is computed again', async () => {
  const first = await made();
  expect((await state()).isStale).toBe(false);
  expect({ ...(await made()), computedAt: '' }).toEqual({ ...first, computedAt: '' });
});

test.each([
  ['a longer task', () => edit('Ink', { days: 6 })],
  ['the next day', () => Promise.resolve(harness.clock.moveTo('2026-11-24'))],
])('%s makes it stale: the old one is shown as one', async (_what, change) => {
  const { computedAt } = await made();
  await change();
  const after = await state();
  expect([after.isStale, after.forecast?.computedAt]).toEqual([true, computedAt]);
  expect((await made()).computedAt > computedAt).toBe(true);
  expect((await state()).isStale).toBe(false);
});

async function edit(title: string, change: object): Promise<void> {
  const { id: taskId, version } = await task(title);
  await lead.patch(`/tasks/${taskId}`, { version, ...change }).expect(200);
  await harness.settle();
}

test('what the studio really took decides: with a record of half the length it is done earlier', async () => {
  const before = await made();
  for (let times = 0; times < 5; times++) await startSmall(lead, harness, { name: `Old ${times}` });
  await harness.database.rows(
    `UPDATE task SET status = 'done', days = 10, real_start = '2026-11-02', done_on = '2026-11-06'
     WHERE title IN ('Sketch', 'Ink') AND engagement_id <> $1`,
    [id],
  );
  expect((await state()).isStale).toBe(true);
  const after = await made();
  expect(after.basis).toEqual({ finishedTasks: 10, ownRoles: ['Drawer'], sharedRoles: ['the client', 'Maker'] });
  expect(after.safe < before.safe).toBe(true);
});

describe('behind', () => {
  const keepUp = (): Promise<void> => harness.app.get(KeepForecast).keepUp();
  const inList = async (): Promise<EngagementTrack['forecast']> =>
    ((await lead.get('/engagements').expect(200)).body as EngagementTrack[]).find((track) => track.id === id)?.forecast ?? null;
  async function away(title: string, days: { readonly from: string; readonly to: string; readonly minutes?: number }): Promise<void> {
    const person = (await task(title)).assignees[0];
    if (person === undefined) throw new Error(`nobody does ${title}`);
    await lead.post(`/crew/${person.id}/time-off`, days).expect(201);
  }

  test('every open engagement has one without anybody asking, and the list says the days of the sheet', async () => {
    expect(await inList()).toBeNull();
    await keepUp();
    const { forecast: kept, isStale } = await state();
    expect(isStale).toBe(false);
    expect(await inList()).toEqual({ likely: kept?.likely, safe: kept?.safe, chance: kept?.chance });
  });

  test('told to stop, it leaves what is not computed yet to the next time', async () => {
    await harness.app.get(KeepForecast).keepUp(AbortSignal.abort());
    expect((await state()).forecast).toBeNull();
    await keepUp();
    expect((await state()).forecast).not.toBeNull();
  });

  test('it is computed again when the plan has changed, and not when nothing has', async () => {
    await keepUp();
    const before = await state();
    await keepUp();
    expect(await state()).toEqual(before);
    await edit('Ink', { days: 9 });
    await keepUp();
    const after = await state();
    expect(after.isStale).toBe(false);
    expect((after.forecast?.likely ?? '') > (before.forecast?.likely ?? '')).toBe(true);
    expect((await inList())?.likely).toBe(after.forecast?.likely);
  });

  test('a person on leave moves what waits for them; once their leave is gone nothing is computed twice', async () => {
    await keepUp();
    const before = await state();
    await away('Ink', { from: '2026-11-24', to: '2026-12-11' });
    expect((await state()).isStale).toBe(true);
    await keepUp();
    const after = await state();
    expect((after.forecast?.likely ?? '') > '2026-12-14').toBe(true);
    expect(before.forecast?.likely).not.toBe(after.forecast?.likely);
    await harness.database.rows('DELETE FROM time_off');
    await keepUp();
    expect({ ...(await state()).forecast, computedAt: '' }).toEqual({ ...before.forecast, computedAt: '' });
  });

  test('once somebody works half days, half days off keep what waits for them', async () => {
    await away('Ink', { from: '2026-11-24', to: '2026-12-11', minutes: 240 });
    await keepUp();
    const before = await state();
    const setWeek = `UPDATE person SET week = $2 WHERE id = $1`;
    const personId = (await task('Ink')).assignees[0]?.id;
    const week = (minutes: number): number[] => [...Array.from({ length: 5 }, () => minutes), 0, 0];
    await harness.database.rows(setWeek, [personId, week(240)]);
    expect((await state()).isStale).toBe(true);
    await keepUp();
    const after = await state();
    await harness.database.rows(setWeek, [personId, week(480)]);
    await harness.database.rows('DELETE FROM time_off');
    expect(after.isStale).toBe(false);
    expect((after.forecast?.likely ?? '') > (before.forecast?.likely ?? '')).toBe(true);
  });

  test('one that cannot be computed keeps none of the others waiting, and is told of', async () => {
    const [sketch, ink] = [await task('Sketch'), await task('Ink')];
    const other = await startSmall(lead, harness, { name: 'Another' });
    const loop = `INSERT INTO task_dependency (predecessor_id, successor_id, type, lag) VALUES ($1, $2, 'FS', 0)`;
    await harness.database.rows(loop, [ink.id, sketch.id]);
    await expect(keepUp()).rejects.toThrow('1 forecast could not be computed');
    await harness.database.rows('DELETE FROM task_dependency WHERE predecessor_id = $1 AND successor_id = $2', [ink.id, sketch.id]);
    const listed = (await lead.get('/engagements').expect(200)).body as EngagementTrack[];
    expect(listed.find((track) => track.id === other)?.forecast).not.toBeNull();
    expect(listed.find((track) => track.id === id)?.forecast).toBeNull();
  });

  test('what is finished or closed has none', async () => {
    await keepUp();
    await harness.database.rows(`UPDATE engagement SET state = 'finished', closed_on = start_day WHERE id = $1`, [id]);
    const finished = (await lead.get('/engagements?finished=yes').expect(200)).body as EngagementTrack[];
    expect(finished.find((track) => track.id === id)?.forecast ?? null).toBeNull();
  });
});

test('of what one may not see there is none', async () => {
  await lead.get('/engagements/00000000-0000-4000-8000-000000000000/forecast').expect(404);
  await lead.post('/engagements/00000000-0000-4000-8000-000000000000/forecast').expect(404);
});

describe('in workers', () => {
  const input: ForecastInput = {
    calendar: { week: [450, 450, 450, 450, 450, 0, 0], closed: [] },
    ...{ start: '2026-12-07', promise: '2027-01-15', phases: [{ id: 'p' }], runs: 3000, seed: 4 },
    tasks: Array.from({ length: 20 }, (_, index) => ({
      id: `t${index}`,
      phase: 'p',
      days: 1 + (index % 4),
      after: index < 2 ? [] : [{ task: `t${index - 2}`, type: 'FS' as const }],
    })),
  };

  test('the answer is that of one thread', async () => {
    const done: number[] = [];
    const answer = await forecastInWorkers(input, { onRuns: (runs) => done.push(runs), signal: new AbortController().signal });
    expect({ ok: true, value: answer }).toEqual(forecast(input));
    expect(done).toEqual([500, 1000, 1500, 2000, 2500, 3000]);
  });

  test('it can be stopped half way', async () => {
    const stopping = new AbortController();
    const running = forecastInWorkers({ ...input, runs: 900_000 }, { onRuns: () => stopping.abort(), signal: stopping.signal });
    await expect(running).rejects.toMatchObject({ name: 'AbortError' });
  });
});
