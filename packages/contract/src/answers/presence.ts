import type { PersonRef } from './crew.ts';

/** Who else has the same page or task open at this moment, by name. */
export interface PeopleHere {
  readonly people: readonly PersonRef[];
}
