import type { IsoDay } from '@crew/core';
import type { Access } from '../words.ts';

/* Who is signed in. Days are ISO days, effort is minutes, times are ISO instants. */

export interface Me {
  readonly accountId: string;
  readonly name: string;
  readonly initials: string;
  readonly access: Access;
  readonly personId: string | null;
  readonly clientName: string | null;
  readonly agencyName: string;
  readonly today: IsoDay;
  /** The Monday of “this week”: on a day the agency is closed, of the week in which it opens next. */
  readonly thisWeek: IsoDay;
  /** The agency's time zone: times of day are told in it. */
  readonly zone: string;
  /** By how much the agency's clock is ahead of the real one, in milliseconds; 0 but for a demo on a fixed day. */
  readonly clockAheadMs: number;
  readonly csrfToken: string;
  readonly counts: { readonly handoffs: number; readonly desk: number };
  /** Wrong passwords that were tried for this account before it was signed in to, until that has been read. */
  readonly wrongPasswords: { readonly count: number; readonly since: string } | null;
}

export interface DemoPerson {
  readonly accountId: string;
  readonly name: string;
  readonly initials: string;
  readonly access: Access;
  readonly line: string;
}

/** Whether somebody has founded the agency of this installation. */
export interface AgencyState {
  readonly isFounded: boolean;
}

/** What was made. */
export interface Made {
  readonly id: string;
}
