import { daysBetween, type IsoDay, isDay } from '@crew/core';
import { PRIORITY, TASK_STATUS_WORDS, type TaskStatus } from '@crew/contract';
import { count, dayWords, hourWords } from '../../words/format.ts';

/** The name of a field, and how its values read; null for a field that only says it changed. */
interface FieldWords {
  readonly label: string;
  readonly value: (value: unknown, today: IsoDay) => string | null;
}

const text = (value: unknown): string => (value === null || value === '' ? 'none' : String(value));
const list = (value: unknown): string => (Array.isArray(value) && value.length > 0 ? value.map(String).join(', ') : 'none');
const day = (value: unknown, today: IsoDay): string => (isDay(value) ? dayWords(value, today) : 'none');
const yesNo = (value: unknown): string => (value === true ? 'yes' : 'no');
const unsaid = (): null => null;

const people = (value: unknown): string => (Array.isArray(value) && value.length > 0 ? value.map(String).join(', ') : 'nobody');
const effort = (value: unknown): string => (typeof value === 'number' ? hourWords(value) : 'none');
const status = (value: unknown): string => (TASK_STATUS_WORDS[value as TaskStatus] ?? String(value)).toLowerCase();
const priority = (value: unknown): string => (PRIORITY.includes(value as 'low') ? String(value) : 'normal');
const workingDays = (value: unknown): string => count(Number(value), 'working day');
const clockTime = (value: unknown): string =>
  typeof value === 'number' ? `${Math.floor(value / 60)}:${String(value % 60).padStart(2, '0')}` : 'none';
const afterHours = (value: unknown): string => (Number(value) === 0 ? 'never' : `after ${count(Number(value), 'working hour')}`);
const months = (value: unknown): string => count(Number(value), 'month');
const week = (value: unknown, today: IsoDay): string => {
  if (!isDay(value)) return 'not placed';
  const days = daysBetween(value, today);
  return days >= 0 && days < 7 ? 'this week' : `week of ${dayWords(value, today)}`;
};
const closedDays = (value: unknown, today: IsoDay): string =>
  Array.isArray(value) && value.length > 0 ? closedWords(value as { day: IsoDay; name: string }[], today) : 'open';

function closedWords(days: readonly { readonly day: IsoDay; readonly name: string }[], today: IsoDay): string {
  const [first] = days as [{ readonly day: IsoDay; readonly name: string }];
  const one = `closed ${dayWords(first.day, today)}, ${first.name}`;
  return days.length === 1 ? one : `${one} and ${count(days.length - 1, 'day')} more`;
}

const outside = (value: unknown): string => {
  const maker = (value as { outside_maker?: unknown } | null)?.outside_maker;
  return typeof maker === 'string' ? maker : 'none';
};

/** Fields that are listed, by name. What is missing here follows from others, or need not be shown. */
const FIELDS: Readonly<Record<string, FieldWords>> = {
  title: { label: 'title', value: text },
  name: { label: 'name', value: text },
  description: { label: 'description', value: unsaid },
  kind: { label: 'kind', value: text },
  roleId: { label: 'role', value: text },
  priority: { label: 'priority', value: priority },
  status: { label: 'status', value: status },
  waitingOn: { label: 'who it waits for', value: text },
  estimateMinutes: { label: 'effort', value: effort },
  minutes: { label: 'time', value: effort },
  days: { label: 'length', value: workingDays },
  fixedDay: { label: 'fixed date', value: day },
  notBefore: { label: 'earliest start', value: day },
  anchor: { label: 'anchor', value: unsaid },
  phaseId: { label: 'phase', value: text },
  parentId: { label: 'parent task', value: text },
  deliverableId: { label: 'deliverable', value: text },
  labels: { label: 'labels', value: list },
  label: { label: 'label', value: text },
  logo: { label: 'logo', value: unsaid },
  zone: { label: 'time zone', value: text },
  currency: { label: 'currency', value: text },
  colour: { label: 'colour', value: unsaid },
  country: { label: 'country', value: text },
  region: { label: 'region', value: text },
  secondFactorFor: { label: 'second factor', value: (value) => (value === 'leads' ? 'required for owners and leads' : 'optional') },
  pageLinks: { label: 'web links', value: unsaid },
  customFields: { label: 'custom fields', value: unsaid },
  outside: { label: 'outside maker', value: outside },
  isShownToClient: { label: 'visibility to the client', value: yesNo },
  isChargeable: { label: 'chargeable time', value: yesNo },
  mayStartEarly: { label: 'early start', value: yesNo },
  plannedWeek: { label: 'planned week', value: week },
  assignees: { label: 'assignees', value: people },
  roleHolder: { label: 'holder', value: (value) => (value === null ? 'nobody' : String(value)) },
  assigneeIds: { label: 'assignees', value: unsaid },
  after: { label: 'dependencies', value: list },
  files: { label: 'files', value: list },
  startDay: { label: 'start', value: day },
  dueDay: { label: 'due date', value: day },
  day: { label: 'day', value: day },
  startMinute: { label: 'start time', value: clockTime },
  note: { label: 'note', value: text },
  taskId: { label: 'task', value: text },
  promise: { label: 'promised date', value: day },
  leadId: { label: 'lead', value: text },
  contactId: { label: 'contact', value: text },
  hue: { label: 'colour', value: text },
  email: { label: 'mail address', value: text },
  phone: { label: 'phone number', value: text },
  notes: { label: 'notes', value: unsaid },
  clients: { label: 'clients', value: list },
  likelihood: { label: 'likelihood', value: (value) => `${String(value)} %` },
  templateVersion: { label: 'template version', value: text },
  through: { label: 'closed through', value: day },
  week: { label: 'working week', value: unsaid },
  closedDays: { label: 'closed days', value: closedDays },
  choices: { label: 'choices', value: list },
  isArchived: { label: 'use', value: (value) => (value === true ? 'archived' : 'in use') },
  access: { label: 'access', value: text },
  standInId: { label: 'stand-in', value: (value) => (value === null ? 'the lead' : String(value)) },
  isActive: { label: 'sign-in', value: (value) => (value === true ? 'active' : 'deactivated') },
  roles: {
    label: 'roles',
    value: (value) => (Array.isArray(value) && value.every((role) => typeof role === 'string') ? list(value) : null),
  },
  rhythm: { label: 'rhythm', value: unsaid },
  repeats: { label: 'rhythm', value: unsaid },
  unitName: { label: 'name of each one', value: text },
  onClosed: { label: 'on closed days', value: text },
  retainerMinutes: { label: 'agreed hours', value: effort },
  carry: { label: 'unused hours', value: text },
  aheadDays: { label: 'days made ahead', value: text },
  skipped: { label: 'days skipped', value: list },
  extra: { label: 'extra days', value: list },
  stopped: { label: 'end', value: day },
  remindHours: { label: 'reminder of handoffs', value: afterHours },
  remindLeadHours: { label: 'reminder to leads of handoffs', value: afterHours },
  remindTaskHours: { label: 'reminder of tasks', value: afterHours },
  remindTaskLeadHours: { label: 'reminder to leads of tasks', value: afterHours },
  remindClientHours: { label: 'mail to clients about open tasks', value: afterHours },
  remindClientLeadHours: { label: 'reminder to leads of clients’ open tasks', value: afterHours },
  remindLoggingHours: { label: 'reminder to log time', value: afterHours },
  url: { label: 'address', value: unsaid },
  kinds: { label: 'events it is told of', value: unsaid },
  isOn: { label: 'state', value: (value) => (value === true ? 'on' : 'off') },
  historyMonths: { label: 'length of the history', value: months },
};

/** One field that changed, in words; without values where they would be too long to read. */
export interface ChangeWords {
  readonly label: string;
  readonly from: string | null;
  readonly to: string | null;
}

/** The changes worth telling, in words. */
export function changeWords(
  changes: readonly { readonly field: string; readonly from: unknown; readonly to: unknown }[],
  today: IsoDay,
): ChangeWords[] {
  return changes.flatMap(({ field, from, to }): ChangeWords[] => {
    const words = FIELDS[field];
    if (words === undefined) return [];
    const [was, is] = [words.value(from, today), words.value(to, today)];
    return [{ label: words.label, from: was, to: is }];
  });
}
