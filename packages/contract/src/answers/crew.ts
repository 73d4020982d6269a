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
  /** Until when their invitation can be used; null once they have a password, or without one. */
  readonly invitedUntil: string | null;
  /** Whether they have chosen a password. */
  readonly hasPassword: boolean;
  readonly version: number;
}

/** Somebody of the crew who was changed; `changeId` undoes it, and is null when nothing changed. */
export interface PersonEdited {
  readonly person: CrewMember;
  readonly changeId: string | null;
}

/** A link by which somebody chooses a password, and how they get it. */
export interface AccessLinkMade {
  readonly personId: string;
  readonly name: string;
  readonly link: string;
  readonly expiresAt: string;
  /** The address it was mailed to; null where no mail server is set up: it is to be passed on by hand. */
  readonly mailedTo: string | null;
}

/** People who were invited, with their links. */
export interface PeopleInvited {
  readonly links: readonly AccessLinkMade[];
}
