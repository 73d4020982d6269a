import { DERIVED_EVENTS, UNDOABLE_EVENTS, type EventKind } from '@crew/contract';
import { isLead, isStaff, type Who } from '../platform/rights.ts';

/** Only leads change these, so only leads undo them. */
const OF_LEADS = new Set<EventKind>(['engagement-changed', 'phases-changed', 'template-update-applied', 'library-part-added']);

/** What a freelancer does on own tasks. */
const OF_OWN_WORK = new Set<EventKind>(['task-status-changed', 'task-changed', 'step-added', 'step-changed']);

/** The kinds of events that somebody may undo; what followed by itself goes along with any of them. */
export function undoableBy(who: Who): readonly EventKind[] {
  const kinds = UNDOABLE_EVENTS.filter((kind) => isLead(who) || (isStaff(who) ? !OF_LEADS.has(kind) : OF_OWN_WORK.has(kind)));
  return [...new Set([...kinds, ...DERIVED_EVENTS])];
}
