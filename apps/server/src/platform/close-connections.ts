import type { Server } from 'node:http';
import { Injectable, type BeforeApplicationShutdown } from '@nestjs/common';
import { HttpAdapterHost } from '@nestjs/core';

/** Requests under way get this long to be answered. */
const GRACE_MS = 1500;

/** Browsers hold connections open ahead of need; the server would wait for them for ever when it is told to stop. */
@Injectable()
export class CloseConnections implements BeforeApplicationShutdown {
  private readonly host: HttpAdapterHost;
  constructor(host: HttpAdapterHost) {
    this.host = host;
  }

  beforeApplicationShutdown(): void {
    // Without HTTP, as when the demo is made, there is no adapter.
    const server = (this.host.httpAdapter as HttpAdapterHost['httpAdapter'] | undefined)?.getHttpServer() as Server | undefined;
    if (server === undefined) return;
    setTimeout(() => server.closeAllConnections(), GRACE_MS).unref();
  }
}
