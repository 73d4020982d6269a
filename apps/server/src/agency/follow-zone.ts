import { Injectable, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { FoundAgency } from './found-agency.ts';

const EVERY_MS = 30_000;

/** Another process may have founded the agency or changed its time zone: this one counts days by it too, within the minute. */
@Injectable()
export class FollowZone implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly founding: FoundAgency;
  private timer: NodeJS.Timeout | undefined;
  constructor(founding: FoundAgency) {
    this.founding = founding;
  }

  onApplicationBootstrap(): void {
    this.timer = setInterval(() => {
      // Without its database the server says so at every request; the zone stays as it was.
      this.founding.setClock().catch(() => undefined);
    }, EVERY_MS);
    this.timer.unref();
  }

  beforeApplicationShutdown(): void {
    clearInterval(this.timer);
  }
}
