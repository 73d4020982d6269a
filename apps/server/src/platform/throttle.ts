import { Injectable } from '@nestjs/common';
import { ThrottlerGuard } from '@nestjs/throttler';
import type { RequestOfSomebody } from './rights.ts';

/** Counts requests by account, since an office shares an address; where nobody is signed in, by address. */
@Injectable()
export class ThrottleByAccount extends ThrottlerGuard {
  protected override getTracker(request: RequestOfSomebody): Promise<string> {
    return Promise.resolve(request.session.accountId ?? request.ip ?? '');
  }
}
