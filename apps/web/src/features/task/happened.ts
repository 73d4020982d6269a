import type { HappenedLine } from '@crew/contract';
import { TASK_STATUS_WORDS } from '@crew/contract';
import { hourWords } from '../../words/format.ts';

const KINDS: Readonly<Record<string, string>> = {
  added: 'added the task',
  'step-added': 'added a step',
  'step-done': 'ticked a step',
  'step-reopened': 'reopened a step',
  'time-logged': 'logged time',
  'time-corrected': 'put logged time right',
  'time-removed': 'took logged time out',
  'put-back': 'took a change back',
};

const FIELDS: Readonly<Record<string, string>> = {
  title: 'the title',
  description: 'the description',
  assigneeIds: 'who does it',
  priority: 'the priority',
  isShownToClient: 'whether the client sees it',
  isChargeable: 'whether the client pays for it',
  mayStartEarly: 'whether it may begin early',
  waitingOn: 'whom it waits on',
  phaseId: 'the phase it stands in',
  parentId: 'what it is a part of',
  deliverableId: 'the deliverable',
  outside: 'the part done outside',
  links: 'the links',
  ownFields: 'own fields',
};

/** A line of the log in words; days the planner sets by itself are left out. */
export function happenedWords(line: HappenedLine): string {
  const known = KINDS[line.what];
  if (known !== undefined) return known;
  const told = line.changes.filter((change) => !['realStart', 'waitingSince', 'doneOn'].includes(change.field)).map(changeWords);
  return told.length === 0 ? 'changed it' : `changed ${told.join(', ')}`;
}

function changeWords({ field, from, to }: HappenedLine['changes'][number]): string {
  switch (field) {
    case 'status':
      return `the status from ${statusWord(from)} to ${statusWord(to)}`;
    case 'estimateMinutes':
      return `the effort from ${effortWord(from)} to ${effortWord(to)}`;
    case 'days':
      return `the length from ${String(from)} to ${String(to)} working days`;
    case 'notBefore':
      return to === null ? 'it to begin as soon as it can' : `it to begin on ${String(to)} at the earliest`;
    case 'repeats':
      return to === null ? 'it not to repeat any more' : `it to repeat by ${String(to)}`;
    case 'plannedWeek':
      return to === null ? 'it to stand in no week' : `the week it is meant for to that of ${String(to)}`;
    case 'labels':
      return `the labels to ${listWords(to)}`;
    case 'files':
      return `the files from ${listWords(from)} to ${listWords(to)}`;
    case 'after':
      return `what it waits for from ${listWords(from)} to ${listWords(to)}`;
    case 'fixedDay':
      return to === null ? 'it to follow the plan again' : `the first day to ${String(to)}`;
    default:
      return FIELDS[field] ?? field;
  }
}

const statusWord = (value: unknown): string => (TASK_STATUS_WORDS[value as keyof typeof TASK_STATUS_WORDS] ?? String(value)).toLowerCase();
const listWords = (value: unknown): string => (Array.isArray(value) && value.length > 0 ? value.join(', ') : 'nothing');
const effortWord = (value: unknown): string => (typeof value === 'number' ? hourWords(value) : 'none');
