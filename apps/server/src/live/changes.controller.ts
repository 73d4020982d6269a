import { Controller, Req, Sse, type MessageEvent } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { ChangeNotice } from '@crew/contract';
import type { Request } from 'express';
import { concat, endWith, filter, ignoreElements, interval, map, merge, of, share, switchMap, takeUntil, type Observable } from 'rxjs';
import { AccountRepository } from '../account/account.repository.ts';
import type { Announcement } from '../platform/announce.ts';
import { Allow, Caller, EVERYBODY, isStaff, type Who } from '../platform/rights.ts';
import { ChangesFeed } from './changes-feed.ts';

/** Often enough that no proxy between us takes a quiet stream for a dead one. */
const PULSE_MS = 25_000;

/** That something changed, as it happens; what changed is then read like anything else, by its own rights. */
@ApiTags('changes')
@Controller('changes')
export class ChangesController {
  private readonly feed: ChangesFeed;
  private readonly accounts: AccountRepository;
  constructor(feed: ChangesFeed, accounts: AccountRepository) {
    this.feed = feed;
    this.accounts = accounts;
  }

  @Sse()
  @Allow(EVERYBODY)
  stream(@Caller() who: Who, @Req() request: Request): Observable<MessageEvent> {
    return streamFor(who, {
      heard: this.feed.all,
      pulses: interval(PULSE_MS),
      isStillIn: () => this.accounts.isStillIn(who, request.sessionID),
    });
  }
}

/** What one reader is told. It ends with the server, and at the first pulse after they signed out or their access changed. */
export function streamFor(
  who: Who,
  from: {
    readonly heard: Observable<Announcement | 'everything'>;
    readonly pulses: Observable<unknown>;
    readonly isStillIn: () => Promise<boolean>;
  },
): Observable<MessageEvent> {
  const ended = from.heard.pipe(ignoreElements(), endWith(null));
  const checks = from.pulses.pipe(switchMap(from.isStillIn), share());
  const notices = from.heard.pipe(
    filter((heard) => heard === 'everything' || heard.agencyId === who.agencyId),
    map((heard): MessageEvent => ({ type: 'change', data: noticeFor(who, heard) })),
  );
  const gone = checks.pipe(filter((isStillIn) => !isStillIn));
  const pulse = checks.pipe(map((): MessageEvent => ({ type: 'pulse', data: {} })));
  return concat(of<MessageEvent>({ type: 'ready', data: {} }), merge(notices, pulse)).pipe(takeUntil(merge(ended, gone)));
}

/** Who does not see every engagement is not told which one it was. */
export function noticeFor(who: Who, heard: Announcement | 'everything'): ChangeNotice {
  return { engagementId: heard === 'everything' || !isStaff(who) ? null : heard.engagementId };
}
