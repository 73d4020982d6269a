import type { IsoDay } from '@crew/core';
import type { NoticeAbout, NoticeGroup, NoticeLine } from './answers/notice.ts';
import { count, dayWords, hours, hourWords } from './format-words.ts';
import type { NoticeKind } from './notices.ts';
import { TASK_STATUS_WORDS, type TaskStatus } from './words.ts';

/** A line of a notice as a sentence: who comes before. */
export interface NoticeWords {
  readonly did: string;
  /** What changed, in words. */
  readonly change: { readonly from: string | null; readonly to: string } | null;
  /** The message that came with it. */
  readonly said: string | null;
}

const ENGAGEMENT_WORDS: Readonly<Record<string, string>> = {
  'engagement-started': 'started it, with work for you',
  'engagement-closed': 'closed it without finishing',
  'engagement-reopened': 'reopened it',
  'engagement-completed': 'completed it',
  'round-started': 'started another round',
};

/** The line of each kind. */
const DID: Readonly<Record<NoticeKind, (line: NoticeLine, about: NoticeAbout, reader: Reader) => string>> = {
  'handed-off': ({ event }) => (event === 'given-on' ? 'passed it on to you' : 'handed it off to you'),
  'sent-back': () => 'sent it back with a question',
  'mail-received': () => 'answered by mail',
  'handoff-ready': () => 'put it on your desk: its gate is clear, it can be handed off',
  told: () => 'says',
  reminder: ({ name, minutes }, about, { name: reader }) => {
    const long = count(Math.floor((minutes ?? 0) / 60), 'working hour');
    if (name !== reader) return `${(name ?? 'Somebody').split(' ')[0]} has had it for ${long}`;
    return about.kind === 'handoff' && about.state === 'sent-back' ? `not answered after ${long}` : `not picked up after ${long}`;
  },
  overdue: ({ name, minutes, things, reminderOf }, about, { name: reader }) => {
    if (about.kind !== 'task') return `${count(things, 'task is', 'tasks are')} overdue or waiting`;
    const long = count(Math.floor((minutes ?? 0) / 60), 'working hour');
    if (reminderOf === 'client') return `waiting for the client for ${long}`;
    const state = reminderOf === 'waiting' ? 'waiting' : 'overdue';
    return `${name === reader ? '' : `with ${(name ?? 'somebody').split(' ')[0]}, `}${state} for ${long}`;
  },
  unlogged: (_, about) => (about.kind === 'task' ? 'done with no time logged' : 'several tasks are done with no time logged'),
  assigned: ({ things }, about) => (about.kind === 'task' ? 'assigned it to you' : `assigned ${count(things, 'task')} to you`),
  unassigned: ({ things }, about) => (about.kind === 'task' ? 'unassigned you' : `unassigned you from ${count(things, 'task')}`),
  ready: ({ name, change }, about) => {
    const ended = `${change?.to === 'dropped' ? 'dropped' : 'finished'} “${name ?? 'the task before it'}”`;
    return about.kind === 'task' ? `${ended}: it can start` : `${ended}: more of your tasks can start`;
  },
  moved: ({ things }, about) => (about.kind === 'task' ? 'rescheduled it' : `rescheduled ${count(things, 'task')} of yours`),
  promise: ({ change }) => (change?.to === null ? 'removed the promised date' : 'changed the promised date'),
  engagement: ({ event }) => ENGAGEMENT_WORDS[event] ?? 'changed it',
  'picked-up': () => 'picked it up',
  status: () => 'changed the status',
};

/** Who reads it, and when. */
interface Reader {
  readonly name: string;
  readonly today: IsoDay;
}

/** A line in words, as its reader sees it. */
export function noticeWords(line: NoticeLine, { about }: Pick<NoticeGroup, 'about'>, reader: Reader): NoticeWords {
  return { did: DID[line.kind](line, about, reader), change: changeWords(line, about, reader.today), said: line.words };
}

function changeWords({ kind, change }: NoticeLine, about: NoticeAbout, today: IsoDay): NoticeWords['change'] {
  if (change === null || change.to === null || kind === 'ready' || (kind === 'moved' && about.kind !== 'task')) return null;
  const inWords = (value: string): string =>
    kind === 'status' ? TASK_STATUS_WORDS[value as TaskStatus] : dayWords(value as IsoDay, today);
  return { from: change.from === null ? null : inWords(change.from), to: inWords(change.to) };
}

const BY_ITSELF: Readonly<Record<string, string>> = { 'engagement-started': 'Repeating work', reminded: 'Reminder:' };

/** Who did it; changes the server makes by itself have no name. */
export const noticeDoer = ({ by, isByRule, event, name }: NoticeLine): string => {
  if (isByRule) return 'A rule';
  // Somebody at a client may have no sign-in.
  const writer = event === 'mail-received' ? name : null;
  return (by?.name ?? writer)?.split(' ')[0] ?? BY_ITSELF[event] ?? 'Somebody who left';
};

/** What the reader has to do now, in bold; otherwise what is worth knowing. */
export interface Need {
  readonly words: string;
  readonly isNeeded: boolean;
}

export function noticeNeed({ about, lines }: NoticeGroup, today: IsoDay): Need | null {
  if (about.kind === 'handoff') {
    if (about.state === 'handed-off') return about.isReceiver ? { words: 'Pick it up', isNeeded: true } : null;
    if (about.state === 'sent-back')
      return lines.some(({ kind }) => kind === 'sent-back') ? { words: 'Answer needed', isNeeded: true } : null;
    return null;
  }
  if (about.kind !== 'task') return null;
  if (isToLog({ about, lines }))
    return {
      words: about.usualMinutes === null ? 'Log the time it took' : `Log time: usually ${hourWords(about.usualMinutes)}`,
      isNeeded: true,
    };
  if (!lines.some(({ kind }) => ['assigned', 'ready', 'moved', 'overdue'].includes(kind))) return null;
  if (about.status === 'done' || about.status === 'dropped') return { words: 'Nothing needed, it is over', isNeeded: false };
  const left = `${hourWords(about.minutes)} left, ${about.due < today ? 'was due' : 'due'} ${dayWords(about.due, today)}`;
  const room = lines.some(({ kind }) => kind === 'overdue') ? null : roomWords({ about, lines }, today);
  return { words: room ?? left, isNeeded: lines.some(({ kind }) => kind !== 'moved') };
}

type TaskGroup = Pick<NoticeGroup, 'lines'> & { readonly about: Extract<NoticeAbout, { readonly kind: 'task' }> };

/** Whether the reader did the task and logged no time on it. */
const isToLog = ({ about, lines }: TaskGroup): boolean =>
  about.status === 'done' && !about.isLogged && lines.some(({ kind }) => kind === 'unlogged');

/** Where new work fits; for rescheduled work, what its day holds now. */
function roomWords({ about, lines }: TaskGroup, today: IsoDay): string | null {
  const { room } = about;
  if (room === null) return null;
  if (lines.some(({ kind }) => kind === 'assigned' || kind === 'ready')) {
    if (room.isPlaced) return null;
    return room.day === null
      ? `No day has ${hourWords(about.minutes)} free until ${dayWords(about.due, today)}`
      : `Pick a day: ${hourWords(room.day.freeMinutes)} free ${onDay(room.day.date, today)}`;
  }
  if (room.onDue === null) return null;
  const { date, loadMinutes, capacityMinutes } = room.onDue;
  if (capacityMinutes === 0) return `You do not work ${onDay(date, today)}, when it is due`;
  return `${loadMinutes > capacityMinutes ? 'Too much' : 'It fits'}: ${hours(loadMinutes)} of ${hourWords(capacityMinutes)} ${onDay(date, today)}`;
}

const onDay = (day: IsoDay, today: IsoDay): string => (day === today ? 'today' : `on ${dayWords(day, today)}`);

/** What can be done about a thing where the notice is read, besides opening it. */
export type NoticeAct =
  | { readonly kind: 'pick-up' | 'answer' | 'mark-read' }
  | { readonly kind: 'add-to-day'; readonly day: IsoDay }
  | { readonly kind: 'log'; readonly day: IsoDay; readonly minutes: number };

/** The one thing to do in place, or null: then it is opened. */
export function noticeAct({ about, lines }: NoticeGroup): NoticeAct | null {
  const has = (...kinds: readonly NoticeKind[]): boolean => lines.some(({ kind }) => kinds.includes(kind));
  if (about.kind === 'handoff') {
    if (about.state === 'handed-off' && about.isReceiver) return { kind: 'pick-up' };
    return about.state === 'sent-back' && has('sent-back') ? { kind: 'answer' } : null;
  }
  if (about.kind !== 'task') return null;
  if (isToLog({ about, lines }))
    return about.usualMinutes === null || about.doneOn === null ? null : { kind: 'log', day: about.doneOn, minutes: about.usualMinutes };
  const isUnread = lines.some(({ isRead }) => !isRead);
  if (about.status === 'done' || about.status === 'dropped') return isUnread ? { kind: 'mark-read' } : null;
  if (has('assigned', 'ready')) {
    const day = about.room?.day ?? null;
    return day === null || about.room?.isPlaced === true ? null : { kind: 'add-to-day', day: day.date };
  }
  return isUnread && has('moved', 'unassigned') && !has('overdue') ? { kind: 'mark-read' } : null;
}

/** Where a thing is opened: a freelancer's tasks are on the desk. */
export function noticeAddress({ about, engagement }: NoticeGroup, seesEngagements: boolean): string {
  if (about.kind === 'handoff') return `/handoffs?handoff=${about.id}`;
  if (about.kind === 'person') return `/crew?person=${about.id}`;
  if (!seesEngagements || engagement === null) return about.kind === 'task' ? `/desk?task=${about.id}` : '/desk';
  return about.kind === 'task' ? `/engagements/${engagement.id}?task=${about.id}` : `/engagements/${about.id}`;
}

/** What a thing is called. */
export const noticeTitle = (about: NoticeAbout): string =>
  about.kind === 'handoff' ? `${about.from} → ${about.to ?? 'completion'}` : about.title;

/** Each kind as one chooses it. */
export const NOTICE_KIND_WORDS: Readonly<Record<NoticeKind, string>> = {
  'handed-off': 'Handoffs to me',
  'sent-back': 'Handoffs sent back to me',
  'mail-received': 'Answers by mail about my work',
  'handoff-ready': 'My handoffs that can be handed off',
  told: 'What rules tell me',
  reminder: 'Reminders of handoffs that wait',
  overdue: 'Reminders of work that is overdue or waits',
  unlogged: 'Reminders to log my time',
  'picked-up': 'My handoffs that are picked up',
  assigned: 'Tasks assigned to me',
  unassigned: 'Tasks I am unassigned from',
  ready: 'My tasks that can start',
  moved: 'My tasks that are rescheduled',
  promise: 'Promised dates that change',
  engagement: 'Engagements that start, end or go into another round',
  status: 'Statuses of tasks I share, or in engagements I lead',
};
