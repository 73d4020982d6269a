import type { IsoDay } from '@crew/core';
import type { ClientHue, PhaseState, TaskStatus } from '../words.ts';

/* Clients, and what they see. Days are ISO days, effort is minutes, times are ISO instants. */

export interface ClientSummary {
  readonly id: string;
  readonly name: string;
  readonly hue: ClientHue;
  readonly isOwn: boolean;
  readonly contacts: readonly { readonly id: string; readonly name: string }[];
}

export interface ClientRef {
  readonly name: string;
  readonly hue: ClientHue;
}

/** All a client's contact gets of an engagement: nothing internal is in it. */
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
