import type { Server } from 'node:http';
import { Injectable, type BeforeApplicationShutdown, type OnModuleDestroy } from '@nestjs/common';
import { HttpAdapterHost } from '@nestjs/core';
import type { NextFunction, Request, Response } from 'express';
import { Refusal } from './refusal.ts';

/** Requests under way get this long to be answered, longer than any of them may wait for the database. */
const GRACE_MS = 30_000;
/** What a browser or proxy does with a connection it holds open ahead of need is not waited for. */
const IDLE_MS = 250;

/**
 * How the server stops: from the moment it is told to, new requests are refused with 503 and
 * `Retry-After`; those under way are answered; then connections are closed. Streams end by
 * themselves (`live/`), and do not count.
 */
@Injectable()
export class Drain implements OnModuleDestroy, BeforeApplicationShutdown {
  private readonly host: HttpAdapterHost;
  private readonly underWay = new Set<Response>();
  private isStopping = false;
  private whenEmpty: (() => void) | null = null;
  constructor(host: HttpAdapterHost) {
    this.host = host;
  }

  /** Lets a request in, or refuses it when the server is stopping. */
  admit(request: Request, response: Response, next: NextFunction): void {
    if (this.isStopping) {
      response.setHeader('Connection', 'close');
      return next(new Refusal('unavailable', 'The server is being restarted. Nothing was saved; try again in a moment.'));
    }
    if (request.path !== '/changes') {
      this.underWay.add(response);
      response.once('close', () => this.done(response));
    }
    next();
  }

  /** The first that is told when the server stops: what others do before they end must not let more requests in. */
  onModuleDestroy(): void {
    this.isStopping = true;
  }

  async beforeApplicationShutdown(): Promise<void> {
    if (this.underWay.size > 0) {
      const timer = { id: undefined as NodeJS.Timeout | undefined };
      const tooLong = new Promise<void>((resolve) => (timer.id = setTimeout(resolve, GRACE_MS)));
      await Promise.race([new Promise<void>((resolve) => (this.whenEmpty = resolve)), tooLong]);
      clearTimeout(timer.id);
    }
    // Without HTTP, as when the demo is made, there is no adapter.
    const server = (this.host.httpAdapter as HttpAdapterHost['httpAdapter'] | undefined)?.getHttpServer() as Server | undefined;
    if (server !== undefined) setTimeout(() => server.closeAllConnections(), IDLE_MS).unref();
  }

  private done(response: Response): void {
    this.underWay.delete(response);
    if (this.underWay.size === 0) this.whenEmpty?.();
  }
}
