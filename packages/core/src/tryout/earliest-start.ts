import { readCalendar, select, rank } from '../calendar/calendar.ts';
import { formatDay, type DayNumber, type IsoDay } from '../calendar/day.ts';
import { refuse, requireDay, requireList, requireObject, requireWhole } from '../check.ts';
import type { LoadBook, LoadItem } from '../load/book.ts';
import { openBook } from '../load/load.ts';
import type { LoadInput } from '../load/types.ts';
import { attempt, ProblemError, type Result } from '../result.ts';
import { schedule } from '../schedule/schedule.ts';
import type { Schedule, ScheduleInput } from '../schedule/types.ts';
import { addedOver, BEHIND_DAYS, LEAST_OVER } from './added-over.ts';

/** What a task of the new work asks of somebody; minutes. */
export interface TriedWork {
  readonly task: string;
  readonly person: string;
  readonly minutes: number;
}

/** Work of one role: one of its holders does all of it, whoever is freest on the days it would fall on; minutes. */
export interface TriedTeam {
  readonly id: string;
  /** Who may do it; of those it fits alike the first. */
  readonly holders: readonly string[];
  readonly work: readonly { readonly task: string; readonly minutes: number }[];
}

/** New work to try on the real load, wherever it starts. */
export interface EarliestStartInput {
  /** The real load; its window does not matter, the search makes its own. */
  readonly load: Omit<LoadInput, 'from' | 'to'>;
  readonly plan: Omit<ScheduleInput, 'start' | 'today'>;
  /** What is somebody's already. */
  readonly work: readonly TriedWork[];
  /** How work is shared out is decided for each day anew. */
  readonly teams?: readonly TriedTeam[];
  /** The first day it may start on, and how many working days are tried from there (250). */
  readonly from: IsoDay;
  readonly tries?: number;
}

/** The first start that puts nobody over more than they are, and when it would then be finished; without one, the start that does least harm. */
export interface EarliestStart {
  readonly start: IsoDay;
  readonly finish: IsoDay;
  /** Whether it overloads nobody. */
  readonly fits: boolean;
  /** Working days that were tried and overloaded somebody. */
  readonly tried: number;
  /** Who does the work of each team then; teams without holders are left out. */
  readonly teams: readonly { readonly id: string; readonly person: string }[];
  /** Who does not have the time for it, being full or away, and how much is missing; none when it fits. Minutes. */
  readonly over: readonly PersonMinutes[];
  /** Who is over by this work alone, were nothing else to do: no other start would help them. Minutes. */
  readonly alone: readonly PersonMinutes[];
}

export interface PersonMinutes {
  readonly person: string;
  readonly minutes: number;
}

const TRIES = 250;
const MOST_TRIES = 1000;

/**
 * The earliest start that overloads nobody: each working day from `from` on is tried on the real load,
 * the whole of the new work placed as the schedule and the load place it, until one adds less than
 * half an hour above anybody's capacity (core-spec, sections 2 and 3) and falls on days when its
 * people are there. On each day the work of a team goes to the holder it puts least over. Overload by
 * the work alone, with nothing else to do, is answered separately: no other start would remove it.
 * When none of the tries fits, the one that adds least, of equal ones the first.
 */
export function earliestStart(input: EarliestStartInput): Result<EarliestStart> {
  return attempt(() => {
    requireObject(input, 'input');
    requireList(input.work, 'work');
    requireList(input.teams ?? [], 'teams');
    const search = new Search(input);
    let least: EarliestStart | null = null;
    for (let offset = 0; offset < search.tries; offset++) {
      const found = search.at(offset);
      if (found.fits) return found;
      if (least === null || sumOf(found.over) < sumOf(least.over)) least = found;
    }
    return least as EarliestStart;
  });
}

const sumOf = (over: readonly PersonMinutes[]): number => over.reduce((sum, { minutes }) => sum + minutes, 0);

/** The real load and an empty one, and what the new work adds to each. */
class Search {
  readonly tries: number;
  private readonly input: EarliestStartInput;
  private readonly dayOf: (offset: number) => DayNumber;
  private readonly book: LoadBook;
  private readonly empty: LoadBook;
  private readonly people: ReadonlyMap<string, number>;

  constructor(input: EarliestStartInput) {
    this.input = input;
    this.tries = input.tries === undefined ? TRIES : requireWhole(input.tries, 'tries', 1);
    if (this.tries > MOST_TRIES) refuse({ kind: 'invalid-field', at: 'tries', expected: `at most ${MOST_TRIES}` });
    const calendar = readCalendar(input.load.calendar, 'load.calendar');
    const first = rank(calendar, requireDay(input.from, 'from'));
    this.dayOf = (offset) => select(calendar, first + offset);
    const start = this.dayOf(0);
    // Calendar days from the first start to its finish, and some for closed days another start may meet.
    const length = requireDay(planned(input, formatDay(start)).finish, 'finish') - start + 7;
    const window = { from: input.load.today, to: formatDay(this.dayOf(this.tries) + length + BEHIND_DAYS) };
    this.book = openBook({ ...input.load, ...window }).book;
    const people = input.load.people.map((person) => ({ ...person, off: [] }));
    this.empty = openBook({ ...input.load, ...window, people, tasks: [] }).book;
    this.people = new Map(input.load.people.map((person, index) => [person.id, index]));
  }

  at(offset: number): EarliestStart {
    const start = formatDay(this.dayOf(offset));
    const plan = planned(this.input, start);
    const dates = new Map(plan.tasks.map((task) => [task.id, task]));
    const items = this.input.work.map((work) => this.itemOf(dates, work));
    const teams: { id: string; person: string }[] = [];
    for (const team of this.input.teams ?? []) {
      const chosen = this.choose(dates, team, items);
      if (chosen === null) continue;
      items.push(...chosen.items);
      teams.push({ id: team.id, person: chosen.person });
    }
    const touched = [...new Set(items.flatMap((item) => item.people))];
    const { harm, alone } = this.weigh(items, touched);
    const named = (minutesOf: (index: number) => number): PersonMinutes[] =>
      touched
        .map((person, index) => ({ person: this.input.load.people[person]?.id ?? '', minutes: minutesOf(index) }))
        .filter(({ minutes }) => minutes >= LEAST_OVER);
    const over = named((index) => harm[index] as number);
    return {
      ...{ start, finish: plan.finish, fits: over.length === 0, tried: offset, teams, over },
      alone: named((index) => alone[index] as number),
    };
  }

  /**
   * What people lack for the work: minutes above their capacity, or on days they are away. What they
   * would lack with nothing else to do is answered separately.
   */
  private weigh(
    items: readonly LoadItem[],
    touched: readonly number[],
  ): { readonly harm: readonly number[]; readonly alone: readonly number[] } {
    const [added, alone] = [addedOver(this.book, items, touched), addedOver(this.empty, items, touched)];
    const away = touched.map((person) =>
      items.filter((item) => item.people[0] === person && isAway(this.book, item)).reduce((sum, { minutes }) => sum + minutes, 0),
    );
    return { harm: added.map((minutes, index) => Math.max(0, minutes - (alone[index] as number)) + (away[index] as number)), alone };
  }

  /** The holder whom the work of a team, on top of what is placed already, puts least over; null when there is none. */
  private choose(
    dates: Dates,
    { holders, work }: TriedTeam,
    placed: readonly LoadItem[],
  ): { readonly person: string; readonly items: readonly LoadItem[] } | null {
    let best: { person: string; items: readonly LoadItem[]; over: number } | null = null;
    for (const person of holders) {
      const items = work.map((one) => this.itemOf(dates, { ...one, person }));
      const all = [...placed.filter((item) => item.people[0] === items[0]?.people[0]), ...items];
      const touched = [...new Set(items.flatMap((item) => item.people))];
      const { harm, alone } = this.weigh(all, touched);
      // What is too much by itself is too much for the others of the role only if it is for them too.
      const sum = (harm[0] ?? 0) + (alone[0] ?? 0);
      const over = sum < LEAST_OVER ? 0 : sum;
      if (best === null || over < best.over) best = { person, items, over };
      if (over === 0) break;
    }
    return best;
  }

  /** New work as an item of the load book. */
  private itemOf(dates: Dates, { task, person, minutes }: TriedWork): LoadItem {
    const at = dates.get(task);
    const place = this.people.get(person);
    if (at === undefined) return refuse({ kind: 'unknown-id', at: 'work.task', id: task });
    if (place === undefined) return refuse({ kind: 'unknown-id', at: 'work.person', id: person });
    return {
      minutes: requireWhole(minutes, `work[${task}].minutes`, 0),
      first: requireDay(at.start, 'start'),
      last: requireDay(at.finish, 'finish'),
      people: [place],
      shares: [1],
      placed: null,
    };
  }
}

/** Whether its person is there on none of the days of an item: it would be done behind them. */
function isAway(book: LoadBook, { people, first, last }: LoadItem): boolean {
  const row = (people[0] as number) * book.days - book.from;
  for (let day = Math.max(first, book.today); day <= last; day++) if ((book.capacity[row + day] as number) > 0) return false;
  return true;
}

type Dates = ReadonlyMap<string, { readonly start: IsoDay; readonly finish: IsoDay }>;

function planned({ plan }: EarliestStartInput, start: IsoDay): Schedule {
  const result = schedule({ ...plan, start });
  if (!result.ok) throw new ProblemError(result.problem);
  return result.value;
}
