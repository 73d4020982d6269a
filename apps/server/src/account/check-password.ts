import { Injectable } from '@nestjs/common';
import { Database } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { isPassword } from './password.ts';
import { SignInAttempts } from './sign-in-attempts.ts';

/** Asks for one's own password again, before what only its owner may do. Wrong ones count as at the sign-in. */
@Injectable()
export class CheckPassword {
  private readonly database: Database;
  private readonly tries: SignInAttempts;
  constructor(database: Database, tries: SignInAttempts) {
    this.database = database;
    this.tries = tries;
  }

  /** Refuses a wrong password at its field. */
  async run(who: Who, password: string, field = 'password'): Promise<void> {
    const sql = 'SELECT email, password_hash AS "passwordHash" FROM account WHERE id = $1';
    const account = await this.database.row<{ email: string; passwordHash: string | null }>(sql, [who.accountId]);
    if (account === null) throw new Refusal('not-signed-in', 'You are not signed in. Sign in to continue.');
    await this.tries.count(account.email);
    if (account.passwordHash === null || !(await isPassword(account.passwordHash, password)))
      throw new Refusal('invalid-input', 'This is not your current password. Try again.', { field });
    await this.tries.forget(account.email);
  }
}
