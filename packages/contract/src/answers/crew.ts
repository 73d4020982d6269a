import type { Access } from '../words.ts';

/* People of the agency. Days are ISO days, effort is minutes, times are ISO instants. */

export interface PersonRef {
  readonly id: string;
  readonly name: string;
  readonly initials: string;
}

export interface CrewPerson extends PersonRef {
  readonly access: Access;
  readonly roleIds: readonly string[];
  readonly roles: readonly string[];
  readonly week: readonly number[];
}

export interface Crew {
  readonly roles: readonly { readonly id: string; readonly name: string }[];
  readonly people: readonly CrewPerson[];
}

/** Somebody of the crew as those see them who look after it. */
export interface CrewMember extends CrewPerson {
  readonly email: string;
  readonly isActive: boolean;
  /** Takes their handoffs while they are away; null leaves that to the lead of each engagement. */
  readonly standInId: string | null;
  readonly openTasks: number;
  readonly version: number;
}

/** Somebody of the crew who was changed; `changeId` undoes it, and is null when nothing changed. */
export interface PersonEdited {
  readonly person: CrewMember;
  readonly changeId: string | null;
}
