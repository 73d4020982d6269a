import type { Room } from './room.ts';

/** Somebody who holds the role, with what the work would leave them. */
export interface Candidate extends Room {
  /** Finished or running engagements with the same client they worked on. */
  readonly pastEngagements: number;
}

/** A candidate with the reason as data; `freeMinutes` is what is left on the days of the work after taking it, or, negative, what it puts them over. */
export interface SuggestedPerson {
  readonly id: string;
  readonly freeMinutes: number;
  readonly neededMinutes: number;
  readonly pastEngagements: number;
  /** It would put them over. */
  readonly isFull: boolean;
}

/** Knowing the client is worth this share of the work in free time, in percent. */
const FAMILIAR_BONUS = 25;

/**
 * Who should do it, best first: most free minutes on the days of the work after adding it, with
 * a bonus for having worked for this client. Somebody away on all of them is left out.
 * Ties go to the smaller id, so the answer does not depend on the order asked in.
 */
export function suggestPeople(candidates: readonly Candidate[], neededMinutes: number): readonly SuggestedPerson[] {
  const score = (person: SuggestedPerson): number =>
    person.freeMinutes + (person.pastEngagements > 0 ? Math.floor((neededMinutes * FAMILIAR_BONUS) / 100) : 0);
  return candidates
    .filter((candidate) => candidate.capacity > 0)
    .map(({ id, free, over, pastEngagements }): SuggestedPerson => {
      const isFull = over > 0;
      return { id, freeMinutes: isFull ? -over : free, neededMinutes, pastEngagements, isFull };
    })
    .sort((left, right) => score(right) - score(left) || (left.id < right.id ? -1 : 1));
}
