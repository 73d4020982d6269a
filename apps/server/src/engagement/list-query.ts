import { ENGAGEMENT_ORDERS, STANDINGS, type EngagementFilter, type EngagementOrder } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { isUUID } from 'class-validator';
import { OptionalChoice, OptionalDay, OptionalId, OptionalWord } from '../platform/query-pipes.ts';
import { Refusal } from '../platform/refusal.ts';

/** Which engagements are asked for, and in which order. */
interface ListQuery extends EngagementFilter {
  readonly isFinished: boolean;
  /** Null for everybody's. */
  readonly roleIds: readonly string[] | null;
  /** Of the finished ones only those that were closed on this day or later. */
  readonly since: IsoDay | undefined;
  readonly order: EngagementOrder;
}

const word = new OptionalWord();
const id = new OptionalId();
const day = new OptionalDay();
const standing = new OptionalChoice(STANDINGS);
const order = new OptionalChoice(ENGAGEMENT_ORDERS);

/** The query of the list of engagements; what is none of it is refused with its field. */
export function readListQuery(query: Readonly<Record<string, unknown>>): ListQuery {
  const of = (data: string) => ({ type: 'query', data }) as const;
  const role = word.transform(query['role'], of('role'));
  const roleIds = role === undefined ? null : role.split(',');
  if (roleIds?.every((one) => isUUID(one)) === false)
    throw new Refusal('invalid-input', 'This is not a role. Choose from the list.', { field: 'role' });
  return {
    roleIds,
    isFinished: query['finished'] === 'yes',
    since: day.transform(query['since'], of('since')),
    text: word.transform(query['text'], of('text')),
    clientId: id.transform(query['client'], of('client')),
    leadId: id.transform(query['lead'], of('lead')),
    phase: word.transform(query['phase'], of('phase')),
    standing: standing.transform(query['standing'], of('standing')),
    order: order.transform(query['sort'], of('sort')) ?? 'start',
  };
}
