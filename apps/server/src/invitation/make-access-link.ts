import { Injectable } from '@nestjs/common';
import type { AccessLinkKind, AccessLinkMade } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { KeepSecurityLog } from '../account/security-log.ts';
import { hasMailServer } from '../mail/has-mail-server.ts';
import { queueMail } from '../mail/queue-mail.ts';
import { Clock } from '../platform/clock.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import type { RequestOrigin } from '../platform/request-context.ts';
import type { Who } from '../platform/rights.ts';
import { AccessTokens } from './access-tokens.ts';

/** For how long a link can be used, in hours: somebody who is invited may be on holiday, a forgotten password is wanted now. */
const HOURS: Readonly<Record<AccessLinkKind, number>> = { invitation: 14 * 24, password: 2 };

/** Links of an account are made and used one after the other. */
export const LOCK_ACCOUNT = 'SELECT 1 FROM account WHERE id = $1 FOR NO KEY UPDATE';
const WITHDRAW = `UPDATE access_link SET withdrawn_at = $2 WHERE account_id = $1 AND used_at IS NULL AND withdrawn_at IS NULL RETURNING 1`;
const INSERT = `INSERT INTO access_link (account_id, kind, created_at, expires_at) VALUES ($1, $2, $3::timestamptz, $3::timestamptz + make_interval(hours => $4)) RETURNING id, expires_at AS "expiresAt"`;

/** Whom a link is for. */
export interface LinkReader {
  readonly accountId: string;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly personId: string | null;
  readonly contactId: string | null;
  readonly name: string;
  readonly email: string;
  readonly hasPassword: boolean;
}

export const LINK_READER = `
  SELECT a.id AS "accountId", a.agency_id AS "agencyId", g.name AS "agencyName", a.person_id AS "personId", a.contact_id AS "contactId",
    coalesce(p.name, c.name) AS name, a.email, a.password_hash IS NOT NULL AS "hasPassword"
  FROM account a JOIN agency g ON g.id = a.agency_id LEFT JOIN person p ON p.id = a.person_id LEFT JOIN contact c ON c.id = a.contact_id
  WHERE coalesce(p.is_active, c.is_active)`;

/** Makes links to choose a password, and mails them where there is a server to mail by. Of an account's links only the newest counts. */
@Injectable()
export class MakeAccessLink {
  private readonly tokens: AccessTokens;
  private readonly clock: Clock;
  private readonly log: KeepSecurityLog;
  constructor(tokens: AccessTokens, clock: Clock, log: KeepSecurityLog) {
    this.tokens = tokens;
    this.clock = clock;
    this.log = log;
  }

  /** `by` invites or helps; or somebody asked for their own, from `origin`. */
  async run(
    manager: EntityManager,
    reader: LinkReader,
    asked: { readonly by: Who } | { readonly origin: RequestOrigin },
  ): Promise<AccessLinkMade> {
    const at = this.clock.now();
    const kind: AccessLinkKind = reader.hasPassword ? 'password' : 'invitation';
    // Two who ask at once: the second waits here and then withdraws the link of the first.
    await rowsOf(manager, LOCK_ACCOUNT, [reader.accountId]);
    await rowsOf(manager, WITHDRAW, [reader.accountId, at]);
    const made = await firstRow<{ id: string; expiresAt: Date }>(manager, INSERT, [reader.accountId, kind, at, HOURS[kind]]);
    const { id, expiresAt } = made as { id: string; expiresAt: Date };
    const link = this.tokens.linkFor(id);
    const isMailed = await hasMailServer(manager, reader.agencyId);
    await queueMail(manager, mailOf(reader, { id, link, kind, by: 'by' in asked ? asked.by.name : null }), at);
    await this.log.add({ kind: kind === 'invitation' ? 'invited' : 'link-asked', accountId: reader.accountId, ...asked }, manager);
    const { personId, name, email } = reader;
    return { personId: personId ?? '', name, link, expiresAt: expiresAt.toISOString(), mailedTo: isMailed ? email : null };
  }

  /** The link somebody has now that can still be used; null without one. */
  async find(manager: EntityManager, reader: LinkReader): Promise<AccessLinkMade | null> {
    const sql = `SELECT id, expires_at AS "expiresAt" FROM access_link WHERE account_id = $1 AND used_at IS NULL AND withdrawn_at IS NULL AND expires_at > $2`;
    const open = await firstRow<{ id: string; expiresAt: Date }>(manager, sql, [reader.accountId, this.clock.now()]);
    if (open === null) return null;
    const { personId, name } = reader;
    return { personId: personId ?? '', name, link: this.tokens.linkFor(open.id), expiresAt: open.expiresAt.toISOString(), mailedTo: null };
  }

  /** Makes somebody's link worthless. */
  async withdraw(manager: EntityManager, reader: LinkReader, by: Who): Promise<void> {
    const withdrawn = await rowsOf(manager, WITHDRAW, [reader.accountId, this.clock.now()]);
    if (withdrawn.length > 0) await this.log.add({ kind: 'link-withdrawn', accountId: reader.accountId, by }, manager);
  }
}

function mailOf(
  { agencyId, agencyName, name, email, personId, contactId }: LinkReader,
  link: { readonly id: string; readonly link: string; readonly kind: AccessLinkKind; readonly by: string | null },
): Parameters<typeof queueMail>[1] {
  const isInvited = link.kind === 'invitation';
  const first = name.split(' ')[0] ?? name;
  const words = isInvited
    ? `Hello ${first}, ${link.by ?? agencyName} has invited you to ${agencyName} on Nimble Crew. Choose a password and you are in.`
    : `Hello ${first}, here is the link to choose a new password for ${agencyName}.`;
  return {
    ...{ agencyId, agencyName, kind: 'access', key: `access ${link.id}`, canReply: false },
    to: { name, address: email, personId, contactId },
    subject: isInvited ? `Your invitation to ${agencyName}` : 'Choose a new password',
    blocks: () => [
      { kind: 'text', words },
      { kind: 'button', label: 'Choose a password', address: link.link },
      {
        kind: 'small',
        words: isInvited
          ? 'The link works once, within 14 days.'
          : 'The link works once, within two hours. If you did not ask for it, ignore this mail; your password stays as it is.',
      },
    ],
  };
}
