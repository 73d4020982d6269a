import type { EntityManager } from 'typeorm';
import { recordEvent } from '../event/record-event.ts';
import type { Who } from '../platform/rights.ts';

/** A change of time whose period had been closed: whose, of which day, from and to how many minutes, and why. */
export interface LateChange {
  /** The entry. */
  readonly id: string;
  readonly task: { readonly engagementId: string; readonly title: string };
  readonly kind: 'time-logged' | 'time-corrected' | 'time-removed';
  readonly reason: string;
  readonly personId: string;
  readonly day: string;
  readonly from: number | null;
  readonly to: number | null;
}

/** Keeps what was changed after its period was closed, with the reason that was given. */
export function recordLate(manager: EntityManager, by: { readonly who: Who; readonly at: Date }, late: LateChange): Promise<void> {
  const changes = [
    { field: 'reason', from: null, to: late.reason },
    { field: 'personId', from: null, to: late.personId },
    { field: 'day', from: null, to: late.day },
    { field: 'minutes', from: late.from, to: late.to },
    { field: 'task', from: null, to: late.task.title },
  ];
  return recordEvent(manager, by, {
    ...{ engagementId: late.task.engagementId, subject: 'time', subjectId: late.id, kind: late.kind, changes },
  });
}
