import { isOpen, type Calendar } from '../calendar/calendar.ts';
import { capacityOn, capacityOnOpenDay, type Person } from '../calendar/capacity.ts';
import type { DayNumber } from '../calendar/day.ts';
import { splitByLargestRemainder, splitInto } from './split.ts';

/** Minutes that somebody put on a day of their own week. */
export interface PlacedMinutes {
  readonly day: DayNumber;
  readonly minutes: number;
}

/** One task as the load sees it: minutes left, first and last day, and who shares it. */
export interface LoadItem {
  readonly minutes: number;
  readonly first: DayNumber;
  readonly last: DayNumber;
  readonly people: readonly number[];
  readonly shares: readonly number[];
  /** What each of the people put on days of their own, in the order of the days; null for somebody, or everybody, who put nothing. */
  readonly placed: readonly (readonly PlacedMinutes[] | null)[] | null;
}

/** Whether two tasks lie on the same days of the same people in the same parts. */
export function isSameItem(one: LoadItem, other: LoadItem): boolean {
  return (
    one.minutes === other.minutes &&
    one.first === other.first &&
    one.last === other.last &&
    one.people.length === other.people.length &&
    one.people.every((person, index) => person === other.people[index] && one.shares[index] === other.shares[index]) &&
    (one.placed === other.placed || JSON.stringify(one.placed) === JSON.stringify(other.placed))
  );
}

/** A person who can never work gets everything on the first day after this many days. */
const SEARCH_DAYS = 3660;

/**
 * The minutes of every person on every day of a window, kept current one task at a time.
 * Work outside the window is placed too, it is just not shown.
 */
export class LoadBook {
  readonly from: DayNumber;
  readonly days: number;
  readonly today: DayNumber;
  /** load[person × days + day] in minutes. */
  readonly load: Int32Array;
  /** Capacity in the order of `load`. */
  readonly capacity: Int32Array;
  private readonly calendar: Calendar;
  private readonly people: readonly Person[];
  private readonly worksAtAll: Uint8Array;
  private readonly parts: Int32Array;
  private readonly weights: Int32Array;
  private readonly fractions: Float64Array;

  constructor(window: {
    readonly calendar: Calendar;
    readonly people: readonly Person[];
    readonly today: DayNumber;
    readonly from: DayNumber;
    readonly to: DayNumber;
  }) {
    this.calendar = window.calendar;
    this.people = window.people;
    this.today = window.today;
    this.from = window.from;
    this.days = window.to - window.from + 1;
    this.load = new Int32Array(this.people.length * this.days);
    this.capacity = new Int32Array(this.people.length * this.days);
    for (let day = 0; day < this.days; day++) {
      if (!isOpen(this.calendar, this.from + day)) continue;
      for (let person = 0; person < this.people.length; person++) {
        this.capacity[person * this.days + day] = capacityOnOpenDay(this.people[person] as Person, this.from + day);
      }
    }
    this.worksAtAll = Uint8Array.from(this.people, (person) =>
      person.reserve < 100 && person.week.some((minutes) => minutes > 0) ? 1 : 0,
    );
    this.parts = new Int32Array(SEARCH_DAYS);
    this.weights = new Int32Array(SEARCH_DAYS);
    this.fractions = new Float64Array(SEARCH_DAYS);
  }

  /** Lays a task on its people's days. */
  add(item: LoadItem): void {
    this.apply(item, 1);
  }

  /** Takes a task off again: exactly what `add` put there. */
  remove(item: LoadItem): void {
    this.apply(item, -1);
  }

  private apply(item: LoadItem, sign: 1 | -1): void {
    if (item.people.length === 0 || item.minutes === 0) return;
    const first = Math.max(item.first, this.today);
    const { last, minutes } = item;
    if (item.people.length === 1 && item.placed === null) {
      return this.spread(item.people[0] as number, { first, last, minutes, sign, held: null });
    }
    const parts = splitByLargestRemainder(minutes, item.shares);
    item.people.forEach((person, index) => {
      const part = { first, last, minutes: parts[index] as number, sign, held: null };
      const placed = item.placed?.[index] ?? null;
      this.spread(person, placed === null ? part : this.putPlaced(person, part, placed));
    });
  }

  /** Puts what they placed on its days, as far as their part reaches, and answers what is left to spread over other days. */
  private putPlaced(person: number, part: Part, placed: readonly PlacedMinutes[]): Part {
    const held = new Set<DayNumber>();
    let { minutes } = part;
    for (const one of placed) {
      if (one.day < this.today || one.minutes === 0) continue;
      const reached = Math.min(minutes, one.minutes);
      this.put(person, one.day, reached * part.sign);
      held.add(one.day);
      minutes -= reached;
    }
    return { ...part, minutes, held };
  }

  private capacityAt(person: number, day: DayNumber): number {
    const offset = day - this.from;
    if (offset >= 0 && offset < this.days) return this.capacity[person * this.days + offset] as number;
    return capacityOn(this.calendar, this.people[person] as Person, day);
  }

  private put(person: number, day: DayNumber, minutes: number): void {
    const offset = day - this.from;
    if (offset < 0 || offset >= this.days) return;
    const cell = person * this.days + offset;
    this.load[cell] = (this.load[cell] as number) + minutes;
  }

  /** The capacity that a part may be spread over: none on days that hold placed minutes of it. */
  private roomFor(person: number, day: DayNumber, { held }: Part): number {
    return held !== null && held.has(day) ? 0 : this.capacityAt(person, day);
  }

  private spread(person: number, part: Part): void {
    if (part.minutes === 0) return;
    const span = part.last - part.first + 1;
    if (span <= 0) return this.fill(person, part);
    if (span > SEARCH_DAYS) return this.spreadLong(person, part, span);
    const isInside = part.first >= this.from && part.last < this.from + this.days;
    if (isInside && part.held === null && this.spreadEvenly(person, part)) return;
    let openDays = 0;
    for (let day = 0; day < span; day++) {
      const capacity = this.roomFor(person, part.first + day, part);
      this.weights[day] = capacity;
      if (capacity > 0) openDays++;
    }
    if (openDays === 0) return this.fill(person, part);
    splitInto({ whole: part.minutes, weights: this.weights, first: 0, last: span, parts: this.parts, fractions: this.fractions });
    for (let day = 0; day < span; day++) this.put(person, part.first + day, (this.parts[day] as number) * part.sign);
  }

  /**
   * The usual case, within the window and over days of one length: largest remainder then means one
   * minute more on the first days. False, and nothing placed, where it is another case.
   */
  private spreadEvenly(person: number, { first, last, minutes, sign }: Part): boolean {
    const { capacity, load } = this;
    const begin = person * this.days + first - this.from;
    const end = begin + last - first;
    let usual = 0;
    let openDays = 0;
    for (let cell = begin; cell <= end; cell++) {
      const open = capacity[cell] as number;
      if (open === 0) continue;
      openDays++;
      if (usual === 0) usual = open;
      else if (open !== usual) return false;
    }
    if (openDays === 0) return false;
    const share = Math.floor(minutes / openDays);
    let rest = minutes - share * openDays;
    for (let cell = begin; cell <= end; cell++) {
      if (capacity[cell] === 0) continue;
      load[cell] = (load[cell] as number) + (rest > 0 ? share + 1 : share) * sign;
      rest--;
    }
    return true;
  }

  private spreadLong(person: number, part: Part, span: number): void {
    const weights = Array.from({ length: span }, (_, day) => this.roomFor(person, part.first + day, part));
    if (weights.every((capacity) => capacity === 0)) return this.fill(person, part);
    splitByLargestRemainder(part.minutes, weights).forEach((minutes, day) => this.put(person, part.first + day, minutes * part.sign));
  }

  /** No day with capacity in the task's own span: the first days on, each up to its whole capacity. */
  private fill(person: number, part: Part): void {
    let left = part.minutes;
    const lastDay = this.worksAtAll[person] === 1 ? part.first + SEARCH_DAYS : part.first;
    for (let day = part.first; left > 0 && day < lastDay; day++) {
      const minutes = Math.min(left, this.roomFor(person, day, part));
      if (minutes > 0) this.put(person, day, minutes * part.sign);
      left -= minutes;
    }
    // Somebody with no working day at all: shown at once as over, never lost.
    if (left > 0) this.put(person, part.first, left * part.sign);
  }
}

interface Part {
  readonly first: DayNumber;
  readonly last: DayNumber;
  readonly minutes: number;
  readonly sign: 1 | -1;
  /** Days that hold placed minutes of it already; null where nothing was placed. */
  readonly held: ReadonlySet<DayNumber> | null;
}
