import { addWorkingDays, readCalendar, type Calendar } from '../calendar/calendar.ts';
import { formatDay, parseDay, type DayNumber } from '../calendar/day.ts';
import { indexById, refuse, requireDay, requireObject, requireWhole } from '../check.ts';
import { roomOf } from '../crew/room.ts';
import { suggestPeople } from '../crew/suggest.ts';
import type { LoadBook, LoadItem } from '../load/book.ts';
import { openBook, readItem } from '../load/load.ts';
import { attempt, type Result } from '../result.ts';
import { measure, sumsWithin, type Fullness } from './measure.ts';
import type { Ease, EaseInput, EasePerson, EaseProposal, EaseStep, EaseTask } from './types.ts';

/** Work moved out of the window must not pile up just behind it: this far is looked. */
const BEHIND_DAYS = 92;
/** The furthest a task is moved or let slip, in working days beyond its slack. */
const FURTHEST = 10;
const MOST_PROPOSALS = 12;
/** How much of a task is handed over when it is split, in quarters, tried in this order. */
const QUARTERS = [2, 1, 3];
const KIND_ORDER: readonly EaseStep['kind'][] = ['move', 'give', 'split', 'extend', 'slip'];

/**
 * What could ease somebody's load, ranked: fewest deadlines moved, most relief, fewest people
 * touched (core-spec, section 3). Proposed are only steps that leave nobody more overloaded
 * than before, and nobody away is proposed. Each is judged alone: minutes of work, working days.
 */
export function easeLoad(input: EaseInput): Result<Ease> {
  return attempt(() => {
    const desk = openDesk(input);
    const { over, overDays } = sumsWithin(desk.book, desk.person, desk.window);
    if (over === 0) return { over, overDays, proposals: [] };
    const proposals = tasksBehind(desk).flatMap((task) => proposalsFor(desk, task));
    return { over, overDays, proposals: rank(proposals).slice(0, desk.most) };
  });
}

interface Desk {
  readonly calendar: Calendar;
  readonly book: LoadBook;
  readonly person: number;
  readonly people: readonly EasePerson[];
  readonly tasks: readonly EaseTask[];
  readonly personIndex: ReadonlyMap<string, number>;
  readonly defaultMinutes: number;
  readonly window: { readonly from: DayNumber; readonly to: DayNumber };
  readonly most: number;
}

function openDesk(input: EaseInput): Desk {
  requireObject(input, 'input');
  const to = requireDay(input.to, 'to');
  const { book } = openBook({ ...input, to: formatDay(to + BEHIND_DAYS) });
  const personIndex = indexById(input.people, 'people');
  const person = personIndex.get(input.person);
  if (person === undefined) return refuse({ kind: 'unknown-id', at: 'person', id: String(input.person) });
  return {
    calendar: readCalendar(input.calendar, 'calendar'),
    book,
    person,
    people: input.people,
    tasks: input.tasks,
    personIndex,
    defaultMinutes: input.defaultMinutes,
    window: { from: requireDay(input.from, 'from'), to },
    most: input.most === undefined ? MOST_PROPOSALS : requireWhole(input.most, 'most', 1),
  };
}

/** A task of the overloaded person that lies on a day that is too full. */
interface Behind {
  readonly task: EaseTask;
  readonly item: LoadItem;
}

function tasksBehind({ book, tasks, people, person, personIndex, defaultMinutes, window }: Desk): Behind[] {
  const id = (people[person] as EasePerson).id;
  return tasks.flatMap((task): Behind[] => {
    if (task.done === true || task.coming === true || !task.assignees.some((assignee) => assignee.person === id)) return [];
    const item = readItem(task, personIndex, defaultMinutes);
    if (item.minutes === 0) return [];
    const before = sumsWithin(book, person, window).over;
    book.remove(item);
    const without = sumsWithin(book, person, window).over;
    book.add(item);
    return without < before ? [{ task, item }] : [];
  });
}

function proposalsFor(desk: Desk, behind: Behind): EaseProposal[] {
  const { task } = behind;
  const slack = Math.max(0, task.slack ?? 0);
  const handed = [...giveAway(desk, behind), ...splitUp(desk, behind)];
  if (task.stays === true) return handed;
  const within = range(1, Math.min(slack, FURTHEST));
  const beyond = range(slack + 1, slack + FURTHEST);
  const shift = task.begun === true ? stretched : moved;
  return [
    ...handed,
    ...(task.begun === true
      ? []
      : best(within.map((days) => judge(desk, behind, { ...moved(desk, behind, days), step: { kind: 'move', days, slack } })))),
    ...best(within.map((days) => judge(desk, behind, { ...stretched(desk, behind, days), step: { kind: 'extend', days, slack } }))),
    ...best(beyond.map((days) => judge(desk, behind, { ...shift(desk, behind, days), step: { kind: 'slip', days, slack } }))),
  ];
}

const range = (first: number, last: number): number[] => Array.from({ length: Math.max(0, last - first + 1) }, (_, index) => first + index);

interface Try {
  readonly step: EaseStep;
  readonly item: LoadItem;
}

/** The whole task later by working days, counted from today when its days are past. */
function moved({ calendar, book }: Desk, { item }: Behind, days: number): Pick<Try, 'item'> {
  const first = addWorkingDays(calendar, Math.max(item.first, book.today), days);
  return { item: { ...item, first, last: Math.max(first, addWorkingDays(calendar, Math.max(item.last, book.today), days)) } };
}

/** The same work over more days. */
const stretched = ({ calendar, book }: Desk, { item }: Behind, days: number): Pick<Try, 'item'> => ({
  item: { ...item, last: addWorkingDays(calendar, Math.max(item.last, book.today), days) },
});

function giveAway(desk: Desk, behind: Behind): EaseProposal[] {
  const share = shareOf(desk, behind.item);
  return receivers(desk, behind, partOf(behind.item, share))
    .flatMap(({ index, freeMinutes, knows }) => {
      const people = behind.item.people.map((person) => (person === desk.person ? index : person));
      const placed = behind.item.placed?.map((own, at) => (people[at] === index ? null : own)) ?? null;
      const step: EaseStep = { kind: 'give', to: (desk.people[index] as EasePerson).id, freeMinutes, knows };
      return judge(desk, behind, { step, item: { ...behind.item, people, placed } });
    })
    .slice(0, 2);
}

function splitUp(desk: Desk, behind: Behind): EaseProposal[] {
  const share = shareOf(desk, behind.item);
  const part = partOf(behind.item, share);
  if (part < LEAST_SPLIT_MINUTES) return [];
  const tries = QUARTERS.flatMap((quarters) => {
    const minutes = Math.round((part * quarters) / 4 / 15) * 15;
    const [receiver] = receivers(desk, behind, minutes);
    if (receiver === undefined) return [];
    const { index, freeMinutes, knows } = receiver;
    // Shares are given in minutes, so that each person's part is exactly the number shown.
    const own = behind.item.people.map(
      (person, index) => partOf(behind.item, behind.item.shares[index] as number) - (person === desk.person ? minutes : 0),
    );
    const item = {
      ...behind.item,
      people: [...behind.item.people, index],
      shares: [...own, minutes].map((minute) => Math.max(1, minute)),
      placed: behind.item.placed && [...behind.item.placed, null],
    };
    const step: EaseStep = {
      kind: 'split',
      with: (desk.people[index] as EasePerson).id,
      minutes,
      keeps: part - minutes,
      freeMinutes,
      knows,
    };
    return judge(desk, behind, { step, item });
  });
  return best(tries.map((proposal) => [proposal]));
}

/** The least a split hands over, in minutes: less is not worth the time somebody else needs to read into the task. */
const LEAST_SPLIT_MINUTES = 120;

const shareOf = ({ person }: Desk, item: LoadItem): number => item.shares[item.people.indexOf(person)] as number;

const partOf = (item: LoadItem, share: number): number =>
  Math.round((item.minutes * share) / item.shares.reduce((sum, other) => sum + other, 0));

/** Who could take this many minutes of the task: holders of its role with room in its days, best first. */
function receivers(desk: Desk, { task, item }: Behind, minutes: number) {
  const { book, people, person } = desk;
  const own = people[person] as EasePerson;
  const holds = (other: EasePerson): boolean =>
    task.role === undefined || task.role === null
      ? (other.roles ?? []).some((role) => (own.roles ?? []).includes(role))
      : (other.roles ?? []).includes(task.role);
  const candidates = people.flatMap((other, index) => {
    if (item.people.includes(index) || !holds(other)) return [];
    const pastEngagements = (task.for ?? []).filter((name) => (other.knows ?? []).includes(name)).length;
    return [{ id: other.id, ...roomOf(book, index, [{ ...item, minutes }]), pastEngagements }];
  });
  return suggestPeople(candidates, minutes)
    .filter((candidate) => !candidate.isFull)
    .map(({ id, freeMinutes, pastEngagements }) => ({
      index: desk.personIndex.get(id) as number,
      freeMinutes: freeMinutes + minutes,
      knows: pastEngagements > 0,
    }));
}

/**
 * Puts the proposal on the book, measures everybody it touches, and takes it off again; nothing when
 * it does not help or overloads somebody further. The numbers shown are those of the days asked for;
 * whether work piles up behind them is judged over the whole book.
 */
function judge(desk: Desk, { task, item }: Behind, wanted: Try): EaseProposal[] {
  const { book, people, window } = desk;
  const touched = [...new Set([...item.people, ...wanted.item.people])];
  const shown = { first: window.from - book.from, end: window.to - book.from + 1 };
  const measured = (places?: typeof shown): Fullness[] => touched.map((person) => measure(book, person, places));
  const [before, wholeBefore] = [measured(shown), measured()];
  book.remove(item);
  book.add(wanted.item);
  const [after, wholeAfter] = [measured(shown), measured()];
  book.remove(wanted.item);
  book.add(item);
  const over = (measures: readonly Fullness[]): number => measures.reduce((sum, { over }) => sum + over, 0);
  const relieved = over(before) - over(after);
  const harms = touched.some(
    (person, index) => person !== desk.person && (wholeAfter[index] as Fullness).over > (wholeBefore[index] as Fullness).over,
  );
  if (relieved <= 0 || over(wholeAfter) >= over(wholeBefore) || harms) return [];
  return [
    {
      task: task.id,
      step: wanted.step,
      start: formatDay(wanted.item.first),
      due: formatDay(wanted.item.last),
      assignees: wanted.item.people.map((person, index) => ({
        person: (people[person] as EasePerson).id,
        share: wanted.item.shares[index] as number,
      })),
      relieved,
      deadlinesMoved: wanted.step.kind === 'slip' ? 1 : 0,
      effects: touched
        .map((person, index) => ({ person, before: before[index] as Fullness, after: after[index] as Fullness }))
        .sort((left, right) => Number(right.person === desk.person) - Number(left.person === desk.person))
        .map(({ person, ...effect }) => ({ person: (people[person] as EasePerson).id, ...effect })),
    },
  ];
}

/** The one that relieves most; among equals the first, which is the smaller step. */
function best(tries: readonly (readonly EaseProposal[])[]): EaseProposal[] {
  const found = tries.flat().reduce<EaseProposal | null>((top, next) => (top === null || next.relieved > top.relieved ? next : top), null);
  return found === null ? [] : [found];
}

function rank(proposals: readonly EaseProposal[]): EaseProposal[] {
  return [...proposals].sort(
    (left, right) =>
      left.deadlinesMoved - right.deadlinesMoved ||
      right.relieved - left.relieved ||
      left.effects.length - right.effects.length ||
      KIND_ORDER.indexOf(left.step.kind) - KIND_ORDER.indexOf(right.step.kind) ||
      (parseDay(left.due) as number) - (parseDay(right.due) as number) ||
      (left.task < right.task ? -1 : left.task > right.task ? 1 : 0),
  );
}
