import { Controller, Query, Req, Sse, type MessageEvent } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import { can, reachOf, readTopics, topicsText, type ChangeNotice, type Topic } from '@crew/contract';
import type { Request } from 'express';
import { concat, endWith, filter, ignoreElements, interval, map, merge, of, share, switchMap, takeUntil, type Observable } from 'rxjs';
import { AccountRepository } from '../account/account.repository.ts';
import type { Announcement } from '../platform/announce.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ChangesFeed } from './changes-feed.ts';

/** Often enough that no proxy between us takes a quiet stream for a dead one. */
const PULSE_MS = 25_000;

/** Tells that something changed, as it happens; what changed is then read like anything else, by its own rights. */
@ApiTags('changes')
@Controller('changes')
export class ChangesController {
  private readonly feed: ChangesFeed;
  private readonly accounts: AccountRepository;
  /** How many streams each account has open here. */
  private readonly streams = new Map<string, number>();
  constructor(feed: ChangesFeed, accounts: AccountRepository) {
    this.feed = feed;
    this.accounts = accounts;
  }

  /** 429 when this account has as many streams open as it may. A window that names itself is not told of its own changes. */
  @Sse()
  @Allow('account.use')
  @ApiQuery({ name: 'window', required: false })
  stream(@Caller() who: Who, @Req() request: Request, @Query('window') window?: string): Observable<MessageEvent> {
    this.open(who.accountId, request);
    return streamFor(who, {
      window: window ?? null,
      heard: this.feed.all,
      pulses: interval(PULSE_MS),
      isStillIn: () => this.accounts.isStillIn(who, request.sessionID),
    });
  }

  private open(accountId: string, request: Request): void {
    const count = this.streams.get(accountId) ?? 0;
    if (count >= MOST_STREAMS)
      throw new Refusal('too-many-tries', `You have ${MOST_STREAMS} windows open. Close some, then reload this one.`);
    this.streams.set(accountId, count + 1);
    request.once('close', () => {
      const left = (this.streams.get(accountId) ?? 1) - 1;
      if (left > 0) this.streams.set(accountId, left);
      else this.streams.delete(accountId);
    });
  }
}

/** More windows than anybody works in. */
const MOST_STREAMS = 20;

/** What one reader is told. It ends with the server, saying so, and at the first pulse after they signed out or their access changed. */
export function streamFor(
  who: Who,
  from: {
    readonly heard: Observable<Announcement | 'everything'>;
    readonly pulses: Observable<unknown>;
    readonly isStillIn: () => Promise<boolean>;
    readonly window: string | null;
  },
): Observable<MessageEvent> {
  const ended = from.heard.pipe(ignoreElements(), endWith(null), share());
  const farewell = ended.pipe(map((): MessageEvent => ({ type: 'end', data: {} })));
  const checks = from.pulses.pipe(switchMap(from.isStillIn), share());
  const notices = from.heard.pipe(
    filter(
      (heard) => heard === 'everything' || (heard.agencyId === who.agencyId && (heard.window === null || heard.window !== from.window)),
    ),
    map((heard) => noticeFor(who, heard)),
    filter(({ topics }) => topics !== ''),
    map((notice): MessageEvent => ({ type: 'change', data: notice })),
  );
  const gone = checks.pipe(filter((isStillIn) => !isStillIn));
  const pulse = checks.pipe(map((): MessageEvent => ({ type: 'pulse', data: {} })));
  const told = concat(of<MessageEvent>({ type: 'ready', data: {} }), merge(notices, pulse)).pipe(takeUntil(merge(ended, gone)));
  return merge(told, farewell.pipe(takeUntil(gone)));
}

const withoutId = (topic: Topic): Topic =>
  topic.startsWith('engagement:') ? 'engagement' : topic.startsWith('presence:') ? 'presence' : topic;

/** People who do not see every engagement are not told which one it was, nor whose work; a client only that something changed. */
export function noticeFor(who: Who, heard: Announcement | 'everything'): ChangeNotice {
  if (heard === 'everything' || can(who, 'client-page.read')) return { topics: 'everything' };
  const isOf = (name: 'person' | 'notice', topic: Topic): boolean => topic.startsWith(`${name}:`) && topic !== `${name}:${who.personId}`;
  // Notices and presence concern one person alone; whose work it is, leads may know.
  const isHidden = (topic: Topic): boolean => isOf('notice', topic) || (reachOf(who, 'desk.read') !== 'all' && isOf('person', topic));
  const topics = readTopics(heard.topics).filter((topic) => !isHidden(topic));
  if (can(who, 'engagement.open')) return { topics: topicsText(topics) };
  return { topics: topicsText([...new Set(topics.map(withoutId))]) };
}
