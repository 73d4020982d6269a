import ICAL from 'ical.js';
import { addDays, isPlannableDay, type IsoDay } from '@crew/core';
import { Refusal } from '../platform/refusal.ts';
import { cutFile, type EventBlock } from './ical-lines.ts';

/** A span of days of a calendar file; minutes a day, null for whole days. */
export interface FileSpan {
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly minutes: number | null;
  readonly note: string;
  /** By what it is known when the file comes again: the event's own id, and which part or time of it this is. */
  readonly key: string;
}

export interface ReadFile {
  readonly spans: readonly FileSpan[];
  /** What does not count, each with its line as a sentence. */
  readonly leftOut: readonly string[];
  /** What could not be read, each with its line as a sentence. */
  readonly faults: readonly string[];
  /** Ids of events that were called off: what came from them before goes. */
  readonly calledOff: readonly string[];
}

/** What a file is read by: today, and the zone whose days its times fall on. */
export interface ReadingBy {
  readonly today: IsoDay;
  readonly zone: string;
}

/** Events that repeat are followed this far. */
const YEARS_AHEAD = 3;
const MOST_DAYS = 400;
/** Of all events together: a calendar of years has a few thousand days. */
const MOST_SPANS = 4000;
const MOST_STEPS = 50_000;

type Component = InstanceType<typeof ICAL.Component>;
type Event = InstanceType<typeof ICAL.Event>;
type Time = InstanceType<typeof ICAL.Time>;

/**
 * Reads the events of an iCalendar file (RFC 5545) as periods of days in the agency's zone. Repeating
 * events are followed for three years from `today`; events before last year, without a day, cancelled
 * or marked as free are ignored. What cannot be read is reported with its line, and the rest is read.
 * Refuses a text that is no calendar, and one with more days than anybody has.
 */
export function readICalendar(text: string, by: ReadingBy): ReadFile {
  const { frame, events, isCalendar } = cutFile(text);
  if (!isCalendar)
    throw new Refusal('faulty-file', 'This is not a calendar. Choose a file that ends in .ics, as calendars export it.', { field: 'text' });
  const reading = new Reading(by, frame);
  const readable = events.filter(({ faults }) => faults.length === 0);
  for (const block of events) reading.faults.push(...block.faults);
  for (const group of byUid(readable)) reading.read(group);
  return reading.result();
}

/** An event that repeats stands in one calendar with its exceptions, as they have its id. */
function byUid(events: readonly EventBlock[]): (readonly EventBlock[])[] {
  const groups = new Map<string, EventBlock[]>();
  for (const event of events) {
    const uid = /^UID(?:;[^:]*)?:(.*)$/im.exec(event.text)?.[1]?.trim() ?? `line ${event.line}`;
    groups.set(uid, [...(groups.get(uid) ?? []), event]);
  }
  return [...groups.values()];
}

class Reading {
  readonly faults: string[] = [];
  private readonly spans: FileSpan[] = [];
  private readonly leftOut: string[] = [];
  private readonly calledOff: string[] = [];
  private readonly frame: readonly string[];
  private readonly today: IsoDay;
  private readonly local: (at: Date) => { readonly day: IsoDay; readonly minute: number };
  /** How many more times events that repeat may be followed, over all of them. */
  private steps = MOST_STEPS;

  constructor({ today, zone }: ReadingBy, frame: readonly string[]) {
    this.today = today;
    this.frame = frame;
    this.local = localIn(zone);
  }

  result(): ReadFile {
    const { spans, leftOut, faults, calledOff } = this;
    return {
      spans: [...spans].sort((left, right) => compare(left.from, right.from) || compare(left.key, right.key)),
      leftOut,
      faults,
      calledOff,
    };
  }

  read(group: readonly EventBlock[]): void {
    const lineOf = group[0]?.line ?? 0;
    try {
      // Its zones are those of the file; a calendar of its own, so that nothing else is in the way.
      const end = this.frame.findLastIndex((line) => line.trim().toUpperCase() === 'END:VCALENDAR');
      const head = end === -1 ? this.frame : this.frame.slice(0, end);
      const calendar = new ICAL.Component(
        ICAL.parse([...head, ...group.map(({ text }) => text), 'END:VCALENDAR'].join('\r\n')) as unknown[],
      );
      calendar.getAllSubcomponents('vevent').forEach((component, index) => this.readEvent(component, group[index]?.line ?? lineOf));
    } catch (error) {
      if (error instanceof Refusal) throw error;
      this.faults.push(`Line ${lineOf}: this entry cannot be read.`);
    }
    if (this.spans.length > MOST_SPANS) refuseTooMany();
  }

  private readEvent(component: Component, line: number): void {
    const event = new ICAL.Event(component);
    const note = (event.summary ?? '').trim() || 'No name';
    const skip = (why: string): unknown => this.leftOut.push(`Line ${line}: “${note}” ${why}`);
    const isException = component.getFirstProperty('recurrence-id') !== null;
    if (textOf(component, 'status') === 'CANCELLED') {
      if (!isException) this.calledOff.push(event.uid);
      skip('is called off.');
    } else if (textOf(component, 'transp') === 'TRANSPARENT') skip('is marked free.');
    // An event may be without a start although the library's types say it has one.
    else if (component.getFirstProperty('dtstart') === null) skip('has no day.');
    else if (!isException) this.readTimes(event, { note, line });
  }

  private readTimes(event: Event, about: { readonly note: string; readonly line: number }): void {
    const { note, line } = about;
    const year = Number(this.today.slice(0, 4));
    const [first, last] = [`${year - 1}-01-01`, `${year + YEARS_AHEAD}-12-31`];
    const key = event.uid || `${note} ${dayOf(event.startDate)}`;
    const zone = namedZone(event);
    if (!event.isRecurring()) {
      const spans = this.spansOf({ start: event.startDate, end: event.endDate, note, key, zone });
      if (spans.some(({ from, to }) => !isPlannableDay(from) || !isPlannableDay(to)))
        this.leftOut.push(`Line ${line}: “${note}” has a day that lies too far away.`);
      else if (spans.every(({ to }) => to < first)) this.leftOut.push(`Line ${line}: “${note}” is long past.`);
      else this.spans.push(...spans);
      return;
    }
    const walk = event.iterator();
    let found = 0;
    for (let turn = 0; turn < MOST_DAYS * 10 && found < MOST_DAYS; turn++) {
      if (this.steps-- === 0) refuseTooMany();
      const next = walk.next();
      if (next === null || next === undefined || dayOf(next) > last) break;
      const { startDate, endDate, item } = event.getOccurrenceDetails(next);
      if (textOf(item.component, 'status') === 'CANCELLED' || textOf(item.component, 'transp') === 'TRANSPARENT') continue;
      const spans = this.spansOf({
        start: startDate,
        end: endDate,
        note: (item.summary ?? '').trim() || note,
        key: `${key} ${dayOf(next)}`,
        zone,
      });
      const kept = spans.filter(({ to }) => to >= first);
      found += kept.length;
      this.spans.push(...kept);
    }
  }

  /** The end of a whole day is the day after it; a time counts its minutes on each day of the agency it falls on. */
  private spansOf({ start, end, note, key, zone }: OneTime): FileSpan[] {
    if (start.isDate) {
      const [from, last] = [dayOf(start), addDays(dayOf(end), -1)];
      return [{ from, to: last < from ? from : last, minutes: null, note, key }];
    }
    const [from, to] = [this.momentOf(start, zone), this.momentOf(end, zone)];
    if (from.day === to.day) return [{ from: from.day, to: from.day, minutes: Math.max(1, to.minute - from.minute), note, key }];
    const whole = { from: addDays(from.day, from.minute === 0 ? 0 : 1), to: addDays(to.day, -1) };
    return [
      ...(from.minute === 0 ? [] : [{ from: from.day, to: from.day, minutes: DAY_MINUTES - from.minute, note, key }]),
      ...(whole.to < whole.from ? [] : [{ ...whole, minutes: null, note, key: `${key} days` }]),
      ...(to.minute === 0 ? [] : [{ from: to.day, to: to.day, minutes: to.minute, note, key: `${key} end` }]),
    ];
  }

  /** A time without a zone is the agency's own; one of a zone falls on the agency's day at that moment. */
  private momentOf(time: Time, zone: string | null): { readonly day: IsoDay; readonly minute: number } {
    if (time.zone !== ICAL.Timezone.localTimezone) return this.local(time.toJSDate());
    if (zone === null) return { day: dayOf(time), minute: time.hour * 60 + time.minute };
    return this.local(momentIn(zone, time));
  }
}

/** One time of an event; `zone` is one it names without describing it. */
interface OneTime {
  readonly start: Time;
  readonly end: Time;
  readonly note: string;
  readonly key: string;
  readonly zone: string | null;
}

/** A zone that an event names and the file does not describe, as far as this machine knows it. */
function namedZone(event: Event): string | null {
  const name = event.component.getFirstProperty('dtstart')?.getFirstParameter('tzid') ?? null;
  if (name === null) return null;
  try {
    localIn(name);
    return name;
  } catch {
    return null;
  }
}

/** The moment at which it is so late in a zone: what its clocks are ahead by is tried and put right once, for the hour they change. */
function momentIn(zone: string, time: Time): Date {
  const [wall, local] = [Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute), localIn(zone)];
  const aheadAt = (at: number): number => {
    const { day, minute } = local(new Date(at));
    return Date.parse(day) + minute * 60_000 - at;
  };
  return new Date(wall - aheadAt(wall - aheadAt(wall)));
}

const DAY_MINUTES = 1440;
const compare = (left: string, right: string): number => (left < right ? -1 : left > right ? 1 : 0);

const textOf = (component: Component, name: string): string => String(component.getFirstPropertyValue(name) ?? '').toUpperCase();

/** A day of the calendar as it is written there. */
const dayOf = ({ year, month, day }: Time): IsoDay =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}` as IsoDay;

/** The day and minute a moment is in a zone. */
function localIn(zone: string): (at: Date) => { readonly day: IsoDay; readonly minute: number } {
  const format = new Intl.DateTimeFormat('en-GB', {
    ...{ timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' },
  });
  return (at) => {
    const parts = new Map(format.formatToParts(at).map(({ type, value }) => [type, value]));
    const part = (name: Intl.DateTimeFormatPartTypes): string => parts.get(name) ?? '00';
    return {
      day: `${part('year')}-${part('month')}-${part('day')}` as IsoDay,
      minute: Number(part('hour')) * 60 + Number(part('minute')),
    };
  };
}

function refuseTooMany(): never {
  throw new Refusal('faulty-file', `This calendar has more than ${MOST_SPANS} days in it. Export a shorter time.`, { field: 'text' });
}
