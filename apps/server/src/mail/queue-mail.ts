import { randomUUID } from 'node:crypto';
import type { MailKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { isTrial } from '../platform/try-out.ts';
import { writeBody, type MailBlock } from './mail-body.ts';

/** A mail that is to be sent. */
export interface NewMail {
  readonly agencyId: string;
  readonly agencyName: string;
  /** Asked for twice under one key, it is sent once. */
  readonly key: string;
  readonly kind: MailKind;
  readonly to: MailTo;
  readonly subject: string;
  /** Made with the mail's own id, which its links are signed for. */
  readonly blocks: (mailId: string) => readonly MailBlock[];
  readonly canReply: boolean;
  readonly engagementId?: string | null;
  readonly handoff?: { readonly id: string; readonly version: number };
}

export interface MailTo {
  readonly name: string;
  readonly address: string;
  readonly personId?: string | null;
  readonly contactId?: string | null;
}

/** An address that sends mail back gets none until somebody tries again. */
const INSERT = `
  INSERT INTO mail (id, agency_id, key, kind, person_id, contact_id, to_name, to_address, engagement_id, handoff_id, handoff_version, subject, text, html, can_reply, created_at, state, trouble)
  SELECT $1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, CASE WHEN f.address IS NULL THEN 'waiting' ELSE 'undeliverable' END,
    'Mail to this address came back: ' || f.why
  FROM (SELECT 1) one LEFT JOIN mail_fault f ON f.agency_id = $2 AND f.address = lower($8)
  ON CONFLICT DO NOTHING RETURNING id, state`;

/**
 * Asks for a mail in the transaction of what it tells of: rolled back together, sent once that is
 * committed. Answers its id, or null when one with this key was asked for before.
 */
export async function queueMail(manager: EntityManager, mail: NewMail, at: Date): Promise<string | null> {
  if (isTrial(manager)) return null;
  const id = randomUUID();
  const { text, html } = writeBody(mail.agencyName, mail.blocks(id));
  const [queued] = await rowsOf<{ id: string; state: string }>(manager, INSERT, [
    ...[id, mail.agencyId, mail.key, mail.kind, mail.to.personId ?? null, mail.to.contactId ?? null, oneLine(mail.to.name)],
    ...[mail.to.address, mail.engagementId ?? null, mail.handoff?.id ?? null, mail.handoff?.version ?? null],
    ...[oneLine(mail.subject), text, html, mail.canReply, at],
  ]);
  if (queued === undefined) return null;
  if (queued.state === 'waiting') await addJob(manager, { name: 'send-mail', payload: { mailId: id }, key: `mail ${id}` });
  await announceChange(manager, { agencyId: mail.agencyId, topics: ['mail'] });
  return id;
}

/** What stands in a header is one line, whatever somebody typed. */
const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, 250);
