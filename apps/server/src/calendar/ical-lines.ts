import { isDay } from '@crew/core';

/** An event of a file as its lines, unfolded; `line` is that of its BEGIN, counted from 1. */
export interface EventBlock {
  readonly line: number;
  readonly text: string;
  /** Lines that say something impossible, each as a sentence. */
  readonly faults: readonly string[];
}

/** A calendar file cut at its events. */
export interface CutFile {
  /** Everything beside the events: time zones among it. */
  readonly frame: readonly string[];
  readonly events: readonly EventBlock[];
  readonly isCalendar: boolean;
}

interface Line {
  readonly number: number;
  readonly text: string;
}

/**
 * Cuts a file at its events, so that one that cannot be read does not take the others along, and a
 * fault has its line. Lines that go on in the next are one (RFC 5545, section 3.1).
 */
export function cutFile(file: string): CutFile {
  const frame: string[] = [];
  const events: EventBlock[] = [];
  let open: { readonly line: number; readonly lines: Line[] } | null = null;
  const lines = unfolded(file);
  for (const line of lines) {
    const word = line.text.trim().toUpperCase();
    if (open === null && word === 'BEGIN:VEVENT') open = { line: line.number, lines: [] };
    else if (open !== null && word === 'END:VEVENT') {
      events.push(blockOf(open));
      open = null;
    } else if (open === null) frame.push(line.text);
    else open.lines.push(line);
  }
  if (open !== null) events.push({ ...blockOf(open), faults: [`Line ${open.line}: this entry has no end; the file is cut off.`] });
  return { frame, events, isCalendar: lines[0]?.text.trim().toUpperCase() === 'BEGIN:VCALENDAR' };
}

function unfolded(file: string): Line[] {
  const lines: { number: number; text: string }[] = [];
  file.split(/\r\n|\n|\r/).forEach((text, index) => {
    const last = lines.at(-1);
    if (last !== undefined && (text.startsWith(' ') || text.startsWith('\t'))) last.text += text.slice(1);
    else if (text.trim() !== '') lines.push({ number: index + 1, text });
  });
  return lines;
}

function blockOf({ line, lines }: { readonly line: number; readonly lines: readonly Line[] }): EventBlock {
  return { line, text: ['BEGIN:VEVENT', ...lines.map(({ text }) => text), 'END:VEVENT'].join('\r\n'), faults: lines.flatMap(faultOf) };
}

const DATED = /^(DTSTART|DTEND|RECURRENCE-ID|EXDATE|RDATE)(;[^:]*)?:(.*)$/i;

/** A day or time that does not exist: a calendar would make another day of it without a word. */
function faultOf({ number, text }: Line): string[] {
  const [, , , values] = DATED.exec(text) ?? [];
  return (values ?? '')
    .split(/[,/]/)
    .filter((value) => value.trim() !== '' && !/^[+-]?P/i.test(value.trim()) && !isMoment(value.trim()))
    .map((value) => `Line ${number}: “${value.trim()}” is not a date or time that exists.`);
}

function isMoment(value: string): boolean {
  const [, year, month, date, time] = /^(\d{4})(\d{2})(\d{2})(?:T(\d{6})Z?)?$/.exec(value) ?? [];
  if (!isDay(`${year}-${month}-${date}`)) return false;
  return time === undefined || /^([01]\d|2[0-3])[0-5]\d([0-5]\d|60)$/.test(time);
}
