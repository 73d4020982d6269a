import { Injectable } from '@nestjs/common';
import type { MailKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { headersOf } from './mail-headers.ts';
import { FindMailRoute, openTransport } from './mail-route.ts';
import { MailSecrets } from './mail-secrets.ts';

/** A mail as it is sent. */
export interface MailToSend {
  readonly id: string;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly kind: MailKind;
  readonly toName: string;
  readonly toAddress: string;
  readonly personId: string | null;
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  readonly canReply: boolean;
  readonly tries: number;
}

/** Whoever sends it holds it; a second process leaves it alone. */
const TAKE = `
  SELECT m.id, m.agency_id AS "agencyId", g.name AS "agencyName", m.kind, m.to_name AS "toName", m.to_address AS "toAddress", m.person_id AS "personId",
    m.subject, m.text, m.html, m.can_reply AS "canReply", m.tries
  FROM mail m JOIN agency g ON g.id = m.agency_id WHERE m.id = $1 AND m.state = 'waiting' FOR UPDATE OF m SKIP LOCKED`;
const SENT = `UPDATE mail SET state = 'sent', sent_at = $2, trouble = NULL, tries = tries + 1 WHERE id = $1`;
const TROUBLE = `UPDATE mail SET state = $2, trouble = $3, tries = tries + 1 WHERE id = $1`;

/** With more and more time between: the last one is some three hours after the first. */
const MOST_TRIES = 10;

/** Why a mail was not sent. */
interface Trouble {
  readonly words: string;
  /** Trying again would change nothing. */
  readonly isFinal: boolean;
  /** The server does not know the address. */
  readonly isAddress: boolean;
}

/**
 * Sends one mail. It is marked as sent in the transaction that holds it; a process that ends after the mail
 * server took it and before that sends it again under the same id (Message-ID), which mail servers keep once.
 * What fails for now is tried again by the queue; what fails for good is kept as undeliverable.
 */
@Injectable()
export class SendMail {
  private readonly database: Database;
  private readonly routes: FindMailRoute;
  private readonly secrets: MailSecrets;
  private readonly clock: Clock;
  constructor(database: Database, routes: FindMailRoute, secrets: MailSecrets, clock: Clock) {
    this.database = database;
    this.routes = routes;
    this.secrets = secrets;
    this.clock = clock;
  }

  async run({ mailId }: { readonly mailId: string }): Promise<void> {
    const trouble = await this.database.transaction(async (manager) => {
      const mail = await firstRow<MailToSend>(manager, TAKE, [mailId]);
      return mail === null ? null : this.send(manager, mail);
    });
    // The queue tries again what fails, later each time.
    if (trouble !== null && !trouble.isFinal) throw new Error(`Mail ${mailId} is tried again. ${trouble.words}`);
  }

  private async send(manager: EntityManager, mail: MailToSend): Promise<Trouble | null> {
    const trouble = await this.handOver(manager, mail);
    if (trouble === null) await rowsOf(manager, SENT, [mail.id, this.clock.now()]);
    else {
      const isFinal = trouble.isFinal || mail.tries + 1 >= MOST_TRIES;
      await rowsOf(manager, TROUBLE, [mail.id, isFinal ? 'undeliverable' : 'waiting', trouble.words]);
      if (trouble.isAddress) await markFault(manager, { ...mail, address: mail.toAddress, why: trouble.words, at: this.clock.now() });
      await announceChange(manager, { agencyId: mail.agencyId, topics: ['mail'] });
      return { ...trouble, isFinal };
    }
    await announceChange(manager, { agencyId: mail.agencyId, topics: ['mail'] });
    return null;
  }

  /** Gives a mail to the server; answers what went wrong. */
  private async handOver(manager: EntityManager, mail: MailToSend): Promise<Trouble | null> {
    try {
      const route = await this.routes.run(manager, mail.agencyId);
      const transport = openTransport(route);
      try {
        await transport.sendMail(headersOf(mail, route, this.secrets));
      } finally {
        transport.close();
      }
      return null;
    } catch (error) {
      if (error instanceof Refusal) return { words: error.message, isFinal: true, isAddress: false };
      return troubleOf(error);
    }
  }
}

/** What a mail server or the way there says: 5xx is for good (RFC 5321). */
function troubleOf(error: unknown): Trouble {
  const { responseCode, command, message } = error as { responseCode?: number; command?: string; message?: string };
  const isFinal = responseCode !== undefined && responseCode >= 500;
  return { words: (message ?? String(error)).slice(0, 500), isFinal, isAddress: isFinal && command === 'RCPT TO' };
}

/** Notes that an address sends mail back; the newest reason stands. */
export async function markFault(
  manager: EntityManager,
  fault: { readonly agencyId: string; readonly address: string; readonly why: string; readonly at: Date },
): Promise<void> {
  await rowsOf(
    manager,
    `INSERT INTO mail_fault (agency_id, address, why, at) VALUES ($1, lower($2), $3, $4)
     ON CONFLICT (agency_id, address) DO UPDATE SET why = excluded.why, at = excluded.at`,
    [fault.agencyId, fault.address, fault.why, fault.at],
  );
}
