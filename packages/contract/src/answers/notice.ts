import type { IsoDay } from '@crew/core';
import type { ReminderOf } from '../events.ts';
import type { NoticeChannel, NoticeKind } from '../notices.ts';
import type { ClientHue, HandoffState, TaskStatus } from '../words.ts';

/* Notices. Times are ISO instants, days ISO days, effort is minutes. */

/**
 * Where a task fits into somebody's days. `day` is the first of its days with enough room for what is
 * left of it, null when none has; `onDue` is the day it is due with everything on it.
 */
export interface TaskRoom {
  /** Whether they have put it on a day of their week. */
  readonly isPlaced: boolean;
  readonly day: { readonly date: IsoDay; readonly freeMinutes: number } | null;
  readonly onDue: { readonly date: IsoDay; readonly loadMinutes: number; readonly capacityMinutes: number } | null;
}

/** What notices are about. */
export type NoticeAbout =
  | {
      readonly kind: 'task';
      readonly id: string;
      readonly title: string;
      readonly status: TaskStatus;
      readonly due: IsoDay;
      /** What is left of it. */
      readonly minutes: number;
      readonly doneOn: IsoDay | null;
      /** Whether the reader has logged time on it. */
      readonly isLogged: boolean;
      /** What such work usually took, else its estimate. */
      readonly usualMinutes: number | null;
      /** What is free for it in the reader's week; null where nothing has to be planned. */
      readonly room: TaskRoom | null;
    }
  | {
      readonly kind: 'handoff';
      readonly id: string;
      /** The phase it leaves and the one it goes to; null for the last. */
      readonly from: string;
      readonly to: string | null;
      readonly state: HandoffState;
      readonly version: number;
      /** Whether the reader can pick it up, for themselves or for somebody who is away. */
      readonly isReceiver: boolean;
      readonly question: string | null;
    }
  | { readonly kind: 'engagement' | 'person'; readonly id: string; readonly title: string };

/** One line of a notice: what somebody did that concerns the reader. */
export interface NoticeLine {
  /** All notices it stands for: of the same kind, of one change or of changes soon after each other. */
  readonly ids: readonly string[];
  /** How many tasks, handoffs or engagements it is about. */
  readonly things: number;
  readonly kind: NoticeKind;
  /** Of the event: `given-on` tells somebody of a handoff like `handed-off`. */
  readonly event: string;
  readonly at: string;
  readonly isRead: boolean;
  /** Null for what follows automatically, and for somebody whose access was removed. */
  readonly by: { readonly name: string; readonly initials: string } | null;
  /** Whether a rule did it; then nobody is named. */
  readonly isByRule: boolean;
  /** The message that came with it. */
  readonly words: string | null;
  /** The name of what caused it, such as the task that is done; of a reminder, who holds it. */
  readonly name: string | null;
  /** How long somebody has held it, of a reminder. */
  readonly minutes: number | null;
  /** What a reminder is about. */
  readonly reminderOf: ReminderOf | null;
  /** Of a day, a status or a promise that changed. */
  readonly change: { readonly from: string | null; readonly to: string | null } | null;
}

/** All that is new about one thing. */
export interface NoticeGroup {
  readonly about: NoticeAbout;
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue } | null;
  /** The newest first. */
  readonly lines: readonly NoticeLine[];
}

/** One's own notices: those not read yet, and what was read in the last days; the newest thing first. */
export interface Notices {
  /** How many of the lines are not read. */
  readonly unread: number;
  readonly groups: readonly NoticeGroup[];
  /** Snoozed until this time; null when there are none. */
  readonly snoozed: { readonly ids: readonly string[]; readonly until: string } | null;
}

/** Which notices somebody gets. */
export interface NoticeChoices {
  readonly kinds: readonly (Readonly<Record<NoticeChannel, boolean>> & { readonly kind: NoticeKind })[];
  /** Mails wait for one's own working hours. */
  readonly isQuiet: boolean;
  /** Whether the daily digest is sent. */
  readonly hasDigest: boolean;
  /** Where mails go; null for somebody without a sign-in. */
  readonly address: string | null;
}
