import { Inject, Injectable } from '@nestjs/common';
import { can, type NoticeGroup, type NoticeKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { AccountRepository } from '../account/account.repository.ts';
import { unsubscribeAddress } from '../mail/mail-headers.ts';
import { MailSecrets } from '../mail/mail-secrets.ts';
import { queueMail, type NewMail } from '../mail/queue-mail.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import {
  digestBlocks,
  handoffBlocks,
  handoffSubject,
  noticesBlocks,
  noticesSubject,
  type NoticeReader,
  type Packet,
} from './compose-notice-mail.ts';
import { isAtWork, readMailed } from './mail-times.ts';
import { readGroups } from './read-notices.ts';
import { MAILED_ALONE } from './tell-people.ts';

/** Who has notices to be mailed now. */
const READERS = `SELECT DISTINCT person_id AS id FROM notice WHERE mail_due_at <= $1`;

/** What was read or put off meanwhile is not mailed. One process takes them; another finds none. */
const TAKE = `
  WITH due AS (SELECT id FROM notice WHERE person_id = $1 AND mail_due_at <= $2 ORDER BY id FOR UPDATE SKIP LOCKED),
  taken AS (UPDATE notice n SET mail_due_at = NULL FROM due WHERE n.id = due.id RETURNING n.id, n.kind, n.handoff_id, n.read_at, n.snoozed_until)
  SELECT id, kind FROM taken WHERE read_at IS NULL AND (snoozed_until IS NULL OR snoozed_until <= $2) ORDER BY id`;

/** Whoever may be sent a digest today and has not been. */
const DIGESTS_DUE = `
  SELECT p.id FROM person p JOIN account a ON a.person_id = p.id LEFT JOIN notice_mailing m ON m.person_id = p.id
  WHERE p.is_active AND coalesce(m.has_digest, true) AND coalesce(m.digest_on < $1::date, true)`;

const TAKE_DIGEST = `
  INSERT INTO notice_mailing (person_id, digest_on) VALUES ($1, $2)
  ON CONFLICT (person_id) DO UPDATE SET digest_on = $2 WHERE notice_mailing.has_digest AND coalesce(notice_mailing.digest_on < $2, true) RETURNING person_id`;

const IN_DIGEST = `
  UPDATE notice SET in_digest = false WHERE person_id = $1 AND in_digest RETURNING id, read_at IS NULL AS "isNew"`;

/** Of what was handed off the packet as it was then; of what is still to be handed off, as it stands. */
const PACKET = `
  SELECT h.words, e.name AS engagement, c.name AS client,
    coalesce(jsonb_array_length(h.packet->'doneTasks'), (SELECT count(*)::int FROM task t WHERE t.phase_id = h.from_phase_id AND NOT t.is_group AND t.status = 'done')) AS "doneTasks",
    CASE WHEN h.packet IS NOT NULL THEN ARRAY(SELECT x.task->>'title' FROM jsonb_array_elements(h.packet->'openTasks') WITH ORDINALITY x(task, place) ORDER BY x.place LIMIT 5)
      ELSE ARRAY(SELECT t.title FROM task t WHERE t.phase_id = h.from_phase_id AND NOT t.is_group AND t.status NOT IN ('done', 'dropped') AND t.series_id IS NULL ORDER BY t.position LIMIT 5) END AS "openTasks"
  FROM handoff h JOIN engagement e ON e.id = h.engagement_id JOIN client c ON c.id = e.client_id WHERE h.id = $1`;

interface Reader {
  readonly who: Who;
  readonly to: NewMail['to'];
  readonly words: NoticeReader;
}

/**
 * Mails notices when their time has come: a handoff by itself, the rest in one mail; and each morning the digest.
 * Whoever takes them mails them in the same transaction, so it can run in as many processes as there are.
 */
@Injectable()
export class MailNotices {
  private readonly config: Config;
  private readonly database: Database;
  private readonly accounts: AccountRepository;
  private readonly secrets: MailSecrets;
  private readonly clock: Clock;
  constructor(@Inject(CONFIG) config: Config, database: Database, accounts: AccountRepository, secrets: MailSecrets, clock: Clock) {
    this.config = config;
    this.database = database;
    this.accounts = accounts;
    this.secrets = secrets;
    this.clock = clock;
  }

  async run(): Promise<void> {
    const readers = await this.database.rows<{ id: string }>(READERS, [this.clock.now()]);
    for (const { id } of readers) await this.database.transaction((manager) => this.mailTo(manager, id));
    await this.sendDigests();
  }

  private async mailTo(manager: EntityManager, personId: string): Promise<void> {
    const now = this.clock.now();
    const taken = await rowsOf<{ id: string; kind: NoticeKind }>(manager, TAKE, [personId, now]);
    const reader = await this.readerOf(manager, personId);
    if (taken.length === 0 || reader === null) return;
    const together = taken.filter(({ kind }) => !MAILED_ALONE.has(kind)).map(({ id }) => id);
    for (const { id } of taken.filter(({ kind }) => MAILED_ALONE.has(kind))) {
      const [group] = await readGroups(manager, { personId, ids: [id], now });
      if (group !== undefined) await this.mailHandoff(manager, reader, { group, key: `notice ${id}`, now });
    }
    if (together.length === 0) return;
    const groups = await readGroups(manager, { personId, ids: together, now });
    // All of it may have been undone meanwhile.
    if (groups.length === 0) return;
    await queueMail(
      manager,
      {
        ...this.base(reader),
        ...{ key: `notices ${together[0]}`, kind: 'notices', canReply: false },
        ...{ subject: noticesSubject(groups, reader.words), blocks: () => noticesBlocks(groups, reader.words) },
      },
      now,
    );
  }

  /** A handoff is mailed only while it is still the reader's turn. */
  private async mailHandoff(
    manager: EntityManager,
    reader: Reader,
    { group: { about, engagement, lines }, key, now }: { readonly group: NoticeGroup; readonly key: string; readonly now: Date },
  ): Promise<void> {
    const [line] = lines;
    if (about.kind !== 'handoff' || line === undefined || (about.state !== 'handed-off' && about.state !== 'sent-back')) return;
    const packet = await firstRow<Packet>(manager, PACKET, [about.id]);
    if (packet === null) return;
    const canReply = about.state === 'sent-back' || about.isReceiver;
    await queueMail(
      manager,
      {
        ...this.base(reader),
        ...{ key, kind: 'handoff', canReply, engagementId: engagement?.id ?? null, handoff: { id: about.id, version: about.version } },
        subject: handoffSubject(about, packet),
        blocks: (mailId) =>
          handoffBlocks(about, line, { packet, canReply, link: `${this.config.address}/from-mail/${this.secrets.token('open', mailId)}` }),
      },
      now,
    );
  }

  /** Each working morning, as soon as somebody is at work. */
  private async sendDigests(): Promise<void> {
    const today = this.clock.today();
    const due = await this.database.rows<{ id: string }>(DIGESTS_DUE, [today]);
    if (due.length === 0) return;
    const at = { now: this.clock.now(), zone: this.clock.zone };
    const people = await readMailed(
      this.database.manager,
      due.map(({ id }) => id),
      at,
    );
    for (const { id } of people.filter(isAtWork)) await this.database.transaction((manager) => this.sendDigest(manager, id));
  }

  private async sendDigest(manager: EntityManager, personId: string): Promise<void> {
    const now = this.clock.now();
    const today = this.clock.today();
    if ((await rowsOf(manager, TAKE_DIGEST, [personId, today])).length === 0) return;
    const taken = await rowsOf<{ id: string; isNew: boolean }>(manager, IN_DIGEST, [personId]);
    const ids = taken.filter(({ isNew }) => isNew).map(({ id }) => id);
    const reader = ids.length === 0 ? null : await this.readerOf(manager, personId);
    if (reader === null) return;
    const groups = await readGroups(manager, { personId, ids, now });
    if (groups.length === 0) return;
    const unsubscribe = unsubscribeAddress(this.config.address, this.secrets.token('unsubscribe', personId));
    await queueMail(
      manager,
      {
        ...this.base(reader),
        ...{ key: `digest ${personId} ${today}`, kind: 'digest', canReply: false },
        ...{ subject: `Your day: ${noticesSubject(groups, reader.words)}`, blocks: () => digestBlocks(groups, reader.words, unsubscribe) },
      },
      now,
    );
  }

  private base({ who, to }: Reader): Pick<NewMail, 'agencyId' | 'agencyName' | 'to'> {
    return { agencyId: who.agencyId, agencyName: who.agencyName, to };
  }

  private async readerOf(manager: EntityManager, personId: string): Promise<Reader | null> {
    const account = await firstRow<{ id: string; email: string }>(manager, 'SELECT id, email FROM account WHERE person_id = $1', [
      personId,
    ]);
    const who = account === null ? null : await this.accounts.findWho(account.id, manager);
    if (account === null || who === null) return null;
    return {
      who,
      to: { name: who.name, address: account.email, personId },
      words: {
        ...{ name: who.name, today: this.clock.today(), appAddress: this.config.address },
        seesEngagements: can(who, 'engagement.open'),
      },
    };
  }
}
