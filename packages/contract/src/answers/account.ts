import type { IsoDay } from '@crew/core';
import type { AccessLinkKind, SecurityKind } from '../access-words.ts';
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
  /** The agency's time zone: times of day are shown in it. */
  readonly zone: string;
  /** By how much the agency's clock is ahead of the real one, in milliseconds; 0 but for a demo on a fixed day. */
  readonly clockAheadMs: number;
  readonly csrfToken: string;
  readonly counts: { readonly handoffs: number; readonly desk: number };
  /** Whether the agency asks for a second factor that this account has not set up yet: nothing else can be done before that. */
  readonly mustAddSecondFactor: boolean;
  /** Whether this is the demo, which offers things to try. */
  readonly isDemo: boolean;
  /** Hints and lists of first steps this account has closed, by name. */
  readonly closedHints: readonly string[];
  /** Wrong passwords that were tried for this account before it was signed in to, until that has been read. */
  readonly wrongPasswords: { readonly count: number; readonly since: string } | null;
}

export interface DemoPerson {
  readonly accountId: string;
  readonly name: string;
  readonly initials: string;
  readonly access: Access;
  readonly line: string;
  /** What signing in as them shows, for those worth starting with. */
  readonly shows: string | null;
}

/** Whether the agency of this installation has been set up. */
export interface AgencyState {
  readonly isSetUp: boolean;
  /** What people see of it at sign-in; null before it is set up, and without a logo. */
  readonly name: string | null;
  readonly logo: string | null;
}

/** The id of what was made. */
export interface Made {
  readonly id: string;
}

/** A session of one's own. */
export interface SessionLine {
  readonly id: string;
  /** The browser and system, as far as the browser says. */
  readonly device: string;
  readonly ip: string;
  readonly beganAt: string;
  /** The last day it was used, to within a day. */
  readonly usedAt: string;
  readonly isThis: boolean;
}

/** One's own second factor. */
export interface SecondFactorState {
  readonly isOn: boolean;
  /** How many recovery codes are left. */
  readonly recoveryCodes: number;
  readonly isRequired: boolean;
}

/** What an authenticator app needs; `uri` is for its QR code. It is in use once a code confirms it. */
export interface SecondFactorSecret {
  readonly secret: string;
  readonly uri: string;
}

/** Codes that each replace one code of the app once; they are shown only now. */
export interface RecoveryCodes {
  readonly codes: readonly string[];
}

/** What a link to choose a password is for. */
export interface AccessLinkFacts {
  readonly kind: AccessLinkKind;
  readonly name: string;
  readonly email: string;
  readonly agencyName: string;
}

/** A password was chosen by a link; not signed in where the account also asks for a code. */
export interface AccessLinkUsed {
  readonly isSignedIn: boolean;
}

/** A line of the security log. */
export interface SecurityLine {
  readonly id: string;
  readonly kind: SecurityKind;
  readonly whom: string;
  readonly by: string | null;
  readonly at: string;
  readonly ip: string;
  readonly device: string;
  readonly note: string;
}

export interface SecurityLog {
  readonly lines: readonly SecurityLine[];
  /** Ask with this for earlier lines; null when there are none. */
  readonly before: string | null;
}
