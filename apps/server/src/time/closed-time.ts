import type { IsoDay } from '@crew/core';
import { fullDay, can } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** The last day whose time is closed, or null. */
export async function closedThrough(manager: EntityManager, agencyId: string): Promise<IsoDay | null> {
  const row = await firstRow<{ through: IsoDay | null }>(manager, 'SELECT time_closed_through AS through FROM agency WHERE id = $1', [
    agencyId,
  ]);
  return row?.through ?? null;
}

/**
 * Refuses to touch days whose time is closed: to everybody but leads, and to leads without a
 * reason. Answers the reason that is to be kept, or null when nothing of it is closed.
 */
export async function refuseClosed(
  manager: EntityManager,
  who: Who,
  asked: { readonly days: readonly IsoDay[]; readonly reason: string | undefined },
): Promise<string | null> {
  const through = await closedThrough(manager, who.agencyId);
  if (through === null || asked.days.every((day) => day > through)) return null;
  if (!can(who, 'time.close'))
    throw new Refusal('wrong-moment', `Time is closed through ${fullDay(through)}. Ask a lead to correct this.`, {
      field: 'day',
      details: { closedThrough: through },
    });
  if (asked.reason === undefined)
    throw new Refusal('wrong-moment', `Time is closed through ${fullDay(through)}. Say why this changes; the reason is kept.`, {
      field: 'reason',
      details: { closedThrough: through },
    });
  return asked.reason.trim();
}
