import { Controller, Sse, type MessageEvent } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { ChangeNotice } from '@crew/contract';
import { concat, filter, interval, map, merge, of, takeUntil, endWith, ignoreElements, type Observable } from 'rxjs';
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
  constructor(feed: ChangesFeed) {
    this.feed = feed;
  }

  @Sse()
  @Allow(EVERYBODY)
  stream(@Caller() who: Who): Observable<MessageEvent> {
    const ended = this.feed.all.pipe(ignoreElements(), endWith(null));
    const notices = this.feed.all.pipe(
      filter((heard) => heard === 'everything' || heard.agencyId === who.agencyId),
      map((heard): MessageEvent => ({ type: 'change', data: noticeFor(who, heard) })),
    );
    const pulse = interval(PULSE_MS).pipe(map((): MessageEvent => ({ type: 'pulse', data: {} })));
    return concat(of<MessageEvent>({ type: 'ready', data: {} }), merge(notices, pulse)).pipe(takeUntil(ended));
  }
}

/** Who does not see every engagement is not told which one it was. */
export function noticeFor(who: Who, heard: Announcement | 'everything'): ChangeNotice {
  return { engagementId: heard === 'everything' || !isStaff(who) ? null : heard.engagementId };
}
