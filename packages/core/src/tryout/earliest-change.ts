import { refuse, requireDay, requireList, requireWhole } from '../check.ts';
import { formatDay, type IsoDay } from '../calendar/day.ts';
import type { LoadItem } from '../load/book.ts';
import { openBook } from '../load/load.ts';
import type { LoadInput } from '../load/types.ts';
import { attempt, type Result } from '../result.ts';
import { addedOver, BEHIND_DAYS, LEAST_OVER } from './added-over.ts';

/** Work on given days; minutes. */
export interface DatedWork {
  readonly person: string;
  readonly minutes: number;
  readonly start: IsoDay;
  readonly due: IsoDay;
}

/** A change that could be made on a day: the work as it would go on, and as it would be instead. */
export interface ChangeCandidate {
  readonly from: IsoDay;
  readonly before: readonly DatedWork[];
  readonly after: readonly DatedWork[];
}

/** The first change that fits, and who is over by the changed work alone. */
export interface EarliestChange {
  /** Null when none of the candidates fits. */
  readonly from: IsoDay | null;
  /** Of the change that fits, or of the first one: no other day would help them. Minutes. */
  readonly alone: readonly { readonly person: string; readonly minutes: number }[];
}

/**
 * The first of the candidates, in their order, that puts nobody half an hour or more further over on
 * the real load than the work as it would go on. Who is over by the changed work alone, with nothing
 * else to do, is answered separately. `load` must hold neither work.
 */
export function earliestChange(input: {
  readonly load: Omit<LoadInput, 'from' | 'to'>;
  readonly candidates: readonly ChangeCandidate[];
}): Result<EarliestChange> {
  return attempt(() => {
    requireList(input.candidates, 'candidates');
    const people = new Map(input.load.people.map((person, index) => [person.id, index]));
    const read = (work: readonly DatedWork[], at: string): LoadItem[] => work.map((one) => itemOf(one, people, at));
    const changes = input.candidates.map(({ from, before, after }, index) => ({
      from,
      before: read(before, `candidates[${index}].before`),
      after: read(after, `candidates[${index}].after`),
    }));
    const last = Math.max(
      requireDay(input.load.today, 'load.today'),
      ...changes.flatMap(({ before, after }) => [...before, ...after].map((item) => item.last)),
    );
    const window = { from: input.load.today, to: formatDay(last + BEHIND_DAYS) };
    const books = [openBook({ ...input.load, ...window }).book, openBook({ ...input.load, ...window, tasks: [] }).book] as const;
    const judge = ({ before, after }: (typeof changes)[number]): { readonly fits: boolean; readonly alone: EarliestChange['alone'] } => {
      const touched = [...new Set([...before, ...after].flatMap((item) => item.people))];
      const [added, alone] = books.map((book) => {
        const [then, now] = [addedOver(book, before, touched), addedOver(book, after, touched)];
        return now.map((minutes, index) => minutes - (then[index] as number));
      }) as [number[], number[]];
      return {
        fits: touched.every((_, index) => (added[index] as number) - (alone[index] as number) < LEAST_OVER),
        alone: touched
          .map((person, index) => ({ person: input.load.people[person]?.id ?? '', minutes: alone[index] as number }))
          .filter(({ minutes }) => minutes >= LEAST_OVER),
      };
    };
    const judged = changes.map((change) => ({ change, ...judge(change) }));
    const found = judged.find(({ fits }) => fits);
    return { from: found?.change.from ?? null, alone: (found ?? judged[0])?.alone ?? [] };
  });
}

function itemOf({ person, minutes, start, due }: DatedWork, people: ReadonlyMap<string, number>, at: string): LoadItem {
  const place = people.get(person);
  if (place === undefined) return refuse({ kind: 'unknown-id', at: `${at}.person`, id: person });
  const days = { first: requireDay(start, `${at}.start`), last: requireDay(due, `${at}.due`) };
  return { ...days, minutes: requireWhole(minutes, `${at}.minutes`, 0), people: [place], shares: [1], placed: null };
}
