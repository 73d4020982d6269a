import type { IsoDay } from '@crew/core';
import type { FieldChange } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type NewEvent } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';

/** A change of one time entry. */
export interface TimeChange {
  readonly kind: 'time-logged' | 'time-corrected' | 'time-removed';
  readonly entryId: string;
  /** Whose time it is, and of which day. */
  readonly personId: string;
  readonly day: IsoDay;
  /** The tasks it is or was on. */
  readonly tasks: readonly { readonly id: string; readonly engagementId: string; readonly title: string }[];
  readonly minutes: { readonly from: number | null; readonly to: number | null };
  /** What else of it changed. */
  readonly changes?: readonly FieldChange[];
  /** Why it was changed although its period had been closed; null when it was open. */
  readonly lateReason: string | null;
}

/** Records a change of time on each task concerned. */
export const recordTime = (manager: EntityManager, by: By, time: TimeChange): Promise<void> => record(manager, by, timeEvents(time));

/** A change of time as an event for each task concerned; the reason for a late one is with the task it is on. */
export function timeEvents(time: TimeChange): NewEvent[] {
  const { kind, entryId, personId, day, minutes } = time;
  const changes = [...(minutes.from === minutes.to ? [] : [{ field: 'minutes', ...minutes }]), ...(time.changes ?? [])];
  const names = Object.fromEntries(time.tasks.map(({ id, title }) => [id, title]));
  return time.tasks.map((task, index) => ({
    ...{ kind, engagementId: task.engagementId, subject: 'task', subjectId: task.id, changes, names },
    payload: {
      entryId,
      personId,
      day,
      minutesBefore: minutes.from,
      minutesAfter: minutes.to,
      lateReason: index === 0 ? time.lateReason : null,
    },
  }));
}
