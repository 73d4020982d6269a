import { Injectable } from '@nestjs/common';
import type { MailPage, MailReply, SentMail } from '@crew/contract';
import { announceChange } from '../platform/announce.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ENGAGEMENT_IN_COLOUR } from '../platform/sql-words.ts';

const PAGE = 50;

const REPLIES = `coalesce((SELECT json_agg(json_build_object('id', r.id, 'at', r.at, 'from', coalesce(nullif(r.from_name, ''), r.from_address), 'state', r.state,
    'words', r.words, 'remarks', r.remarks, 'said', r.said,
    'files', coalesce((SELECT json_agg(json_build_object('id', f.id, 'name', f.name, 'bytes', f.bytes) ORDER BY x.position)
      FROM mail_reply_file x JOIN file f ON f.id = x.file_id WHERE x.reply_id = r.id), '[]')) ORDER BY r.at, r.id)
  FROM mail_reply r WHERE r.mail_id = m.id), '[]')`;

const SENT = `
  SELECT m.id, m.created_at AS at, m.kind, json_build_object('name', m.to_name, 'address', m.to_address) AS "to", m.subject,
    CASE WHEN m.kind = 'access' THEN 'This mail holds a link to choose a password. Only its reader sees it.' ELSE m.text END AS text, m.state, m.sent_at AS "sentAt",
    m.tries, m.trouble, CASE WHEN e.id IS NOT NULL THEN ${ENGAGEMENT_IN_COLOUR} END AS engagement, ${REPLIES} AS replies
  FROM mail m LEFT JOIN engagement e ON e.id = m.engagement_id LEFT JOIN client c ON c.id = e.client_id`;

export const SENT_PART = ['engagements', 'answered', 'undeliverable'] as const;
export type SentPart = (typeof SENT_PART)[number];

const PARTS: Readonly<Record<SentPart, string>> = {
  engagements: 'm.engagement_id IS NOT NULL',
  answered: 'EXISTS (SELECT 1 FROM mail_reply r WHERE r.mail_id = m.id)',
  undeliverable: `m.state = 'undeliverable'`,
};

/** What a list of mails is narrowed to. */
export interface SentFilter {
  readonly only?: SentPart | undefined;
  readonly handoffId?: string | undefined;
  /** The last mail of the page before. */
  readonly after?: string | undefined;
}

type Row = Omit<SentMail, 'at' | 'sentAt' | 'replies'> & {
  readonly at: Date;
  readonly sentAt: Date | null;
  readonly replies: readonly MailReply[];
};

/** What was sent, what came back, and what could not be sent. */
@Injectable()
export class ReadSentMail {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  async list(who: Who, { only, handoffId, after }: SentFilter): Promise<MailPage> {
    const rows = await this.database.rows<Row>(
      `${SENT} WHERE m.agency_id = $1 AND ${only === undefined ? 'true' : PARTS[only]}
         AND ($2::uuid IS NULL OR m.handoff_id = $2)
         AND ($3::uuid IS NULL OR (m.created_at, m.id) < (SELECT b.created_at, b.id FROM mail b WHERE b.id = $3 AND b.agency_id = $1))
       ORDER BY m.created_at DESC, m.id DESC LIMIT ${PAGE + 1}`,
      [who.agencyId, handoffId ?? null, after ?? null],
    );
    const counted = await this.database.row<{ count: number }>(
      `SELECT count(*)::int AS count FROM mail WHERE agency_id = $1 AND state = 'undeliverable'`,
      [who.agencyId],
    );
    const mails = rows.slice(0, PAGE).map(toSent);
    return { mails, undeliverable: counted?.count ?? 0, next: rows.length > PAGE ? (mails.at(-1)?.id ?? null) : null };
  }

  /** Lets a mail that was given up be sent again; its address counts as good until it sends mail back once more. */
  retry(who: Who, id: string): Promise<void> {
    return this.database.transaction(async (manager) => {
      const sql = 'SELECT state, lower(to_address) AS address FROM mail WHERE id = $1 AND agency_id = $2';
      const [found] = await rowsOf<{ state: string; address: string }>(manager, sql, [id, who.agencyId]);
      const { state, address } = requireFound(found ?? null, 'mail');
      if (state !== 'undeliverable') throw new Refusal('wrong-moment', 'This mail is on its way or was sent already.');
      await rowsOf(manager, 'DELETE FROM mail_fault WHERE agency_id = $1 AND address = $2', [who.agencyId, address]);
      const set = `UPDATE mail SET state = 'waiting', tries = 0, trouble = NULL WHERE id = $1 AND state = 'undeliverable'`;
      if ((await affectedRows(manager, set, [id])) > 0)
        await addJob(manager, { name: 'send-mail', payload: { mailId: id }, key: `mail ${id}` });
      await announceChange(manager, { agencyId: who.agencyId, topics: ['mail'] });
    });
  }
}

const toSent = ({ at, sentAt, ...mail }: Row): SentMail => ({ ...mail, at: at.toISOString(), sentAt: sentAt?.toISOString() ?? null });
