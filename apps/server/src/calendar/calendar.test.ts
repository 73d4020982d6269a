import type { AgencyCalendar, CalendarFile, EngagementPlan, PlanTask, TimeOffAdded, Workload } from '@crew/contract';
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
    expect(readICalendar(file(one), TODAY).spans).toEqual([expect.objectContaining(span)]);
  });

  test('what repeats is followed for three years, its exceptions left out', () => {
    const yearly = wholeDay('20260503', 'Spring day', 'RRULE:FREQ=YEARLY', 'EXDATE;VALUE=DATE:20280503');
    expect(readICalendar(file(yearly), TODAY).spans.map((span) => span.from)).toEqual(['2026-05-03', '2027-05-03', '2029-05-03']);
    const endless = wholeDay('20261123', 'Every day', 'RRULE:FREQ=DAILY');
    expect(readICalendar(file(endless), TODAY).spans).toHaveLength(400);
  });

  test('what is over long since, or has no day, is left out with a sentence', () => {
    const { spans, leftOut } = readICalendar(file(wholeDay('20190101', 'Old'), event('SUMMARY:Floating')), TODAY);
    expect(spans).toEqual([]);
    expect(leftOut).toEqual(['“Old” on 2019-01-01 is over long since.', '“Floating” has no day.']);
  });

  test.each(['', 'no calendar', 'BEGIN:VCARD\r\nEND:VCARD', '{"days":[]}'])('%j is refused as no calendar', (text) => {
    expect(() => readICalendar(text, TODAY)).toThrow(/This is no calendar/);
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
    expect(trial.leftOut).toEqual(['“Talk” on 2026-12-01 is only a part of a day.']);
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
    await lead.delete(`/time-off/${added.ids[0]}`).expect(204);
    expect((await calendar()).timeOff).toEqual([]);
  });

  test('everybody enters their own, leads everybody’s', async () => {
    const mak = await harness.as('Mak');
    const off = { from: '2026-12-01', to: '2026-12-01', minutes: 120 };
    const { body } = await mak.post(`/crew/${harness.ids.people['Mak']}/time-off`, off).expect(201);
    await mak.post(`/crew/${harness.ids.people['Dora']}/time-off`, off).expect(403);
    const doras = (await lead.post(`/crew/${harness.ids.people['Dora']}/time-off`, off).expect(201)).body as TimeOffAdded;
    await mak.delete(`/time-off/${doras.ids[0]}`).expect(403);
    await mak.delete(`/time-off/${(body as TimeOffAdded).ids[0]}`).expect(204);
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
