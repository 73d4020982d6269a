import ICAL from 'ical.js';
import { addDays, isPlannableDay, type IsoDay } from '@crew/core';
import { Refusal } from '../platform/refusal.ts';

/** A span of days of a calendar file; minutes a day, null for whole days. */
export interface FileSpan {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly minutes: number | null;
  readonly note: string;
}

export interface ReadFile {
  readonly spans: readonly FileSpan[];
  readonly leftOut: readonly string[];
}

/** Events that repeat are followed this far. */
const YEARS_AHEAD = 3;
const MOST_DAYS = 400;
/** Of all events together: a calendar of years has a few thousand days. */
const MOST_SPANS = 4000;
const MOST_STEPS = 50_000;

/**
 * Reads the events of an iCalendar file (RFC 5545) as spans of days. Repeating events are
 * followed for three years from `today`; what lies before last year is left out, and so is
 * whatever has no day, each with a sentence. Refuses a text that is no calendar, and one with
 * more days than anybody has.
 */
export function readICalendar(text: string, today: IsoDay): ReadFile {
  const calendar = parse(text);
  const [first, last] = [`${Number(today.slice(0, 4)) - 1}-01-01`, `${Number(today.slice(0, 4)) + YEARS_AHEAD}-12-31`];
  const spans: FileSpan[] = [];
  const leftOut: string[] = [];
  const budget: Budget = { steps: MOST_STEPS };
  for (const component of calendar.getAllSubcomponents('vevent')) {
    const event = new ICAL.Event(component);
    const note = (event.summary ?? '').trim() || 'No name';
    // An event may be without a start although the library's types say it has one.
    if (component.getFirstProperty('dtstart') === null) leftOut.push(`“${note}” has no day.`);
    else if (event.isRecurrenceException()) continue;
    else spans.push(...spansOf(event, note, { first, last, leftOut, budget }));
    if (spans.length > MOST_SPANS) refuseTooMany();
  }
  return { spans: spans.sort((left, right) => left.from.localeCompare(right.from)), leftOut };
}

function parse(text: string): InstanceType<typeof ICAL.Component> {
  try {
    const component = new ICAL.Component(ICAL.parse(text) as unknown[]);
    if (component.name === 'vcalendar') return component;
  } catch {
    // What the parser says helps nobody; the sentence below does.
  }
  throw new Refusal('faulty-file', 'This is no calendar. Choose a file that ends in .ics, as calendars export it.', { field: 'text' });
}

/** How many more times an event that repeats may be followed, over all events. */
interface Budget {
  steps: number;
}

interface Window {
  readonly first: string;
  readonly last: string;
  readonly leftOut: string[];
  readonly budget: Budget;
}

function refuseTooMany(): never {
  throw new Refusal('faulty-file', `This calendar has more than ${MOST_SPANS} days in it. Export a shorter time.`, { field: 'text' });
}

function spansOf(event: InstanceType<typeof ICAL.Event>, note: string, { first, last, leftOut, budget }: Window): FileSpan[] {
  if (!event.isRecurring()) {
    const span = spanOf(event.startDate, event.endDate, note);
    if (!isPlannableDay(span.from) || !isPlannableDay(span.to)) {
      leftOut.push(`“${note}” has a day that lies too far away.`);
      return [];
    }
    if (span.to < first) leftOut.push(`“${note}” on ${span.from} is over long since.`);
    return span.to < first ? [] : [span];
  }
  const found: FileSpan[] = [];
  const walk = event.iterator();
  for (let turn = 0; turn < MOST_DAYS * 10 && found.length < MOST_DAYS; turn++) {
    if (budget.steps-- === 0) refuseTooMany();
    const next = walk.next();
    if (next === null || next === undefined || dayOf(next) > last) break;
    const { startDate, endDate } = event.getOccurrenceDetails(next);
    const span = spanOf(startDate, endDate, note);
    if (span.to >= first) found.push(span);
  }
  return found;
}

type Time = InstanceType<typeof ICAL.Time>;

/** A day of the calendar as it is written there: the agency's own days, whatever the zone. */
const dayOf = ({ year, month, day }: Time): IsoDay =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}` as IsoDay;

/** The end of a whole day is the day after it; less than a day counts its minutes. */
function spanOf(start: Time, end: Time, note: string): FileSpan {
  const from = dayOf(start);
  if (start.isDate) {
    const lastDay = addDays(dayOf(end), -1);
    return { from, to: lastDay < from ? from : lastDay, minutes: null, note };
  }
  const minutes = Math.round(end.subtractDate(start).toSeconds() / 60);
  if (minutes >= 1440) return { from, to: dayOf(end), minutes: null, note };
  return { from, to: from, minutes: Math.max(1, minutes), note };
}
