import { CREW_ACCESS, type CrewAccess, type InvitedPerson } from '@crew/contract';
import Papa from 'papaparse';
import { WEEKDAYS } from '../../ui/form/week.ts';

/** A line of the box as it is read: somebody to invite, or what is wrong with it. */
export interface PersonLine {
  /** The number of the line in the box, from 1. */
  readonly line: number;
  readonly person: InvitedPerson;
  readonly fault: string | null;
}

/** What the agency has already. */
interface Known {
  readonly roles: readonly string[];
  /** The agency's week, minutes of Monday … Sunday. */
  readonly week: readonly number[];
}

type Cell =
  | { readonly kind: 'email'; readonly text: string }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'access'; readonly access: CrewAccess }
  | { readonly kind: 'week'; readonly week: number[] }
  | { readonly kind: 'unreadable'; readonly message: string };

const HEADER = /^(name|person|e-?mail|mail|(mail )?address|roles?|job|hours( a week| per week)?|days|access)$/i;
const ADDRESS = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;
const NAMED_ADDRESS = /^(.*?)\s*<([^\s@<>]+@[^\s@<>]+)>$/;
const WEEK_HOURS = /^(\d{1,3}(?:[.,]\d{1,2})?)\s*(h|hrs?|hours?)?\s*((?:a|per|\/)\s*(week|wk|day))?$/i;
const DAYS = /^(\d(?:[.,]5)?)\s*days?$/i;
const DAY_SPAN = /^(mon|tue|wed|thu|fri|sat|sun)[a-z]*\s*(?:-|–|to)\s*(mon|tue|wed|thu|fri|sat|sun)[a-z]*$/i;

/**
 * People as they are typed or pasted from a spreadsheet: one a line, the cells between commas,
 * semicolons or tabs, in any order. An address is known by its @, hours by their number, access by
 * its word; the first other cell is the name, and the rest are roles. A line of headings is left out.
 */
export function readPeople(text: string, known: Known): PersonLine[] {
  const seen = new Set<string>();
  return linesOf(text).map(({ line, cells }) => {
    const read = personOf(cells, known);
    const email = read.person.email.toLowerCase();
    const isTwice = read.fault === null && seen.has(email);
    seen.add(email);
    return { line, ...read, ...(isTwice ? { fault: `${read.person.email} is in the list twice.` } : {}) };
  });
}

function linesOf(text: string): { readonly line: number; readonly cells: readonly string[] }[] {
  const delimiter = text.includes('\t') ? '\t' : text.includes(';') ? ';' : ',';
  const { data } = Papa.parse<string[]>(text, { delimiter });
  return data
    .map((row, index) => ({ line: index + 1, cells: row.map((cell) => cell.trim()).filter((cell) => cell !== '') }))
    .filter(({ cells }) => cells.length > 0 && !cells.every((cell) => HEADER.test(cell)));
}

function personOf(cells: readonly string[], known: Known): Pick<PersonLine, 'person' | 'fault'> {
  const read = cells.flatMap(splitNamed).map((cell) => readCell(cell, known.week));
  const texts = read.flatMap((cell) => (cell.kind === 'text' ? [cell.text] : []));
  const [name = '', ...rest] = texts;
  const email = read.find((cell) => cell.kind === 'email');
  const access = read.find((cell) => cell.kind === 'access');
  const week = read.find((cell) => cell.kind === 'week');
  const roles = rest.flatMap((text) => text.split(/[/+;]/)).map((role) => roleName(role.trim(), known.roles));
  const person: InvitedPerson = {
    name,
    email: email?.text ?? '',
    roles: [...new Set(roles.filter((role) => role !== ''))],
    ...(access === undefined ? {} : { access: access.access }),
    ...(week === undefined ? {} : { week: week.week }),
  };
  return { person, fault: faultOf(person, read) };
}

/** `Ada Brook <ada@brook.example>` is two cells. */
function splitNamed(cell: string): string[] {
  const [, name, email] = NAMED_ADDRESS.exec(cell) ?? [];
  return email === undefined ? [cell] : [name ?? '', email].filter((part) => part !== '');
}

function readCell(text: string, week: readonly number[]): Cell {
  if (text.includes('@')) return { kind: 'email', text };
  const access = CREW_ACCESS.find((one) => one === text.toLowerCase());
  if (access !== undefined) return { kind: 'access', access };
  return weekOf(text, week) ?? { kind: 'text', text };
}

function weekOf(text: string, week: readonly number[]): Cell | null {
  const [, hours, , , unit] = WEEK_HOURS.exec(text) ?? [];
  if (hours !== undefined) {
    const minutes = Number(hours.replace(',', '.')) * 60;
    return unit?.toLowerCase() === 'day' ? perDay(minutes, week) : perWeek(minutes, week);
  }
  const [, days] = DAYS.exec(text) ?? [];
  if (days !== undefined) return { kind: 'week', week: firstDays(Number(days.replace(',', '.')), week) };
  const [, from, to] = DAY_SPAN.exec(text) ?? [];
  return from === undefined || to === undefined ? null : daySpan(from, to, week);
}

const TOO_MANY: Cell = { kind: 'unreadable', message: 'More than 24 hours a day are too many.' };
const asWeek = (week: number[]): Cell => (week.some((minutes) => minutes > 1440) ? TOO_MANY : { kind: 'week', week });

const perDay = (minutes: number, week: readonly number[]): Cell => asWeek(week.map((usual) => (usual === 0 ? 0 : Math.round(minutes))));

/** Hours a week are spread as the agency's week is. */
function perWeek(minutes: number, week: readonly number[]): Cell {
  const all = week.reduce((sum, usual) => sum + usual, 0);
  return asWeek(week.map((usual) => (all === 0 ? 0 : Math.round((usual * minutes) / all))));
}

/** So many of the agency's days, from its first on; half a day at the end. */
function firstDays(days: number, week: readonly number[]): number[] {
  let left = days;
  return week.map((usual) => {
    const part = usual === 0 ? 0 : Math.min(1, Math.max(0, left));
    if (usual > 0) left -= 1;
    return Math.round(usual * part);
  });
}

function daySpan(from: string, to: string, week: readonly number[]): Cell {
  const indexOf = (day: string): number => WEEKDAYS.findIndex((one) => one.toLowerCase() === day.slice(0, 3).toLowerCase());
  const [first, last] = [indexOf(from), indexOf(to)];
  if (first > last) return { kind: 'unreadable', message: `${from} comes after ${to}.` };
  return { kind: 'week', week: week.map((usual, day) => (day >= first && day <= last ? usual : 0)) };
}

/** As the agency writes it, where it has the role already. */
const roleName = (text: string, roles: readonly string[]): string =>
  roles.find((role) => role.toLowerCase() === text.toLowerCase()) ?? text;

function faultOf({ name, email }: InvitedPerson, read: readonly Cell[]): string | null {
  const unreadable = read.find((cell) => cell.kind === 'unreadable');
  if (unreadable !== undefined) return unreadable.message;
  if (name === '') return 'The name is missing.';
  if (email === '') return 'The mail address is missing.';
  if (!ADDRESS.test(email)) return `“${email}” is not a mail address.`;
  return read.filter((cell) => cell.kind === 'email').length > 1 ? 'There are two mail addresses.' : null;
}
