import type {
  AgencyCalendar,
  CalendarChanged,
  CalendarEffect,
  CalendarFile,
  EngagementPlan,
  HistoryPage,
  PlanTask,
  TimeOffAdded,
  TimeOffFile,
  Workload,
} from '@crew/contract';
import { startHarness, startSmall, type Caller, type Harness } from '../../test/harness.ts';
import { readICalendar } from './read-ical.ts';

let harness: Harness;
let lead: Caller;
beforeEach(async () => {
  harness = await startHarness();
  lead = await harness.as('Lena');
});
afterEach(() => harness.close());

const TODAY = '2026-11-23';
const by = (zone = 'Europe/London') => ({ today: TODAY, zone }) as const;
const event = (...lines: string[]): string => ['BEGIN:VEVENT', `UID:${lines.join()}@small.example`, ...lines, 'END:VEVENT'].join('\r\n');
const file = (...events: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//small//EN', ...events, 'END:VCALENDAR'].join('\r\n');
const wholeDay = (day: string, name: string, ...more: string[]): string => event(`DTSTART;VALUE=DATE:${day}`, `SUMMARY:${name}`, ...more);

const calendar = async (): Promise<AgencyCalendar> => (await lead.get('/calendar').expect(200)).body as AgencyCalendar;
const taskOf = async (id: string, title: string): Promise<PlanTask> =>
  ((await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan).tasks.find((task) => task.title === title) as PlanTask;

describe('calendar files', () => {
  test.each<[string, string, object]>([
    ['a whole day', wholeDay('20261225', 'Midwinter'), { from: '2026-12-25', to: '2026-12-25', minutes: null, note: 'Midwinter' }],
    [
      'several days end the day before their end',
      wholeDay('20261228', 'Closed', 'DTEND;VALUE=DATE:20261231'),
      { from: '2026-12-28', to: '2026-12-30', minutes: null },
    ],
    [
      'some hours count their minutes',
      event('DTSTART:20261201T140000', 'DTEND:20261201T163000', 'SUMMARY:Dentist'),
      { from: '2026-12-01', to: '2026-12-01', minutes: 150 },
    ],
    ['no name', event('DTSTART;VALUE=DATE:20261202'), { from: '2026-12-02', note: 'No name' }],
  ])('%s', (_what, one, span) => {
    expect(readICalendar(file(one), by()).spans).toEqual([expect.objectContaining(span)]);
  });

  test('what repeats is followed for three years, its exceptions left out', () => {
    const yearly = wholeDay('20260503', 'Spring day', 'RRULE:FREQ=YEARLY', 'EXDATE;VALUE=DATE:20280503');
    expect(readICalendar(file(yearly), by()).spans.map((span) => span.from)).toEqual(['2026-05-03', '2027-05-03', '2029-05-03']);
    const endless = wholeDay('20261123', 'Every day', 'RRULE:FREQ=DAILY');
    expect(readICalendar(file(endless), by()).spans).toHaveLength(400);
  });

  test('what is over long since, or has no day, is left out with a sentence', () => {
    const { spans, leftOut } = readICalendar(file(wholeDay('20190101', 'Old'), event('SUMMARY:Floating')), by());
    expect(spans).toEqual([]);
    expect(leftOut).toEqual(['Line 4: “Old” is long past.', 'Line 9: “Floating” has no day.']);
  });

  test('what is called off or marked free does not count', () => {
    const { spans, leftOut, calledOff } = readICalendar(
      file(
        wholeDay('20261201', 'Off', 'STATUS:CANCELLED'),
        wholeDay('20261202', 'Free', 'TRANSP:TRANSPARENT'),
        wholeDay('20261203', 'Away'),
      ),
      by(),
    );
    expect(spans.map(({ note }) => note)).toEqual(['Away']);
    expect(leftOut).toEqual(['Line 4: “Off” is called off.', 'Line 10: “Free” is marked free.']);
    expect(calledOff).toHaveLength(1);
  });

  test.each<[string, readonly string[], string, object]>([
    ['universal time', ['DTSTART:20261201T233000Z', 'DTEND:20261202T003000Z'], 'Europe/Berlin', { from: '2026-12-02', minutes: 60 }],
    [
      'a zone by its name',
      ['DTSTART;TZID=America/New_York:20261201T200000', 'DTEND;TZID=America/New_York:20261201T210000'],
      'Europe/London',
      { from: '2026-12-02', minutes: 60 },
    ],
    ['no zone', ['DTSTART:20261201T090000', 'DTEND:20261201T100000'], 'Asia/Tokyo', { from: '2026-12-01', minutes: 60 }],
  ])('a time in %s falls on the agency’s day', (_what, lines, zone, span) => {
    expect(readICalendar(file(event(...lines)), by(zone)).spans).toEqual([expect.objectContaining(span)]);
  });

  test('a time over midnight counts on each of its days', () => {
    const { spans } = readICalendar(file(event('DTSTART:20261201T220000', 'DTEND:20261203T013000', 'SUMMARY:Night build')), by());
    expect(spans.map(({ from, to, minutes }) => [from, to, minutes])).toEqual([
      ['2026-12-01', '2026-12-01', 120],
      ['2026-12-02', '2026-12-02', null],
      ['2026-12-03', '2026-12-03', 90],
    ]);
  });

  test('a day that does not exist is a fault of its line, not another day; the rest is read', () => {
    const { spans, faults } = readICalendar(file(wholeDay('20260230', 'Odd'), wholeDay('20261224', 'Eve')), by());
    expect(spans.map(({ from }) => from)).toEqual(['2026-12-24']);
    expect(faults).toEqual(['Line 6: “20260230” is not a date or time that exists.']);
    expect(
      readICalendar(`${file(wholeDay('20261224', 'Eve')).replace('END:VCALENDAR', '')}BEGIN:VEVENT\r\nSUMMARY:Cut`, by()).faults,
    ).toEqual([expect.stringContaining('has no end')]);
  });

  test.each(['', 'no calendar', 'BEGIN:VCARD\r\nEND:VCARD', '{"days":[]}'])('%j is refused as no calendar', (text) => {
    expect(() => readICalendar(text, by())).toThrow(/This is not a calendar/);
  });
});

describe('the agency’s calendar', () => {
  test('a closed day moves what is planned over it, and comes back', async () => {
    const id = await startSmall(lead, harness);
    expect(await taskOf(id, 'Paint')).toMatchObject({ start: '2026-12-04' });
    const { body } = await lead.post('/calendar/closed-days', { days: [{ day: '2026-11-24', name: 'Storm' }] }).expect(201);
    expect((body as AgencyCalendar).closed).toContainEqual({ day: '2026-11-24', name: 'Storm' });
    await harness.settle();
    // Make has not begun: it follows the planner, a day later now.
    expect(await taskOf(id, 'Paint')).toMatchObject({ start: '2026-12-07' });
    await lead.delete('/calendar/closed-days/2026-11-24').expect(200);
    await harness.settle();
    expect(await taskOf(id, 'Paint')).toMatchObject({ start: '2026-12-04' });
  });

  test('a week without a working day is refused, another is taken', async () => {
    expect((await lead.patch('/calendar', { week: [0, 0, 0, 0, 0, 0, 0] }).expect(400)).body).toMatchObject({ field: 'week' });
    await lead.patch('/calendar', { week: [480, 480, 480, 480, 0, 0, 0] }).expect(200);
    expect((await calendar()).week[4]).toBe(0);
  });

  test('a file is looked at first, then kept; part days are told apart', async () => {
    const text = file(
      wholeDay('20261228', 'Between', 'DTEND;VALUE=DATE:20261230'),
      event('DTSTART:20261201T140000', 'DTEND:20261201T160000', 'SUMMARY:Talk'),
    );
    const before = await calendar();
    const trial = (await lead.post('/calendar/import', { text, isTrial: true }).expect(200)).body as CalendarFile;
    expect(trial).toMatchObject({
      isKept: false,
      days: [
        { day: '2026-12-28', name: 'Between' },
        { day: '2026-12-29', name: 'Between' },
      ],
    });
    expect(trial.leftOut).toEqual(['“Talk” on Tue 1 Dec 2026 is only a part of a day.']);
    expect(trial.changeId).toBeNull();
    expect(await calendar()).toEqual(before);
    await lead.post('/calendar/import', { text }).expect(200);
    expect((await calendar()).closed.map(({ day }) => day)).toEqual(expect.arrayContaining(['2026-12-28', '2026-12-29']));
  });
});

describe('time off', () => {
  test('takes the hours away, and names the open work that falls in it', async () => {
    const id = await startSmall(lead, harness);
    const [sketch, dora] = [await taskOf(id, 'Sketch'), harness.ids.people['Dora'] as string];
    await lead.patch(`/tasks/${sketch.id}`, { version: sketch.version, assigneeIds: [dora] }).expect(200);
    const { body } = await lead.post(`/crew/${dora}/time-off`, { from: '2026-11-24', to: '2026-11-26', note: 'Away' }).expect(201);
    const added = body as TimeOffAdded;
    expect(added.tasks.map((task) => task.title)).toContain('Sketch');
    const { rows, dates } = (await lead.get('/workload').expect(200)).body as Workload;
    const tuesday = dates.findIndex((day) => day.date === '2026-11-24');
    expect(rows.find((row) => row.person.id === dora)?.capacity[tuesday]).toBe(0);
    expect((await calendar()).timeOff).toEqual([
      expect.objectContaining({ from: '2026-11-24', to: '2026-11-26', minutes: null, note: 'Away' }),
    ]);
    await lead.delete(`/time-off/${added.ids[0]}`).expect(200);
    expect((await calendar()).timeOff).toEqual([]);
  });

  test('everybody enters their own, leads everybody’s', async () => {
    const mak = await harness.as('Mak');
    const off = { from: '2026-12-01', to: '2026-12-01', minutes: 120 };
    const { body } = await mak.post(`/crew/${harness.ids.people['Mak']}/time-off`, off).expect(201);
    await mak.post(`/crew/${harness.ids.people['Dora']}/time-off`, off).expect(403);
    const doras = (await lead.post(`/crew/${harness.ids.people['Dora']}/time-off`, off).expect(201)).body as TimeOffAdded;
    await mak.delete(`/time-off/${doras.ids[0]}`).expect(403);
    await mak.delete(`/time-off/${(body as TimeOffAdded).ids[0]}`).expect(200);
  });

  test('absences come from a file, all or none', async () => {
    const fred = harness.ids.people['Fred'] as string;
    const text = file(
      wholeDay('20261207', 'Holiday', 'DTEND;VALUE=DATE:20261212'),
      event('DTSTART:20261215T090000', 'DTEND:20261215T110000', 'SUMMARY:Doctor'),
    );
    const trial = (await lead.post(`/crew/${fred}/time-off/import`, { text, isTrial: true }).expect(200)).body as CalendarFile;
    expect(trial.spans.map(({ from, to, minutes }) => [from, to, minutes])).toEqual([
      ['2026-12-07', '2026-12-11', null],
      ['2026-12-15', '2026-12-15', 120],
    ]);
    expect((await calendar()).timeOff).toEqual([]);
    await lead.post(`/crew/${fred}/time-off/import`, { text }).expect(200);
    expect((await calendar()).timeOff).toHaveLength(2);
    await lead
      .post(`/crew/${fred}/time-off/import`, { text: file(wholeDay('20261207', 'Years', 'DTEND;VALUE=DATE:20290101')) })
      .expect(400);
    expect((await calendar()).timeOff).toHaveLength(2);
  });

  test('ends after it begins', async () => {
    const answer = await lead.post(`/crew/${harness.ids.people['Mak']}/time-off`, { from: '2026-12-02', to: '2026-12-01' }).expect(400);
    expect(answer.body).toMatchObject({ code: 'invalid-day', field: 'to' });
  });
});

describe('the same file again', () => {
  const named = (uid: string, ...lines: string[]): string => ['BEGIN:VEVENT', `UID:${uid}`, ...lines, 'END:VEVENT'].join('\r\n');
  const day = (uid: string, on: string, ...more: string[]): string => named(uid, `DTSTART;VALUE=DATE:${on}`, 'SUMMARY:Away', ...more);
  const offOf = async (): Promise<string[]> => (await calendar()).timeOff.map(({ from }) => from);
  const bring = async (text: string, more: object = {}): Promise<TimeOffFile> =>
    (await lead.post(`/crew/${harness.ids.people['Fred']}/time-off/import`, { text, ...more }).expect(200)).body as TimeOffFile;
  const undo = (changeId: string | null) => lead.post(`/changes/${changeId}/undo`).expect(200);

  test('changes nothing; what has moved moves, what was called off goes, and each is one undo', async () => {
    const first = await bring(file(day('a', '20261207'), day('b', '20261209')));
    expect(first).toMatchObject({ unchanged: 0, isKept: true });
    const again = await bring(file(day('a', '20261207'), day('b', '20261209')));
    expect(again).toMatchObject({ unchanged: 2, spans: [], changeId: null });
    const moved = await bring(file(day('a', '20261208'), day('b', '20261209', 'STATUS:CANCELLED')));
    expect(moved.removed.map(({ from }) => from)).toEqual(['2026-12-09']);
    expect(await offOf()).toEqual(['2026-12-08']);
    await undo(moved.changeId);
    expect(await offOf()).toEqual(['2026-12-07', '2026-12-09']);
    await undo(first.changeId);
    expect(await offOf()).toEqual([]);
  });

  test('as closed days it leaves those closed by hand as they are', async () => {
    await lead.post('/calendar/closed-days', { days: [{ day: '2026-12-24', name: 'By hand' }] }).expect(201);
    const text = file(day('x', '20261224'), day('y', '20261228'));
    const kept = (await lead.post('/calendar/import', { text }).expect(200)).body as CalendarFile;
    expect(kept).toMatchObject({ unchanged: 1, days: [{ day: '2026-12-28', name: 'Away' }] });
    expect((await lead.post('/calendar/import', { text }).expect(200)).body).toMatchObject({ unchanged: 2, days: [], changeId: null });
    const other = (await lead.post('/calendar/import', { text: file(day('y', '20261229')) }).expect(200)).body as CalendarFile;
    expect((await calendar()).closed.map((closed) => closed.day).filter((on) => on > '2026-12-01')).toEqual(['2026-12-24', '2026-12-29']);
    await undo(other.changeId);
    expect((await calendar()).closed.map((closed) => closed.day).filter((on) => on > '2026-12-01')).toEqual(['2026-12-24', '2026-12-28']);
  });
});

describe('undo of the calendar', () => {
  test('a day that was closed under another name gets that name back; what somebody changed since stays', async () => {
    const close = async (name: string): Promise<string> =>
      ((await lead.post('/calendar/closed-days', { days: [{ day: '2026-12-24', name }] }).expect(201)).body as CalendarChanged)
        .changeId as string;
    await close('Eve');
    const renamed = await close('Christmas Eve');
    const { lines } = (await lead.get('/history').expect(200)).body as HistoryPage;
    expect(lines[0]).toMatchObject({ kind: 'calendar-changed', changeId: renamed, canUndo: true });
    await lead.post(`/changes/${renamed}/undo`).expect(200);
    expect((await calendar()).closed).toContainEqual({ day: '2026-12-24', name: 'Eve' });
    const again = await close('Christmas Eve');
    await close('Party');
    await lead.post(`/changes/${again}/undo`).expect(409);
  });

  test('the week, and time off of one’s own; that of others is a lead’s', async () => {
    const before = (await calendar()).week;
    const { changeId } = (await lead.patch('/calendar', { week: [480, 480, 480, 480, 0, 0, 0] }).expect(200)).body as CalendarChanged;
    await lead.post(`/changes/${changeId}/undo`).expect(200);
    expect((await calendar()).week).toEqual(before);
    const off = { from: '2026-12-01', to: '2026-12-01' };
    const mak = await harness.as('Mak');
    const own = (await mak.post(`/crew/${harness.ids.people['Mak']}/time-off`, off).expect(201)).body as TimeOffAdded;
    const doras = (await lead.post(`/crew/${harness.ids.people['Dora']}/time-off`, off).expect(201)).body as TimeOffAdded;
    await mak.post(`/changes/${doras.changeId}/undo`).expect(403);
    await mak.post(`/changes/${own.changeId}/undo`).expect(200);
    expect((await calendar()).timeOff.map(({ person }) => person.name)).toEqual(['Dora Quill']);
  });
});

test('what another calendar would do is seen before it is saved', async () => {
  const id = await startSmall(lead, harness, { promise: '2026-12-08' });
  const look = async (input: object): Promise<CalendarEffect> =>
    (await lead.post('/calendar/preview', input).expect(200)).body as CalendarEffect;
  expect(await look({})).toEqual({ engagements: [], overloads: [] });
  const { engagements } = await look({ close: ['2026-11-24', '2026-11-25'] });
  expect(engagements).toEqual([expect.objectContaining({ id, finish: { from: '2026-12-07', to: '2026-12-09' }, promise: '2026-12-08' })]);
  expect(engagements[0]?.moves).toBeGreaterThan(0);
  expect((await calendar()).closed.map(({ day }) => day)).not.toContain('2026-11-24');
  const cut = await taskOf(id, 'Cut');
  await lead.patch(`/tasks/${cut.id}`, { version: cut.version, fixedDay: '2026-12-03' }).expect(200);
  expect((await look({ close: ['2026-12-03'] })).engagements[0]?.fixed).toEqual([
    expect.objectContaining({ title: 'Cut', day: '2026-12-03' }),
  ]);
  await lead.post('/calendar/preview', { week: [0, 0, 0, 0, 0, 0, 0] }).expect(400);
});
