import type { IsoDay } from '@crew/core';
import {
  count,
  noticeAddress,
  noticeDoer,
  noticeNeed,
  noticeTitle,
  noticeWords,
  type NoticeAbout,
  type NoticeGroup,
  type NoticeLine,
} from '@crew/contract';
import type { MailBlock, MailItem } from '../mail/mail-body.ts';

/** Whoever a mail goes to, and when. */
export interface NoticeReader {
  readonly name: string;
  readonly today: IsoDay;
  /** Where people open the app. */
  readonly appAddress: string;
  readonly seesEngagements: boolean;
}

type Handoff = Extract<NoticeAbout, { readonly kind: 'handoff' }>;

/** What a handoff that is mailed brings along. */
export interface Packet {
  readonly words: string;
  readonly doneTasks: number;
  readonly openTasks: readonly string[];
  readonly client: string;
  readonly engagement: string;
}

/** "Bastien assigned it to you, Wed 25 Nov → Fri 27 Nov". */
export function lineSentence(line: NoticeLine, group: Pick<NoticeGroup, 'about'>, reader: NoticeReader): string {
  const { did, change, said } = noticeWords(line, group, reader);
  const changed = change === null ? '' : ` ${change.from === null ? '' : `${change.from} `}→ ${change.to}`;
  return `${noticeDoer(line)} ${did}${changed}${said === null ? '' : `: “${said}”`}`;
}

/** All that is new of one thing, with what is needed. */
export function groupItem(group: NoticeGroup, reader: NoticeReader): MailItem {
  const need = noticeNeed(group, reader.today);
  const title = noticeTitle(group.about);
  const { engagement, about } = group;
  return {
    title: engagement === null || about.kind === 'engagement' ? title : `${title}, ${engagement.name}`,
    words: [...group.lines.map((line) => lineSentence(line, group, reader)), ...(need === null ? [] : [`${need.words}.`])].join('\n'),
    address: `${reader.appAddress}${noticeAddress(group, reader.seesEngagements)}`,
  };
}

const settings = (reader: NoticeReader): MailBlock => ({
  kind: 'small',
  words: 'Which notices come by mail is chosen in the app, under Notices.',
  link: { label: 'Choose notices', address: `${reader.appAddress}/desk?notices=choose` },
});

/** Several notices in one mail. */
export const noticesBlocks = (groups: readonly NoticeGroup[], reader: NoticeReader): MailBlock[] => [
  { kind: 'list', heading: 'New for you', items: groups.map((group) => groupItem(group, reader)) },
  settings(reader),
];

export const noticesSubject = (groups: readonly NoticeGroup[], reader: NoticeReader): string => {
  const [first] = groups;
  const [line] = first?.lines ?? [];
  if (groups.length === 1 && first !== undefined && line !== undefined)
    return `${noticeTitle(first.about)}: ${lineSentence(line, first, reader)}`;
  return `${count(groups.length, 'thing')} new for you`;
};

/** The morning's mail. */
export const digestBlocks = (groups: readonly NoticeGroup[], reader: NoticeReader, unsubscribe: string): MailBlock[] => [
  { kind: 'text', words: `Good morning, ${reader.name.split(' ')[0]}. This is new since the last digest.` },
  { kind: 'list', heading: count(groups.length, 'thing'), items: groups.map((group) => groupItem(group, reader)) },
  { kind: 'button', label: 'Open my desk', address: `${reader.appAddress}/desk` },
  { kind: 'small', words: 'You get this on working mornings with something new.', link: { label: 'Stop digests', address: unsubscribe } },
];

/** Somebody's turn at a handoff: to pick it up, or to answer what it was sent back with. */
export function handoffBlocks(
  about: Handoff,
  line: NoticeLine,
  given: { readonly packet: Packet; readonly link: string; readonly canReply: boolean },
): MailBlock[] {
  const { packet, link, canReply } = given;
  const isBack = about.state === 'sent-back';
  const who = noticeDoer(line);
  const what = `${about.from} of ${packet.engagement} (${packet.client})`;
  const first = isBack
    ? `${who} sent ${what} back with a question:`
    : `${who} handed ${what} off to you${about.to === null ? '' : `: ${about.to} is next`}.`;
  const words = isBack ? (about.question ?? '') : packet.words;
  const open = packet.openTasks.length === 0 ? '' : ` Still open: ${packet.openTasks.join(', ')}.`;
  return [
    { kind: 'text', words: first },
    ...(words === '' ? [] : [{ kind: 'quote' as const, words }]),
    ...(isBack ? [] : [{ kind: 'text' as const, words: `${count(packet.doneTasks, 'task')} done.${open}` }]),
    { kind: 'button', label: isBack ? 'Open the handoff' : `Pick up${about.to === null ? '' : ` ${about.to}`}`, address: link },
    ...(canReply ? [{ kind: 'small' as const, words: isBack ? ANSWER : ASK }] : []),
  ];
}

const ASK = 'Something missing? Answer this mail with your question: that sends the handoff back.';
const ANSWER = 'Answer this mail to hand it off again with your answer.';

export const handoffSubject = (about: Handoff, packet: Packet): string =>
  about.state === 'sent-back'
    ? `A question about ${about.from}, ${packet.engagement}`
    : `${about.from} → ${about.to ?? 'completion'}, ${packet.engagement}: yours to pick up`;
