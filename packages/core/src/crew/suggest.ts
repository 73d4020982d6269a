/** Somebody who holds the role, with what the window leaves them. */
export interface Candidate {
  readonly id: string;
  readonly capacityMinutes: number;
  readonly plannedMinutes: number;
  /** Finished or running engagements with the same client they worked on. */
  readonly pastEngagements: number;
}

/** A candidate with the reason as data; `freeMinutes` is what is left after taking the work (negative = over). */
export interface SuggestedPerson {
  readonly id: string;
  readonly freeMinutes: number;
  readonly neededMinutes: number;
  readonly pastEngagements: number;
  readonly isFull: boolean;
}

/** Knowing the client is worth this share of the work in free time, in percent. */
const FAMILIAR_BONUS = 25;

/**
 * Who should do it, best first: most free minutes in the window after adding the work, with
 * a bonus for having worked for this client. Somebody away for the whole window is left out.
 * Ties go to the smaller id, so the answer does not depend on the order asked in.
 */
export function suggestPeople(candidates: readonly Candidate[], neededMinutes: number): readonly SuggestedPerson[] {
  const score = (person: SuggestedPerson): number =>
    person.freeMinutes + (person.pastEngagements > 0 ? Math.floor((neededMinutes * FAMILIAR_BONUS) / 100) : 0);
  return candidates
    .filter((candidate) => candidate.capacityMinutes > 0)
    .map((candidate): SuggestedPerson => {
      const freeMinutes = candidate.capacityMinutes - candidate.plannedMinutes - neededMinutes;
      return { id: candidate.id, freeMinutes, neededMinutes, pastEngagements: candidate.pastEngagements, isFull: freeMinutes < 0 };
    })
    .sort((left, right) => score(right) - score(left) || (left.id < right.id ? -1 : 1));
}
