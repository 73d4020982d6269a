import { Injectable } from '@nestjs/common';
import type { AccessLinkFacts, AccessLinkKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { hashPassword } from '../account/password.ts';
import { writePassword } from '../account/change-password.ts';
import { endSessionsOf } from '../account/own-sessions.ts';
import { SecondFactors } from '../account/second-factors.ts';
import { KeepSecurityLog } from '../account/security-log.ts';
import { refuseWeakPassword } from '../account/weak-password.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { AccessTokens } from './access-tokens.ts';
import { LINK_READER, LOCK_ACCOUNT, type LinkReader } from './make-access-link.ts';

interface Link extends LinkReader {
  readonly kind: AccessLinkKind;
  readonly expiresAt: Date;
  readonly usedAt: Date | null;
  readonly withdrawnAt: Date | null;
}

const LINK = `SELECT l.kind, l.expires_at AS "expiresAt", l.used_at AS "usedAt", l.withdrawn_at AS "withdrawnAt", r.*
  FROM access_link l JOIN (${LINK_READER}) r ON r."accountId" = l.account_id WHERE l.id = $1`;
const USE =
  'UPDATE access_link SET used_at = $2 WHERE id = $1 AND used_at IS NULL AND withdrawn_at IS NULL AND expires_at > $2 RETURNING 1';

/** Choosing a password by a link. */
@Injectable()
export class UseAccessLink {
  private readonly database: Database;
  private readonly tokens: AccessTokens;
  private readonly factors: SecondFactors;
  private readonly clock: Clock;
  private readonly log: KeepSecurityLog;
  constructor(database: Database, tokens: AccessTokens, factors: SecondFactors, clock: Clock, log: KeepSecurityLog) {
    this.database = database;
    this.tokens = tokens;
    this.factors = factors;
    this.clock = clock;
    this.log = log;
  }

  /** Whom a link is for; refuses one that was used, is too old, was withdrawn, or was not made here. */
  async read(token: string): Promise<AccessLinkFacts> {
    const { kind, name, email, agencyName } = await this.find(this.database.manager, token);
    return { kind, name, email, agencyName };
  }

  /**
   * Sets the password and uses the link up; whoever was signed in by the old password is signed out.
   * Answers the account, and whether it can be signed in without a code.
   */
  async run(token: string, password: string): Promise<{ readonly accountId: string; readonly isSignedIn: boolean }> {
    const { accountId } = await this.find(this.database.manager, token);
    refuseWeakPassword(password);
    const hash = await hashPassword(password);
    await this.database.transaction(async (manager) => {
      await rowsOf(manager, LOCK_ACCOUNT, [accountId]);
      if ((await rowsOf(manager, USE, [this.tokens.read(token), this.clock.now()])).length === 0) await this.find(manager, token);
      await writePassword(manager, accountId, hash);
      await endSessionsOf(manager, accountId);
      await this.log.add({ kind: 'link-used', accountId }, manager);
    });
    return { accountId, isSignedIn: (await this.factors.check(accountId, undefined)) === 'ok' };
  }

  private async find(manager: EntityManager, token: string): Promise<Link> {
    const id = this.tokens.read(token);
    const link = id === null ? null : await firstRow<Link>(manager, LINK, [id]);
    if (link === null) throw new Refusal('not-found', 'This link is not valid. Copy it whole from the mail, or ask for a new one.');
    if (link.usedAt !== null) throw new Refusal('wrong-moment', 'This link was used already. Sign in, or ask for a new one.');
    if (link.withdrawnAt !== null)
      throw new Refusal('wrong-moment', 'This link was replaced by a newer one or withdrawn. Use the newest mail, or ask for a new link.');
    if (link.expiresAt <= this.clock.now()) throw new Refusal('wrong-moment', 'This link is too old. Ask for a new one.');
    return link;
  }
}
