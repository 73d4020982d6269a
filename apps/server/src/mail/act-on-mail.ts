import type { Reply } from '@crew/core';
import { Injectable } from '@nestjs/common';
import type { HandoffState, MailRemark } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { AccountRepository } from '../account/account.repository.ts';
import { PassHandoff } from '../handoff/pass-handoff.ts';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { queueMail } from './queue-mail.ts';
import { replyText, tellOfReply } from './take-mail.ts';

/** An answer that is to be acted on, and the handoff its mail was about, as it stands now. */
interface Pending {
  readonly id: string;
  readonly words: string;
  readonly remarks: readonly MailRemark[];
  readonly fromAddress: string;
  readonly fromName: string;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly accountId: string | null;
  readonly mailId: string;
  readonly personId: string | null;
  readonly toName: string;
  readonly toAddress: string;
  readonly engagementId: string;
  readonly engagementName: string;
  readonly subject: string;
  readonly handoffId: string;
  readonly state: HandoffState;
  readonly version: number;
  /** As it stood when the mail was written. */
  readonly versionThen: number;
  readonly phase: string;
  readonly receiverName: string | null;
}

const PENDING = `
  SELECT r.id, r.words, r.remarks, r.from_address AS "fromAddress", r.from_name AS "fromName", m.agency_id AS "agencyId", g.name AS "agencyName", a.id AS "accountId",
    m.id AS "mailId", m.person_id AS "personId", m.to_name AS "toName", m.to_address AS "toAddress", m.engagement_id AS "engagementId", e.name AS "engagementName", m.subject,
    h.id AS "handoffId", h.state, h.version, m.handoff_version AS "versionThen", p.name AS phase, v.name AS "receiverName"
  FROM mail_reply r JOIN mail m ON m.id = r.mail_id JOIN agency g ON g.id = m.agency_id JOIN engagement e ON e.id = m.engagement_id
    JOIN handoff h ON h.id = m.handoff_id JOIN phase p ON p.id = h.from_phase_id
    LEFT JOIN person v ON v.id = h.receiver_id LEFT JOIN account a ON a.person_id = m.person_id
  WHERE r.id = $1 AND r.is_pending`;

const DONE = 'UPDATE mail_reply SET is_pending = false, state = $2, said = $3 WHERE id = $1 AND is_pending RETURNING id';

/**
 * Does what an answer to a mail about a handoff asks for: a question from its receiver sends it back,
 * the answer to a question hands it off again. What cannot be done any more is kept, and whoever wrote
 * gets a mail with the reason. Once, however often it is called.
 */
@Injectable()
export class ActOnMail {
  private readonly database: Database;
  private readonly accounts: AccountRepository;
  private readonly passing: PassHandoff;
  private readonly clock: Clock;
  constructor(database: Database, accounts: AccountRepository, passing: PassHandoff, clock: Clock) {
    this.database = database;
    this.accounts = accounts;
    this.passing = passing;
    this.clock = clock;
  }

  async run({ replyId }: { readonly replyId: string }): Promise<void> {
    try {
      await this.database.together((manager) => this.act(manager, replyId));
    } catch (error) {
      if (!(error instanceof Refusal) || error.code === 'unavailable') throw error;
      await this.database.transaction((manager) => this.keepOnly(manager, replyId, error.message));
    }
  }

  private async act(manager: EntityManager, replyId: string): Promise<void> {
    const place = await firstRow<{ id: string }>(
      manager,
      'SELECT m.engagement_id AS id FROM mail_reply r JOIN mail m ON m.id = r.mail_id WHERE r.id = $1 AND r.is_pending',
      [replyId],
    );
    if (place === null) return;
    await lockEngagements(manager, [place.id]);
    const pending = await firstRow<Pending>(manager, PENDING, [replyId]);
    if (pending === null) throw new Refusal('not-found', 'The handoff is gone: the phases were changed since.');
    const who = pending.accountId === null ? null : await this.accounts.findWho(pending.accountId, manager);
    const acted = await this.pass(who, pending);
    await rowsOf(manager, DONE, [replyId, acted === null ? 'kept' : 'acted', acted ?? '']);
    await this.tell(manager, { pending, who, acted });
  }

  /** What the answer did, as a sentence; null when it is only kept. */
  private async pass(who: Who | null, pending: Pending): Promise<string | null> {
    const { handoffId: id, state, version, versionThen, phase, receiverName } = pending;
    const words = replyText(pending as Reply);
    if (words === '') return null;
    if (who === null) throw new Refusal('not-allowed', 'Your access to the agency has ended.');
    if (version !== versionThen) throw new Refusal('wrong-moment', `The handoff of ${phase} has moved on since the mail.`);
    if (state === 'handed-off') {
      await this.passing.sendBack(who, id, { version, question: words });
      return `Sent ${phase} back with this question.`;
    }
    if (state === 'sent-back') {
      await this.passing.handOff(who, id, { version, words });
      return `Handed ${phase} off again${receiverName === null ? '' : ` to ${receiverName}`}, with this answer.`;
    }
    return null;
  }

  private async tell(
    manager: EntityManager,
    { pending, who, acted }: { readonly pending: Pending; readonly who: Who | null; readonly acted: string | null },
  ): Promise<void> {
    const { mailId: id, engagementId, handoffId, fromAddress: address, fromName: name, agencyId } = pending;
    await tellOfReply(manager, {
      ...{ answered: { id, engagementId, handoffId }, who, mail: { from: { address, name } } },
      ...{ reply: pending as Reply, acted, at: this.clock.now() },
    });
    await announceChange(manager, { agencyId, topics: ['mail'] });
  }

  /** What could not be done is answered by a mail that programs do not reply to. */
  private async keepOnly(manager: EntityManager, replyId: string, why: string): Promise<void> {
    const pending = await firstRow<Pending>(manager, PENDING, [replyId]);
    const done = await rowsOf(manager, DONE, [replyId, 'kept', why]);
    if (pending === null || done.length === 0) return;
    const who = pending.accountId === null ? null : await this.accounts.findWho(pending.accountId, manager);
    await this.tell(manager, { pending, who, acted: null });
    const { agencyId, agencyName, toName: name, toAddress: address, personId, subject, engagementId } = pending;
    await queueMail(
      manager,
      {
        ...{ agencyId, agencyName, engagementId, key: `answer ${replyId}`, kind: 'answer', canReply: false },
        ...{ to: { name, address, personId }, subject: `Not done: ${subject}` },
        blocks: () => [
          { kind: 'text', words: `Your answer is kept with the handoff in ${pending.engagementName}, but nothing else was done: ${why}` },
          { kind: 'quote', words: replyText(pending as Reply) },
        ],
      },
      this.clock.now(),
    );
  }
}
