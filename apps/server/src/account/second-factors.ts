import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { RecoveryCodes, SecondFactorSecret, SecondFactorState } from '@crew/contract';
import { Secret, TOTP } from 'otpauth';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { Seal } from '../platform/seal.ts';
import { CheckPassword } from './check-password.ts';
import { placeOfCode, recoveryCodesOf } from './recovery-codes.ts';
import { KeepSecurityLog } from './security-log.ts';

interface Factor {
  readonly sealedSecret: string;
  readonly isConfirmed: boolean;
  readonly sealedRecovery: string;
  readonly recoveryUsed: readonly number[];
}

const READ = `SELECT sealed_secret AS "sealedSecret", confirmed_at IS NOT NULL AS "isConfirmed", sealed_recovery AS "sealedRecovery",
  recovery_used AS "recoveryUsed" FROM second_factor WHERE account_id = $1`;
/** A new secret replaces one that was not confirmed yet. */
const BEGIN = `INSERT INTO second_factor (account_id, sealed_secret) VALUES ($1, $2)
  ON CONFLICT (account_id) DO UPDATE SET sealed_secret = excluded.sealed_secret, last_step = 0 WHERE second_factor.confirmed_at IS NULL RETURNING 1`;
const CONFIRM = `UPDATE second_factor SET confirmed_at = $2, sealed_recovery = $3, recovery_used = '{}' WHERE account_id = $1`;
const USE_STEP = 'UPDATE second_factor SET last_step = $2 WHERE account_id = $1 AND last_step < $2 RETURNING 1';
const USE_CODE = `UPDATE second_factor SET recovery_used = recovery_used || $2::int WHERE account_id = $1 AND NOT recovery_used @> ARRAY[$2::int] RETURNING 1`;
const RENEW = `UPDATE second_factor SET sealed_recovery = $2, recovery_used = '{}' WHERE account_id = $1 AND confirmed_at IS NOT NULL RETURNING 1`;
const REMOVE = 'DELETE FROM second_factor WHERE account_id = $1 AND confirmed_at IS NOT NULL RETURNING 1';
const REQUIRED = `SELECT g.second_factor_for = 'leads' AND p.access IN ('owner', 'lead') AS is FROM account a JOIN agency g ON g.id = a.agency_id
  LEFT JOIN person p ON p.id = a.person_id WHERE a.id = $1`;

const STEP_MS = 30_000;
const RECOVERY_CODES = 10;

/** The second factor of accounts: six digits of an authenticator app (TOTP, RFC 6238), or a recovery code, each good for once. */
@Injectable()
export class SecondFactors {
  private readonly database: Database;
  private readonly seal: Seal;
  private readonly clock: Clock;
  private readonly passwords: CheckPassword;
  private readonly log: KeepSecurityLog;
  constructor(database: Database, seal: Seal, clock: Clock, passwords: CheckPassword, log: KeepSecurityLog) {
    this.database = database;
    this.seal = seal;
    this.clock = clock;
    this.passwords = passwords;
    this.log = log;
  }

  async read(who: Who): Promise<SecondFactorState> {
    const factor = await this.find(this.database.manager, who.accountId);
    const required = await this.database.row<{ is: boolean }>(REQUIRED, [who.accountId]);
    const isOn = factor?.isConfirmed === true;
    return { isOn, recoveryCodes: isOn ? RECOVERY_CODES - factor.recoveryUsed.length : 0, isRequired: required?.is === true };
  }

  /** A new secret for the app. It is in use once it is confirmed. */
  async begin(who: Who, email: string): Promise<SecondFactorSecret> {
    const secret = new Secret({ size: 20 });
    const begun = await this.database.rows(BEGIN, [who.accountId, this.seal.close(secret.base32)]);
    if (begun.length === 0) throw new Refusal('wrong-moment', 'The second factor is on already. Turn it off first to use another app.');
    return { secret: secret.base32, uri: totpOf(secret.base32, { issuer: who.agencyName, label: email }).toString() };
  }

  /** Turns it on by a code of the app; answers the recovery codes, this one time. */
  async confirm(who: Who, code: string): Promise<RecoveryCodes> {
    const sealed = await this.database.transaction(async (manager) => {
      const factor = await this.find(manager, who.accountId);
      if (factor === null || factor.isConfirmed)
        throw new Refusal('wrong-moment', 'There is nothing to confirm. Set the second factor up again.');
      if (!(await this.isCodeOfApp(manager, who.accountId, { factor, code })))
        throw new Refusal('invalid-input', 'This is not the code your app shows now. Check the time of your phone and try again.', {
          field: 'code',
        });
      const fresh = this.freshSeed();
      await rowsOf(manager, CONFIRM, [who.accountId, this.clock.now(), fresh]);
      await this.log.add({ kind: 'second-factor-on', accountId: who.accountId }, manager);
      return fresh;
    });
    return this.codesOf(sealed);
  }

  /** Ten new recovery codes; the old ones stop working. */
  async renewCodes(who: Who, password: string): Promise<RecoveryCodes> {
    await this.passwords.run(who, password);
    const sealed = await this.database.transaction(async (manager) => {
      const fresh = this.freshSeed();
      if ((await rowsOf(manager, RENEW, [who.accountId, fresh])).length === 0)
        throw new Refusal('wrong-moment', 'The second factor is off. Turn it on first.');
      await this.log.add({ kind: 'second-factor-on', accountId: who.accountId, note: 'new recovery codes' }, manager);
      return fresh;
    });
    return this.codesOf(sealed);
  }

  /** Turns it off, by the password. */
  async turnOff(who: Who, password: string): Promise<void> {
    await this.passwords.run(who, password);
    await this.database.transaction(async (manager) => {
      if ((await rowsOf(manager, REMOVE, [who.accountId])).length > 0)
        await this.log.add({ kind: 'second-factor-off', accountId: who.accountId }, manager);
    });
  }

  /** Whether a sign-in may go on: the account has none, or the code is right. Asks for one where none was sent. */
  async check(accountId: string, code: string | undefined): Promise<'ok' | 'needed' | 'wrong'> {
    const factor = await this.find(this.database.manager, accountId);
    if (factor?.isConfirmed !== true) return 'ok';
    if (code === undefined || code.trim() === '') return 'needed';
    const { manager } = this.database;
    if (await this.isCodeOfApp(manager, accountId, { factor, code })) return 'ok';
    return (await this.isRecoveryCode(manager, accountId, { factor, code })) ? 'ok' : 'wrong';
  }

  private find(manager: EntityManager, accountId: string): Promise<Factor | null> {
    return firstRow<Factor>(manager, READ, [accountId]);
  }

  /** Uses the real time, even in a demo on a fixed day, because the app does too. A code that was right is used up. */
  private async isCodeOfApp(
    manager: EntityManager,
    accountId: string,
    { factor, code }: { readonly factor: Factor; readonly code: string },
  ) {
    const secret = this.seal.open(factor.sealedSecret);
    const digits = code.replace(/\s/g, '');
    if (secret === null || !/^\d{6}$/.test(digits)) return false;
    const now = Date.now();
    const delta = totpOf(secret, { issuer: '', label: 'code' }).validate({ token: digits, timestamp: now, window: 1 });
    return delta !== null && (await rowsOf(manager, USE_STEP, [accountId, Math.floor(now / STEP_MS) + delta])).length > 0;
  }

  private async isRecoveryCode(
    manager: EntityManager,
    accountId: string,
    { factor, code }: { readonly factor: Factor; readonly code: string },
  ) {
    const seed = this.seal.open(factor.sealedRecovery);
    const place = seed === null ? -1 : placeOfCode(Buffer.from(seed, 'base64'), code);
    if (place < 0 || (await rowsOf(manager, USE_CODE, [accountId, place])).length === 0) return false;
    await this.log.add({ kind: 'recovery-code-used', accountId }, manager);
    return true;
  }

  private freshSeed(): string {
    return this.seal.close(randomBytes(20).toString('base64'));
  }

  private codesOf(sealed: string): RecoveryCodes {
    return { codes: recoveryCodesOf(Buffer.from(this.seal.open(sealed) ?? '', 'base64')) };
  }
}

const totpOf = (secret: string, of: { readonly issuer: string; readonly label: string }): TOTP =>
  new TOTP({ ...of, algorithm: 'SHA1', digits: 6, period: STEP_MS / 1000, secret: Secret.fromBase32(secret) });
