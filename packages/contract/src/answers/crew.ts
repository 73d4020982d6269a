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

/** A person of the crew, as the people who manage the crew see them. */
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

/** A role with where it is used; one that is used nowhere can be deleted. */
export interface RoleLine {
  readonly id: string;
  readonly name: string;
  /** How many people hold it, not counting those who left. */
  readonly people: number;
  /** How many tasks of running engagements and proposals need it. */
  readonly openTasks: number;
  /** How many templates name it, archived ones included. */
  readonly templates: number;
  /** Whether anything names it, archived and closed things included. */
  readonly isUsed: boolean;
}

/** A change of the agency's lists; `changeId` undoes it, and is null when nothing changed. */
export interface ListChanged {
  readonly changeId: string | null;
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
  /** The address it was mailed to; null where no mail server is set up: somebody has to pass it on by hand. */
  readonly mailedTo: string | null;
}

/** People who were invited, with their links. */
export interface PeopleInvited {
  readonly links: readonly AccessLinkMade[];
}
