import { Inject, Injectable, Logger, type BeforeApplicationShutdown, type OnApplicationBootstrap } from '@nestjs/common';
import { simpleParser } from 'mailparser';
import { CONFIG, type Config } from '../platform/config.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { messageIdFor } from './read-mail.ts';
import { listenForMail, type ListeningForMail } from './listen-for-mail.ts';

/** A mail server keeps a mail once that is delivered to it twice. */
const KEEP = `INSERT INTO caught_mail (address, message_id, at, raw) VALUES (lower($1), $2, $3, $4) ON CONFLICT DO NOTHING`;

/**
 * The bundled mailboxes: a real mail server on this machine that takes every mail and sends none on.
 * Mail goes there until an owner names a mail server.
 */
@Injectable()
export class MailboxServer implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly config: Config;
  private readonly database: Database;
  private readonly clock: Clock;
  private listening: ListeningForMail | null = null;
  constructor(@Inject(CONFIG) config: Config, database: Database, clock: Clock) {
    this.config = config;
    this.database = database;
    this.clock = clock;
  }

  /** Where it listens; null while it does not. */
  get port(): number | null {
    return this.listening?.port ?? null;
  }

  async onApplicationBootstrap(): Promise<void> {
    const { mailboxPort } = this.config.mail;
    if (mailboxPort === null) return;
    this.listening = await listenForMail(mailboxPort, {
      logger: new Logger('mailboxes'),
      takes: () => null,
      take: async ({ to, raw }) => {
        const { messageId } = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });
        for (const address of to) await this.database.rows(KEEP, [address, messageId ?? messageIdFor(raw), this.clock.now(), raw]);
        return null;
      },
    });
  }

  async beforeApplicationShutdown(): Promise<void> {
    await this.listening?.close();
  }
}
