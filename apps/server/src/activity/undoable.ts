import { isDeepStrictEqual } from 'node:util';
import {
  can,
  DERIVED_EVENTS,
  reachOf,
  TURN_EVENTS,
  UNDOABLE_EVENTS,
  type EventKind,
  type FieldChange,
  type FieldKept,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { Who } from '../platform/rights.ts';

/** Changes of an engagement rather than of its plan; undoing them is editing it. */
const OF_ENGAGEMENT = new Set<EventKind>([
  'engagement-changed',
  'engagement-accepted',
  'role-given',
  'engagement-completed',
  'phases-changed',
  'template-update-applied',
  'library-part-added',
]);

/** Changes of the calendar; people may undo those of their own time off. */
const OF_CALENDAR = new Set<EventKind>(['calendar-changed', 'time-off-added', 'time-off-removed']);

const OF_RULES = new Set<EventKind>(['rule-added', 'rule-changed', 'rule-removed']);

const OF_WEBHOOKS = new Set<EventKind>(['webhook-added', 'webhook-changed', 'webhook-removed']);

const OF_ROLES = new Set<EventKind>(['role-added', 'role-renamed', 'role-removed']);

const OF_CLIENTS = new Set<EventKind>(['client-changed', 'contact-changed']);

/** What somebody does on own tasks. */
const OF_OWN_WORK = new Set<EventKind>(['task-status-changed', 'task-changed', 'step-added', 'step-changed']);

/** The kinds of events that somebody may undo; what followed automatically is undone with any of them. */
export function undoableBy(who: Who): readonly EventKind[] {
  const isAll = reachOf(who, 'plan.undo') === 'all';
  const kinds = UNDOABLE_EVENTS.filter((kind) => {
    if (OF_ENGAGEMENT.has(kind)) return can(who, 'engagement.edit');
    if (OF_CALENDAR.has(kind)) return can(who, 'calendar.edit');
    if (kind === 'person-changed') return can(who, 'crew.edit');
    if (OF_RULES.has(kind)) return can(who, 'rule.edit');
    if (OF_WEBHOOKS.has(kind)) return can(who, 'webhook.edit');
    if (OF_ROLES.has(kind)) return can(who, 'role.edit');
    if (kind === 'label-changed') return can(who, 'label.edit');
    if (OF_CLIENTS.has(kind)) return can(who, 'client.edit');
    return isAll || OF_OWN_WORK.has(kind);
  });
  return [...new Set([...kinds, ...DERIVED_EVENTS])];
}

/** Every kind that somebody may undo, or that goes along. */
export const CAN_BE_UNDONE: ReadonlySet<EventKind> = new Set<EventKind>([...UNDOABLE_EVENTS, ...DERIVED_EVENTS]);

const listed = (kinds: Iterable<EventKind>): string => `'{${[...kinds].join(',')}}'::text[]`;
/** The turn of a handoff, or what was undone of one. */
const HAS_TURN = `EXISTS (SELECT 1 FROM event u WHERE u.batch_id = v.batch_id AND (u.kind = ANY(${listed(TURN_EVENTS)}) OR u.payload ? 'turn'))`;

/**
 * Whether the whole batch that event `v` is in can be undone by whoever may undo `kinds` and has the account,
 * both given as SQL. The turn of a handoff is undone by who took it, too, and by what was kept of its phases.
 */
export const canUndoBatch = ({ kinds, account }: { readonly kinds: string; readonly account: string }): string => `(
  v.batch_id IS NOT NULL AND v.undone_by_id IS NULL
  AND (NOT ${HAS_TURN} OR EXISTS (SELECT 1 FROM event f WHERE f.batch_id = v.batch_id AND f.kind = 'phases-changed'))
  AND NOT EXISTS (SELECT 1 FROM event b WHERE b.batch_id = v.batch_id AND (
    (b.kind <> ALL(${kinds}) AND NOT (b.account_id = ${account} AND b.kind = ANY(${listed(CAN_BE_UNDONE)}) AND ${HAS_TURN}))
    OR (b.payload->'image' = 'null' AND NOT ${HAS_TURN}))))`;

/** The part of an event without an engagement that undoing needs. */
export interface EventToUndo {
  readonly kind: EventKind;
  readonly subjectId: string;
  readonly changes: readonly FieldChange[];
  readonly payload: Readonly<Record<string, unknown>>;
}

/** Takes back what concerns no engagement, by the rules of its own area; the agency is locked. */
export interface UndoesOwn {
  readonly run: (manager: EntityManager, who: Who, events: readonly EventToUndo[]) => Promise<WentBack>;
}

/** Whether anything could be restored, and what stays because somebody has changed it since. */
export interface WentBack {
  readonly isAny: boolean;
  readonly kept: readonly Omit<FieldKept, 'by'>[];
}

/** By field: what goes back to what it was before the changes, where it still is as they left it, and what was changed since. */
export function fieldsToSetBack<Fields extends object>(
  now: Fields,
  changes: readonly FieldChange[],
): { readonly fields: Partial<Fields>; readonly kept: readonly string[] } {
  const isStill = ({ field, to }: FieldChange): boolean => isDeepStrictEqual(now[field as keyof Fields], to);
  return {
    fields: Object.fromEntries(changes.filter(isStill).map(({ field, from }) => [field, from])) as Partial<Fields>,
    kept: changes.filter((change) => !isStill(change)).map(({ field }) => field),
  };
}
