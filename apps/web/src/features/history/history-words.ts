import type { IsoDay } from '@crew/core';
import type { EventKind, HistoryLine } from '@crew/contract';
import { hourWords } from '../../words/format.ts';
import { changeWords, type ChangeWords } from './field-words.ts';

/** A line of the history as a sentence: who did it comes before, its subject after `did`. */
export interface HistoryWords {
  readonly did: string;
  /** After the subject: from and to of what changed. */
  readonly changes: readonly ChangeWords[];
  /** A message that came with it, in quotation marks. */
  readonly said: string | null;
}

const timeIn = (minutes: unknown): string => (typeof minutes === 'number' ? hourWords(minutes) : 'time');

/** What each kind says before the name of its thing. */
const DID: Readonly<Record<EventKind, (line: HistoryLine) => string>> = {
  'task-added': () => 'added',
  'task-changed': () => 'changed',
  'task-status-changed': () => 'changed the status of',
  'task-assigned': () => 'assigned',
  'task-rescheduled': () => 'rescheduled',
  'task-reordered': () => 'moved',
  'task-deleted': () => 'deleted',
  'task-restored': () => 'restored',
  'step-added': ({ note }) => `added the step “${note ?? ''}” to`,
  'step-changed': ({ note, changes }) => `${changes[0]?.to === true ? 'ticked' : 'unticked'} the step “${note ?? ''}” of`,
  'step-removed': ({ note }) => `removed the step “${note ?? ''}” from`,
  'time-logged': ({ changes }) => `logged ${timeIn(changes[0]?.to)} on`,
  'time-corrected': () => 'corrected time on',
  'time-removed': ({ changes }) => `removed ${timeIn(changes[0]?.from)} from`,
  'time-closed': ({ changes }) => (changes[0]?.to === null ? 'reopened closed time' : 'closed time through'),
  'engagement-started': () => 'started',
  'engagement-changed': () => 'changed',
  'engagement-accepted': () => 'marked as accepted',
  'role-given': ({ note }) => `reassigned the role “${note ?? ''}” in`,
  'engagement-closed': () => 'closed without finishing',
  'engagement-reopened': () => 'reopened',
  'engagement-completed': () => 'completed',
  'round-started': () => 'started another round of',
  'deliverable-added': ({ note }) => `added the deliverable “${note ?? ''}” to`,
  'deliverable-removed': ({ note }) => `removed the deliverable “${note ?? ''}” from`,
  'baseline-saved': () => 'saved the baseline of',
  'library-part-added': ({ note }) => `added a part of “${note ?? ''}” to`,
  'template-update-applied': ({ note }) => `applied an update of “${note ?? ''}” to`,
  'phases-changed': () => 'changed the phases of',
  'phase-started': () => 'started the phase',
  'phase-ended': () => 'ended the phase',
  'phase-reopened': () => 'reopened the phase',
  'gate-check-confirmed': ({ note }) => `confirmed “${note ?? ''}” for`,
  'gate-check-withdrawn': ({ note }) => `withdrew “${note ?? ''}” for`,
  'handed-off': () => 'handed off',
  'picked-up': () => 'picked up after',
  'sent-back': () => 'sent back',
  'given-on': () => 'passed on the handoff of',
  reminded: ({ note, subject }) => `reminded ${note ?? 'somebody'} of${subject.kind === 'handoff' ? ' the handoff of' : ''}`,
  'template-added': () => 'added the template',
  'template-saved': () => 'saved the template',
  'template-version-added': () => 'saved a version of the template',
  'template-archived': () => 'archived the template',
  'template-restored': () => 'restored the template',
  'task-series-changed': () => 'changed the rhythm of',
  'series-started': () => 'started repeating',
  'series-changed': () => 'changed the series',
  'calendar-changed': () => 'changed the calendar:',
  'time-off-added': () => 'added time off for',
  'time-off-removed': () => 'removed time off of',
  'field-added': () => 'added the custom field',
  'field-changed': () => 'changed the custom field',
  'role-added': ({ note }) => `added the role “${note ?? ''}”`,
  'role-renamed': () => 'renamed the role',
  'role-removed': ({ note }) => `deleted the role “${note ?? ''}”`,
  'label-changed': ({ changes }) => (changes[0]?.to === null ? 'removed a label from all tasks:' : 'renamed a label on all tasks:'),
  'person-added': () => 'added to the crew:',
  'person-changed': () => 'changed the profile of',
  'client-added': () => 'added the client',
  'client-changed': () => 'changed the client',
  'contact-added': ({ note }) => `added the contact “${note ?? ''}” to`,
  'contact-changed': ({ note }) => `changed the contact “${note ?? ''}” of`,
  'settings-changed': () => 'changed the settings:',
  'gate-cleared': () => 'cleared the gate of',
  'day-reached': () => 'came near a date of',
  'hours-reached': () => 'reached a share of the planned effort of',
  told: () => 'told people about',
  mailed: ({ note }) => `mailed ${note ?? 'somebody'} about`,
  'mail-received': () => 'answered a mail about',
  'handoff-readied': () => 'put on a desk the handoff of',
  'rule-added': () => 'added a rule',
  'rule-changed': () => 'changed a rule',
  'rule-removed': () => 'removed a rule',
  'webhook-added': () => 'added the webhook',
  'webhook-changed': () => 'changed the webhook',
  'webhook-removed': () => 'deleted the webhook',
};

/** Kinds whose note is a name inside the sentence, and not a message. */
const NAMED_IN_SENTENCE: ReadonlySet<EventKind> = new Set([
  ...(['step-added', 'step-changed', 'step-removed', 'deliverable-added', 'deliverable-removed'] as const),
  ...(['library-part-added', 'template-update-applied', 'gate-check-confirmed', 'gate-check-withdrawn'] as const),
  ...(['contact-added', 'contact-changed', 'reminded', 'role-given'] as const),
  ...(['role-added', 'role-renamed', 'role-removed', 'label-changed'] as const),
]);

/** Kinds that say nothing of their fields: the sentence says it. */
const PLAIN: ReadonlySet<EventKind> = new Set([
  ...(['step-changed', 'engagement-accepted', 'engagement-closed', 'engagement-reopened', 'engagement-completed'] as const),
  ...([
    'time-logged',
    'time-removed',
    'task-series-changed',
    'baseline-saved',
    'phase-started',
    'phase-ended',
    'person-added',
    'field-added',
    'role-added',
    'role-removed',
    'series-started',
  ] as const),
]);

/** Where the kind says which field changed, the field is not named again. */
const SAID_BY_KIND: ReadonlySet<EventKind> = new Set([
  ...(['task-status-changed', 'task-assigned', 'time-logged', 'time-removed', 'role-given'] as const),
  ...(['role-renamed', 'label-changed'] as const),
]);

/** A line in words, seen from today: "changed the effort of", 4 h → 5 h. */
export function historyWords(line: HistoryLine, today: IsoDay): HistoryWords {
  const told = PLAIN.has(line.kind) ? [] : changeWords(line.changes, today);
  const said = NAMED_IN_SENTENCE.has(line.kind) ? null : line.note;
  const did = DID[line.kind](line);
  const [only] = told;
  if (only !== undefined && told.length === 1 && did.startsWith('changed') && !did.includes(' of'))
    // The settings are the agency’s, whose name would say nothing.
    return { did: `changed the ${only.label}${line.subject.kind === 'agency' ? '' : ' of'}`, changes: [unnamed(only)], said };
  if (line.kind === 'time-closed') return { did, changes: told.map((change) => ({ ...change, label: '' })), said };
  return { did, changes: told.map((change) => (SAID_BY_KIND.has(line.kind) ? unnamed(change) : change)), said };
}

/** Without the name of its field, which was said: “2 h → 3 h”, or “to 3 h” where nothing was there before. */
function unnamed(change: ChangeWords): ChangeWords {
  const isNew = change.to !== null && (change.from === null || change.from === 'none');
  return { ...change, label: isNew ? 'to' : '' };
}

const JOB_WORDS = {
  plan: 'Planner',
  repeat: 'Repeating work',
  remind: 'Reminders',
  gate: 'Gates',
  dates: 'Dates',
  mail: 'By mail',
} as const;

/** Who did it: a name, the job of the server, or somebody whose access is gone. */
export function doerWords({ kind, name, job }: HistoryLine['by']): string {
  if (kind === 'rule') return 'A rule';
  if (job !== null) return JOB_WORDS[job];
  return name ?? 'Somebody who left';
}

/** What an event is about; nothing is named for what concerns the whole agency. */
export const thingWords = ({ subject }: HistoryLine): string =>
  subject.name ?? (subject.kind === 'agency' ? '' : 'something removed since');
