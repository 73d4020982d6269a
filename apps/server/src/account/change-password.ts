import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Database, rowsOf } from '../platform/database.ts';
import { doneBefore } from '../platform/request-context.ts';
import type { Who } from '../platform/rights.ts';
import { CheckPassword } from './check-password.ts';
import { OwnSessions } from './own-sessions.ts';
import { hashPassword } from './password.ts';
import { KeepSecurityLog } from './security-log.ts';
import { refuseWeakPassword } from './weak-password.ts';

/** Changes one's own password. All other sessions, opened with the old one, end. */
@Injectable()
export class ChangePassword {
  private readonly database: Database;
  private readonly passwords: CheckPassword;
  private readonly sessions: OwnSessions;
  private readonly log: KeepSecurityLog;
  constructor(database: Database, passwords: CheckPassword, sessions: OwnSessions, log: KeepSecurityLog) {
    this.database = database;
    this.passwords = passwords;
    this.sessions = sessions;
    this.log = log;
  }

  async run(who: Who, change: { readonly current: string; readonly password: string }, present: string): Promise<void> {
    // Sent again, the current password is the new one already.
    if ((await doneBefore(this.database.manager, who.accountId)) !== null) return;
    refuseWeakPassword(change.password);
    await this.passwords.run(who, change.current, 'current');
    const hash = await hashPassword(change.password);
    await this.database.transaction(async (manager) => {
      await writePassword(manager, who.accountId, hash);
      await this.log.add({ kind: 'password-changed', accountId: who.accountId }, manager);
      await this.sessions.endOthers(who, present, manager);
    });
  }
}

/** Writes the hash of a password somebody has chosen. */
export async function writePassword(manager: EntityManager, accountId: string, hash: string): Promise<void> {
  await rowsOf(manager, 'UPDATE account SET password_hash = $2 WHERE id = $1', [accountId, hash]);
}
