import type { PersonRef } from './crew.ts';

/** Who else has something open at this moment, by name. */
export interface PeopleHere {
  readonly people: readonly PersonRef[];
}
