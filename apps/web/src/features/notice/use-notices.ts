import {
  noticeTitle,
  type ChooseMailing,
  type ChooseNotices,
  type DeskPlaces,
  type HandOff,
  type HandoffSheet,
  type NoticeAbout,
  type NoticeLine,
  type Notices,
  type TimeLogged,
} from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { call } from '../../api/client.ts';
import { backBy, perform, performOrThrow } from '../../session/perform.ts';
import { count, dayWords, hourWords } from '../../words/format.ts';
import { pickedUpWords } from '../../words/handoff.ts';

const mark = (noticeIds: readonly string[], isRead: boolean): Promise<unknown> => call('POST', '/notices/read', { noticeIds, isRead });
const snooze = (noticeIds: readonly string[], isSnoozed: boolean): Promise<unknown> =>
  call('POST', '/notices/snooze', { noticeIds, isSnoozed });

/** The notices of lines that were not read. */
export const unreadOf = (lines: readonly NoticeLine[]): string[] => lines.flatMap(({ ids, isRead }) => (isRead ? [] : ids));

/** Opening something marks it as read, without a message. */
export const markOpened = (lines: readonly NoticeLine[]): void => {
  const ids = unreadOf(lines);
  if (ids.length > 0) void perform({ send: () => mark(ids, true) });
};

export const markAllRead = ({ groups }: Notices): void => {
  const ids = groups.flatMap(({ lines }) => unreadOf(lines));
  void perform({
    send: () => mark(ids, true),
    said: `${count(ids.length, 'notice')} marked as read.`,
    undo: () => backBy(() => mark(ids, false)),
  });
};

export const markRead = (lines: readonly NoticeLine[]): void => {
  const ids = unreadOf(lines);
  void perform({ send: () => mark(ids, true), said: 'Marked as read.', undo: () => backBy(() => mark(ids, false)) });
};

/** Puts a task on a day of one's week; its dates stay. */
export async function addToDay(
  about: NoticeAbout,
  {
    personId,
    day,
    today,
    lines,
  }: { readonly personId: string; readonly day: IsoDay; readonly today: IsoDay; readonly lines: readonly NoticeLine[] },
): Promise<void> {
  const { isDone } = await perform({
    send: () => call<DeskPlaces>('POST', '/desk/places', { taskId: about.id, day, personId }),
    said: `“${noticeTitle(about)}” is planned for ${dayWords(day, today)}. Its dates do not change.`,
    undo: (before) => backBy(() => call('POST', '/desk/places/restore', before)),
  });
  if (isDone) markOpened(lines);
}

/** Logs what such work usually takes, on the day it was done. */
export async function logUsual(
  about: NoticeAbout,
  { day, minutes, lines }: { readonly day: IsoDay; readonly minutes: number; readonly lines: readonly NoticeLine[] },
): Promise<void> {
  const { isDone } = await perform({
    send: () => call<TimeLogged>('POST', `/tasks/${about.id}/time`, { day, minutes }),
    said: `${hourWords(minutes)} logged on “${noticeTitle(about)}”.`,
    undo: ({ entry: { id, version } }) => backBy(() => call('POST', `/time/${id}/remove`, { version })),
  });
  if (isDone) markOpened(lines);
}

export const snoozeUntilTomorrow = (lines: readonly NoticeLine[]): void => {
  const ids = lines.flatMap((line) => line.ids);
  void perform({ send: () => snooze(ids, true), said: 'Comes back tomorrow at 9:00.', undo: () => backBy(() => snooze(ids, false)) });
};

export const bringBack = (ids: readonly string[]): void => void perform({ send: () => snooze(ids, false) });

/** Picks a handoff up; what was said of it is read then, and not when it is refused. */
export async function pickUp(
  { id, version, to }: Extract<NoticeAbout, { readonly kind: 'handoff' }>,
  lines: readonly NoticeLine[],
): Promise<void> {
  const { isDone } = await perform({
    send: () => call<HandoffSheet>('POST', `/handoffs/${id}/pick-up`, { version }),
    said: pickedUpWords(to),
    undo: ({ turns }) => turns.at(-1)?.changeId ?? null,
  });
  if (isDone) markOpened(lines);
}

/** Answers the question of a handoff that came back, and hands it off again; thrown where its form shows what went wrong. */
export async function answer(
  { id }: Extract<NoticeAbout, { readonly kind: 'handoff' }>,
  { input, lines }: { readonly input: HandOff; readonly lines: readonly NoticeLine[] },
): Promise<void> {
  await performOrThrow({
    send: () => call<HandoffSheet>('POST', `/handoffs/${id}/hand-off`, input),
    said: 'Answered and handed off again.',
    undo: ({ turns }) => turns.at(-1)?.changeId ?? null,
  });
  markOpened(lines);
}

export const choose = (choice: ChooseNotices): void => void perform({ send: () => call('PATCH', '/notices/choices', choice) });

export const chooseMailing = (choice: ChooseMailing): void => void perform({ send: () => call('PATCH', '/notices/mailing', choice) });
