import { Injectable } from '@nestjs/common';
import type { MailLink, OpenMailLink } from '@crew/contract';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { MailSecrets } from './mail-secrets.ts';

interface Linked {
  readonly id: string;
  readonly handoffId: string | null;
  readonly personId: string | null;
  readonly openedAt: Date | null;
  readonly isStill: boolean;
}

const LINKED = `
  SELECT m.id, m.handoff_id AS "handoffId", m.person_id AS "personId", m.opened_at AS "openedAt", coalesce(h.version = m.handoff_version, false) AS "isStill"
  FROM mail m LEFT JOIN handoff h ON h.id = m.handoff_id WHERE m.id = $1 AND m.agency_id = $2 FOR NO KEY UPDATE OF m`;

/**
 * The link in a mail about a handoff. It is signed and counts once, for whoever the mail was sent to and only while
 * the handoff stands as the mail says; afterwards it still shows where the handoff is now.
 */
@Injectable()
export class FollowMailLink {
  private readonly database: Database;
  private readonly secrets: MailSecrets;
  private readonly clock: Clock;
  constructor(database: Database, secrets: MailSecrets, clock: Clock) {
    this.database = database;
    this.secrets = secrets;
    this.clock = clock;
  }

  run(who: Who, { token }: OpenMailLink): Promise<MailLink> {
    return this.database.transaction(async (manager) => {
      const mailId = this.secrets.read('open', token);
      const mail = requireFound(await firstRow<Linked>(manager, LINKED, [mailId, who.agencyId]), 'mail');
      if (mail.handoffId === null) throw new Refusal('not-found', 'What this mail was about is gone.');
      if (mail.personId !== who.personId)
        throw new Refusal('not-allowed', 'This mail was sent to somebody else. Sign in as whoever it was sent to, or open Handoffs.');
      const isSpent = mail.openedAt !== null || !mail.isStill;
      if (mail.openedAt === null) await rowsOf(manager, 'UPDATE mail SET opened_at = $2 WHERE id = $1', [mail.id, this.clock.now()]);
      return { handoffId: mail.handoffId, isSpent };
    });
  }
}
