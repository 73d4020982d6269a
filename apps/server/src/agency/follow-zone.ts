import { Injectable, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { CreateAgency } from './create-agency.ts';

const EVERY_MS = 30_000;

/** Another process may have set up the agency or changed its time zone: this one counts days by it too, within the minute. */
@Injectable()
export class FollowZone implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly creating: CreateAgency;
  private timer: NodeJS.Timeout | undefined;
  constructor(creating: CreateAgency) {
    this.creating = creating;
  }

  onApplicationBootstrap(): void {
    this.timer = setInterval(() => {
      // Without its database the server says so at every request; the zone stays as it was.
      this.creating.setClock().catch(() => undefined);
    }, EVERY_MS);
    this.timer.unref();
  }

  beforeApplicationShutdown(): void {
    clearInterval(this.timer);
  }
}
