import type { CrewTime, EngagementPlan, TaskSheet, TimeEntryView, WeekSheet } from '@crew/contract';
import { historyOf, startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';

const { harness, lead } = testWorld();
const FRIDAY = '2026-11-20';
let dora: Caller;
let tasks: Readonly<Record<string, string>>;
let engagementId: string;

beforeAll(async () => {
  dora = await harness.as('Dora');
  const roles = await harness.database.rows<{ id: string; name: string }>(`SELECT id, name FROM role WHERE name IN ('Drawer', 'Maker')`);
  const doer: Readonly<Record<string, string>> = { Drawer: 'Dora', Maker: 'Mak' };
  engagementId = await startSmall(lead, harness, {
    roles: roles.map(({ id, name }) => ({ roleId: id, personId: harness.ids.people[doer[name] as string] })),
  });
  const plan = (await lead.get(`/engagements/${engagementId}/plan`).expect(200)).body as EngagementPlan;
  tasks = Object.fromEntries(plan.tasks.map((task) => [task.title, task.id]));
});
beforeEach(async () => {
  harness.clock.moveTo(TODAY);
  await harness.database.rows('UPDATE agency SET time_closed_through = NULL');
  await harness.database.rows('DELETE FROM time_entry');
  await harness.database.rows('UPDATE task SET logged_minutes = 0');
});

const log = (who: Caller, task: string, body: object) => who.post(`/tasks/${tasks[task]}/time`, { day: FRIDAY, ...body });
const week = async (who: Caller, query = `?day=${FRIDAY}`): Promise<WeekSheet> =>
  (await who.get(`/time${query}`).expect(200)).body as WeekSheet;
const entryOf = async (who: Caller, task: string): Promise<TimeEntryView> =>
  (await week(who)).rows.find((row) => row.task.id === tasks[task])?.entries[0] as TimeEntryView;
const logged = async (task: string): Promise<number> =>
  ((await lead.get(`/tasks/${tasks[task]}`).expect(200)).body as TaskSheet).loggedMinutes;

describe('a week', () => {
  test('shows what was logged by task and day, against the hours of each day', async () => {
    await log(dora, 'Sketch', { minutes: 90, startMinute: 540, note: 'Front', isChargeable: false }).expect(201);
    const sheet = await week(dora);
    expect(sheet.days.map((day) => [day.date.slice(8), day.capacity])).toEqual([
      ...['16', '17', '18', '19', '20'].map((day) => [day, 480]),
      ['21', 0],
      ['22', 0],
    ]);
    expect(sheet.rows.filter((row) => row.isAtHand)).toMatchObject([
      {
        task: { title: 'Sketch', isOpen: true },
        engagement: { id: engagementId },
        entries: [{ day: FRIDAY, minutes: 90, startMinute: 540, note: 'Front', isChargeable: false, version: 1 }],
      },
    ]);
  });

  test('has an empty row at hand for what is under way, every other open task of theirs further off', async () => {
    const { version } = (await lead.get(`/tasks/${tasks['Ink']}`)).body as TaskSheet;
    await lead.patch(`/tasks/${tasks['Ink']}`, { version, status: 'active' }).expect(200);
    expect((await week(dora, '')).rows.map((row) => [row.task.title, row.isAtHand])).toEqual([
      ['Sketch', false],
      ['Ink', true],
    ]);
    // Of a phase that has not begun, too.
    expect((await week(await harness.as('Mak'), '')).rows.map((row) => [row.task.title, row.isAtHand])).toEqual([
      ['Cut', false],
      ['Paint', false],
    ]);
    await lead.patch(`/tasks/${tasks['Ink']}`, { version: version + 1, status: 'queued' }).expect(200);
  });

  test('points out entries that cover the same minutes, and days that were forgotten', async () => {
    await log(dora, 'Sketch', { minutes: 300, startMinute: 540 }).expect(201);
    await log(dora, 'Ink', { minutes: 60, startMinute: 810 }).expect(201);
    await log(dora, 'Ink', { minutes: 60 }).expect(201);
    const { overlaps, days } = await week(dora);
    expect(overlaps).toMatchObject([{ day: FRIDAY, minutes: 30 }]);
    expect(days.map((day) => day.isForgotten)).toEqual([true, true, true, true, false, false, false]);
    expect((await week(dora, '')).days.some((day) => day.isForgotten)).toBe(false);
  });

  test('is one’s own; a lead reads anybody’s', async () => {
    const id = harness.ids.people['Dora'];
    expect((await week(lead, `?person=${id}`)).person.name).toBe('Dora Quill');
    await (await harness.as('Mak')).get(`/time?person=${id}`).expect(403);
    expect((await dora.get('/time?person=me').expect(400)).body).toMatchObject({ field: 'person' });
    expect((await dora.get('/time?day=monday').expect(400)).body).toMatchObject({ field: 'day' });
  });

  test('a freelancer logs on own tasks and on no others', async () => {
    const fred = await harness.as('Fred');
    await log(fred, 'Sketch', { minutes: 30 }).expect(404);
    expect((await week(fred)).rows).toEqual([]);
  });
});

describe('an entry', () => {
  test('is put right: another task, day and length, and both tasks follow', async () => {
    await log(dora, 'Sketch', { minutes: 90 }).expect(201);
    const entry = await entryOf(dora, 'Sketch');
    const answer = await dora
      .patch(`/time/${entry.id}`, { version: 1, taskId: tasks['Ink'], minutes: 120, day: '2026-11-19', startMinute: 600 })
      .expect(200);
    expect(answer.body).toMatchObject({ minutes: 120, day: '2026-11-19', startMinute: 600, version: 2 });
    expect([await logged('Sketch'), await logged('Ink')]).toEqual([0, 120]);
    expect((await historyOf(lead, String(tasks['Ink'])))[0]).toMatchObject({ kind: 'time-corrected', by: { name: 'Dora Quill' } });
  });

  test('changed meanwhile is shown as it is now, and nothing is lost', async () => {
    await log(dora, 'Sketch', { minutes: 90 }).expect(201);
    const { id } = await entryOf(dora, 'Sketch');
    await lead.patch(`/time/${id}`, { version: 1, minutes: 60 }).expect(200);
    const refused = await dora.patch(`/time/${id}`, { version: 1, minutes: 30 }).expect(409);
    expect(refused.body).toMatchObject({ code: 'changed-meanwhile', details: { current: { minutes: 60, version: 2 } } });
    await dora.post(`/time/${id}/remove`, { version: 1 }).expect(409);
    expect(await logged('Sketch')).toBe(60);
  });

  test('is taken out, and the task forgets it', async () => {
    await log(dora, 'Sketch', { minutes: 90 }).expect(201);
    const { id } = await entryOf(dora, 'Sketch');
    await (await harness.as('Mak')).post(`/time/${id}/remove`, { version: 1 }).expect(403);
    await dora.post(`/time/${id}/remove`, { version: 1 }).expect(204);
    expect(await logged('Sketch')).toBe(0);
    await dora.post(`/time/${id}/remove`, { version: 1 }).expect(404);
  });

  test.each([
    ['on a day to come', { day: '2026-12-01', minutes: 60 }, 'day'],
    ['of no time', { minutes: 0 }, 'minutes'],
    ['beginning after midnight of the next day', { minutes: 5, startMinute: 1440 }, 'startMinute'],
  ])('%s is refused', async (_what, body, field) => {
    const { body: answer } = await log(dora, 'Sketch', body).expect(400);
    expect(JSON.stringify(answer)).toContain(`"${field}"`);
  });

  test('a day has 24 hours, and says what is left of it', async () => {
    await log(dora, 'Sketch', { minutes: 1400 }).expect(201);
    const { body } = await log(dora, 'Ink', { minutes: 60 }).expect(400);
    expect((body as { message: string }).message).toContain('at most 40 minutes more');
    const { id } = await entryOf(dora, 'Sketch');
    await dora.patch(`/time/${id}`, { version: 1, minutes: 1440 }).expect(200);
  });

  test('of a timer says when it began, unless it was paused', async () => {
    const at = (time: string): void => harness.clock.moveTo(TODAY, time);
    const starts = () => harness.database.rows('SELECT start_minute AS start, minutes FROM time_entry ORDER BY start_minute NULLS LAST');
    at('09:00');
    await dora.post('/timer', { taskId: tasks['Sketch'] }).expect(200);
    at('10:00');
    await dora.post('/timer/stop', {}).expect(200);
    await dora.post('/timer', { taskId: tasks['Sketch'] }).expect(200);
    at('11:00');
    await dora.post('/timer/pause').expect(200);
    await dora.post('/timer', { taskId: tasks['Sketch'] }).expect(200);
    at('11:30');
    await dora.post('/timer/stop', {}).expect(200);
    expect(await starts()).toEqual([
      { start: 540, minutes: 60 },
      { start: null, minutes: 90 },
    ]);
  });
});

test('a lead logs for others, nobody else does', async () => {
  const personId = harness.ids.people['Dora'];
  await log(lead, 'Sketch', { minutes: 45, personId }).expect(201);
  expect((await entryOf(dora, 'Sketch')).minutes).toBe(45);
  await log(await harness.as('Mak'), 'Sketch', { minutes: 45, personId }).expect(403);
  expect((await log(lead, 'Sketch', { minutes: 45, personId: engagementId }).expect(400)).body).toMatchObject({ field: 'personId' });
});

describe('a closed period', () => {
  const close = (through: string | null) => lead.post('/time/closing', { through });

  test('locks its days to everybody but leads, who say why', async () => {
    await log(dora, 'Sketch', { minutes: 90 }).expect(201);
    const { id } = await entryOf(dora, 'Sketch');
    await close(FRIDAY).expect(204);
    expect((await week(dora)).days.map((day) => day.isLocked)).toEqual([true, true, true, true, true, false, false]);
    expect((await log(dora, 'Sketch', { minutes: 30 }).expect(409)).body).toMatchObject({
      field: 'day',
      details: { closedThrough: FRIDAY },
    });
    await dora.patch(`/time/${id}`, { version: 1, minutes: 60, reason: 'I forgot' }).expect(409);
    await dora.patch(`/time/${id}`, { version: 1, day: TODAY }).expect(409);
    expect((await lead.patch(`/time/${id}`, { version: 1, minutes: 60 }).expect(409)).body).toMatchObject({ field: 'reason' });
    await lead.patch(`/time/${id}`, { version: 1, minutes: 60, reason: 'Counted twice' }).expect(200);
    await log(dora, 'Sketch', { minutes: 30, day: TODAY }).expect(201);
  });

  test('keeps what was changed after it was closed, with the reason', async () => {
    await log(dora, 'Sketch', { minutes: 90 }).expect(201);
    const { id } = await entryOf(dora, 'Sketch');
    await close(FRIDAY).expect(204);
    await lead.patch(`/time/${id}`, { version: 1, minutes: 60, reason: 'Counted twice' }).expect(200);
    const { lateChanges, closedThrough } = (await lead.get(`/time/crew?day=${FRIDAY}`).expect(200)).body as CrewTime;
    expect(closedThrough).toBe(FRIDAY);
    expect(lateChanges[0]).toMatchObject({
      ...{ who: 'Lena Park', whose: 'Dora Quill', task: 'Sketch', day: FRIDAY, from: 90, to: 60, reason: 'Counted twice' },
    });
  });

  test('is opened again, and cannot reach into today', async () => {
    await close(FRIDAY).expect(204);
    await close(null).expect(204);
    await log(dora, 'Sketch', { minutes: 30 }).expect(201);
    expect((await close(TODAY).expect(400)).body).toMatchObject({ field: 'through' });
    await dora.post('/time/closing', { through: FRIDAY }).expect(403);
  });
});

test('the crew’s week tells what each logged, and how much of it is paid for', async () => {
  await log(dora, 'Sketch', { minutes: 90 }).expect(201);
  await log(dora, 'Ink', { minutes: 30, isChargeable: false }).expect(201);
  const { dates, people } = (await lead.get(`/time/crew?day=${FRIDAY}`).expect(200)).body as CrewTime;
  expect(dates).toHaveLength(7);
  const row = people.find(({ person }) => person.name === 'Dora Quill');
  expect([row?.minutes[4], row?.chargeableMinutes, row?.capacity[4]]).toEqual([120, 90, 480]);
  expect(people).toHaveLength(5);
});

describe('as a file', () => {
  const file = async (who: Caller, query = ''): Promise<string> => (await who.get(`/time/export?day=${FRIDAY}${query}`).expect(200)).text;

  test('the entries of a week are comma-separated values, and what looks like a formula is none', async () => {
    await log(dora, 'Sketch', { minutes: 90, startMinute: 545, note: '=1+1, “front”', isChargeable: false }).expect(201);
    await log(lead, 'Ink', { minutes: 45 }).expect(201);
    const answer = await dora.get(`/time/export?day=${FRIDAY}`).expect(200);
    expect(answer.headers['content-type']).toMatch(/^text\/csv/);
    expect(answer.headers['content-disposition']).toBe('attachment; filename="time-2026-11-16.csv"');
    expect(answer.text.split('\r\n')).toEqual([
      'day,person,client,engagement,task,minutes,hours,chargeable,began,note',
      `${FRIDAY},Dora Quill,Harbour Museum,Quay panels,Sketch,90,1.5,no,09:05,"'=1+1, “front”"`,
      '',
    ]);
  });

  test.each([
    [' =1+1', '" \'=1+1"'],
    ['a;=1+1', "a;'=1+1"],
    ['a\n@sum', '"a\n\'@sum"'],
    ['\t+1', "\t'+1"],
    ['5-1=4; fine', '5-1=4; fine'],
  ])('a note %j is no formula to any spreadsheet', async (note, cell) => {
    await log(dora, 'Sketch', { minutes: 5, note }).expect(201);
    expect(await file(dora)).toContain(`,${cell}\r\n`);
  });

  test('leads take anybody’s and the whole crew’s, others only their own', async () => {
    await log(dora, 'Sketch', { minutes: 90 }).expect(201);
    await log(lead, 'Ink', { minutes: 45 }).expect(201);
    expect(await file(lead, `&person=${harness.ids.people['Dora']}`)).toContain('Dora Quill');
    const crew = await file(lead, '&person=crew');
    expect([crew.includes('Dora Quill'), crew.includes('Lena Park')]).toEqual([true, true]);
    await dora.get('/time/export?person=crew').expect(403);
    await dora.get(`/time/export?person=${harness.ids.people['Lena']}`).expect(403);
    await lead.get('/time/export?person=everybody').expect(400);
    await lead.get('/time/export?day=soon').expect(400);
  });
});

test('the task on the timer can be logged, whoever it is assigned to', async () => {
  const mak = await harness.as('Mak');
  await mak.post('/timer', { taskId: tasks['Sketch'] }).expect(200);
  expect((await week(mak, '')).rows.find((row) => row.task.title === 'Sketch')?.isAtHand).toBe(true);
  await mak.delete('/timer');
  expect((await week(mak, '')).rows.some((row) => row.task.title === 'Sketch')).toBe(false);
});
