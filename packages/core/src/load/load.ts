import { readCalendar } from '../calendar/calendar.ts';
import { readPerson } from '../calendar/capacity.ts';
import { formatDay, parseDay, type IsoDay } from '../calendar/day.ts';
import { indexById, refuse, requireDay, requireList, requireObject, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import { LoadBook, type LoadItem, type PlacedMinutes } from './book.ts';
import type { Load, LoadAssignee, LoadDay, LoadInput, LoadTaskInput } from './types.ts';

/**
 * Who is planned for what, when: minutes per person for every calendar day from … to.
 * Splitting is by largest remainder, so nothing is lost; nothing lands before today
 * (core-spec, section 3). Linear in tasks + people × days.
 */
export function load(input: LoadInput): Result<Load> {
  return attempt(() => {
    const { book, unestimated } = openBook(input);
    const dates = Array.from({ length: book.days }, (_, day) => formatDay(book.from + day));
    const people = input.people.map((person, index) => ({ id: person.id, days: renderDays(book, index, dates) }));
    return { people, unestimated };
  });
}

/** Reads the input into a book that can then be kept current task by task. */
export function openBook(input: LoadInput): { readonly book: LoadBook; readonly unestimated: number } {
  requireObject(input, 'input');
  requireList(input.people, 'people');
  requireList(input.tasks, 'tasks');
  const calendar = readCalendar(input.calendar, 'calendar');
  const personIndex = indexById(input.people, 'people');
  const people = input.people.map((person) => readPerson(person, `people[${person.id}]`));
  const from = requireDay(input.from, 'from');
  const to = requireDay(input.to, 'to');
  if (to < from) refuse({ kind: 'invalid-field', at: 'to', expected: 'on or after from' });
  const today = requireDay(input.today, 'today');
  const defaultMinutes = requireWhole(input.defaultMinutes, 'defaultMinutes', 0);
  const book = new LoadBook({ calendar, people, today, from, to });
  indexById(input.tasks, 'tasks');
  let unestimated = 0;
  for (const task of input.tasks) {
    const item = readItem(task, personIndex, defaultMinutes);
    if (task.done === true) continue;
    if (isMissing(task.estimate) && isMissing(task.remaining)) unestimated++;
    book.add(item);
  }
  return { book, unestimated };
}

const isMissing = (value: unknown): boolean => value === undefined || value === null;

/** Minutes left of a task after what is logged, weighed by its likelihood, rounded down. */
export function remainingMinutes(
  task: Pick<LoadTaskInput, 'estimate' | 'logged' | 'remaining' | 'likelihood'>,
  defaultMinutes: number,
): number {
  const left = task.remaining ?? Math.max(0, (task.estimate ?? defaultMinutes) - (task.logged ?? 0));
  return Math.floor((left * (task.likelihood ?? 100)) / 100);
}

/** One task as the book takes it. */
export function readItem(task: LoadTaskInput, personIndex: ReadonlyMap<string, number>, defaultMinutes: number): LoadItem {
  if (!hasPlainMinutes(task)) requireMinutes(task);
  const first = parseDay(task.start) ?? requireDay(task.start, `tasks[${task.id}].start`);
  const last = parseDay(task.due) ?? requireDay(task.due, `tasks[${task.id}].due`);
  if (last < first) refuse({ kind: 'invalid-field', at: `tasks[${task.id}].due`, expected: 'on or after start' });
  if (!Array.isArray(task.assignees)) requireList(task.assignees, `tasks[${task.id}].assignees`);
  const people: number[] = [];
  const shares: number[] = [];
  let placed: (readonly PlacedMinutes[] | null)[] | null = null;
  for (const assignee of task.assignees) {
    const person = typeof assignee === 'object' && assignee !== null ? personIndex.get(assignee.person) : undefined;
    if (person === undefined) return refuseAssignee(task, assignee);
    if (assignee.placed !== undefined && assignee.placed !== null)
      (placed ??= task.assignees.map(() => null))[people.length] = readPlaced(task, assignee.placed);
    people.push(person);
    shares.push(assignee.share === undefined ? 1 : requireWhole(assignee.share, () => `tasks[${task.id}].assignees.share`, 1));
  }
  return { minutes: remainingMinutes(task, defaultMinutes), first, last, people, shares, placed };
}

/** In order of day, as they are counted; null for an empty list. */
function readPlaced(task: LoadTaskInput, placed: NonNullable<LoadAssignee['placed']>): readonly PlacedMinutes[] | null {
  const at = `tasks[${task.id}].assignees.placed`;
  requireList(placed, at);
  if (placed.length === 0) return null;
  return placed
    .map((one): PlacedMinutes => {
      requireObject(one, at);
      return { day: requireDay(one.day, `${at}.day`), minutes: requireWhole(one.minutes, `${at}.minutes`, 0) };
    })
    .sort((left, right) => left.day - right.day);
}

const isMinutes = (value: unknown): boolean => isMissing(value) || (Number.isSafeInteger(value) && (value as number) >= 0);

const hasPlainMinutes = (task: LoadTaskInput): boolean =>
  isMinutes(task.estimate) && isMinutes(task.logged) && isMinutes(task.remaining) && isMissing(task.likelihood);

/** The careful reading, with the place of what is wrong; tasks without any of it do not pay for it. */
function requireMinutes(task: LoadTaskInput): void {
  for (const field of ['estimate', 'logged', 'remaining'] as const) {
    if (!isMissing(task[field])) requireWhole(task[field], `tasks[${task.id}].${field}`, 0);
  }
  if (!isMissing(task.likelihood) && requireWhole(task.likelihood, `tasks[${task.id}].likelihood`, 0) > 100) {
    refuse({ kind: 'invalid-field', at: `tasks[${task.id}].likelihood`, expected: 'a percentage from 0 to 100' });
  }
}

function refuseAssignee(task: LoadTaskInput, assignee: unknown): never {
  const at = `tasks[${task.id}].assignees`;
  requireObject(assignee, at);
  return refuse({ kind: 'unknown-id', at, id: String(assignee['person']) });
}

function renderDays(book: LoadBook, person: number, dates: readonly IsoDay[]): LoadDay[] {
  return dates.map((date, day) => {
    const cell = person * book.days + day;
    const capacity = book.capacity[cell] as number;
    const minutes = book.load[cell] as number;
    return { date, capacity, load: minutes, over: Math.max(0, minutes - capacity) };
  });
}
