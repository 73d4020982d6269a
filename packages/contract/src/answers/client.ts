import type { IsoDay } from '@crew/core';
import type { ClientHue, EngagementState, PhaseState, TaskStatus } from '../words.ts';

/* Clients, and what they see. Days are ISO days, effort is minutes, times are ISO instants. */

export interface ClientSummary {
  readonly id: string;
  readonly name: string;
  readonly hue: ClientHue;
  readonly isOwn: boolean;
  /** Engagements and proposals that are open. */
  readonly open: number;
  readonly contacts: readonly { readonly id: string; readonly name: string }[];
}

/** Somebody at a client, as the crew sees them. */
export interface ContactView {
  readonly id: string;
  readonly name: string;
  readonly initials: string;
  readonly email: string;
  readonly phone: string;
  readonly notes: string;
  /** The clients they are a contact of, the main one first. */
  readonly clients: readonly { readonly id: string; readonly name: string }[];
  readonly hasSignIn: boolean;
  readonly isActive: boolean;
  readonly version: number;
}

/** A client with its contacts and engagements. */
export interface ClientSheet {
  readonly id: string;
  readonly name: string;
  readonly hue: ClientHue;
  readonly isOwn: boolean;
  readonly version: number;
  /** Former contacts last. */
  readonly contacts: readonly ContactView[];
  /** Open ones first, the newest of the others after them. */
  readonly engagements: readonly {
    readonly id: string;
    readonly name: string;
    readonly state: EngagementState;
    readonly promise: IsoDay | null;
    readonly closedOn: IsoDay | null;
    /** Tasks that its contacts see on their page. */
    readonly shownTasks: number;
  }[];
}

/** A client that was changed; `changeId` undoes it, and is null when nothing changed. */
export interface ClientEdited {
  readonly client: ClientSheet;
  readonly changeId: string | null;
}

/** A contact who was changed; `changeId` undoes it, and is null when nothing changed. */
export interface ContactEdited {
  readonly contact: ContactView;
  readonly changeId: string | null;
}

export interface ClientRef {
  readonly name: string;
  readonly hue: ClientHue;
}

/** What a client's contact sees of an engagement: nothing internal is in it. */
export interface ClientEngagement {
  readonly id: string;
  readonly name: string;
  readonly promise: IsoDay | null;
  readonly phases: readonly { readonly name: string; readonly state: PhaseState; readonly stateLine: string }[];
  readonly tasks: readonly {
    readonly id: string;
    readonly title: string;
    readonly isOurs: boolean;
    readonly status: TaskStatus;
    readonly due: IsoDay;
  }[];
}
