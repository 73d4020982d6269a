import { can, DERIVED_EVENTS, reachOf, UNDOABLE_EVENTS, type EventKind } from '@crew/contract';
import type { Who } from '../platform/rights.ts';

/** Changes of an engagement rather than of its plan; undoing them is editing it. */
const OF_ENGAGEMENT = new Set<EventKind>(['engagement-changed', 'phases-changed', 'template-update-applied', 'library-part-added']);

/** What somebody does on own tasks. */
const OF_OWN_WORK = new Set<EventKind>(['task-status-changed', 'task-changed', 'step-added', 'step-changed']);

/** The kinds of events that somebody may undo; what followed by itself goes along with any of them. */
export function undoableBy(who: Who): readonly EventKind[] {
  const isAll = reachOf(who, 'plan.undo') === 'all';
  const kinds = UNDOABLE_EVENTS.filter((kind) => (OF_ENGAGEMENT.has(kind) ? can(who, 'engagement.edit') : isAll || OF_OWN_WORK.has(kind)));
  return [...new Set([...kinds, ...DERIVED_EVENTS])];
}
