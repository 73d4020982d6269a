import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Throttle } from '@nestjs/throttler';
import {
  ChangePassword as ChangePasswordInput,
  CloseHint,
  ConfirmSecondFactor,
  WithPassword,
  type RecoveryCodes,
  type SecondFactorSecret,
  type SecondFactorState,
  type SecurityLog,
  type SessionLine,
} from '@crew/contract';
import type { Request } from 'express';
import { Answers } from '../platform/answers.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { AccountRepository } from './account.repository.ts';
import { ChangePassword } from './change-password.ts';
import { OwnSessions } from './own-sessions.ts';
import { SecondFactors } from './second-factors.ts';
import { KeepSecurityLog } from './security-log.ts';

/** Passwords and codes are tried this often in a minute at most. */
const TRIES = { default: { limit: 10, ttl: 60_000 } };

@ApiTags('account')
@Controller('account')
export class AccountController {
  private readonly accounts: AccountRepository;
  private readonly passwords: ChangePassword;
  private readonly sessions: OwnSessions;
  private readonly factors: SecondFactors;
  private readonly log: KeepSecurityLog;
  constructor(accounts: AccountRepository, passwords: ChangePassword, sessions: OwnSessions, factors: SecondFactors, log: KeepSecurityLog) {
    this.accounts = accounts;
    this.passwords = passwords;
    this.sessions = sessions;
    this.factors = factors;
    this.log = log;
  }

  /** Changes one's own password. All other sessions of the account end. */
  @Post('password')
  @HttpCode(204)
  @Allow('account.use')
  @Throttle(TRIES)
  changePassword(@Caller() who: Who, @Body() input: ChangePasswordInput, @Req() request: Request): Promise<void> {
    return this.passwords.run(who, input, request.sessionID);
  }

  /** Closes a hint or a list of first steps, for oneself. */
  @Post('hints')
  @HttpCode(204)
  @Allow('account.use')
  closeHint(@Caller() who: Who, @Body() input: CloseHint): Promise<void> {
    return this.accounts.closeHint(who.accountId, input.hint);
  }

  /** Shows all hints again that one has closed. */
  @Delete('hints')
  @HttpCode(204)
  @Allow('account.use')
  openHints(@Caller() who: Who): Promise<void> {
    return this.accounts.openHints(who.accountId);
  }

  /** Where one is signed in, the last used first. */
  @Get('sessions')
  @Answers('SessionLine', { isList: true })
  @Allow('account.use')
  listSessions(@Caller() who: Who, @Req() request: Request): Promise<SessionLine[]> {
    return this.sessions.list(who, request.sessionID);
  }

  /** Signs out everywhere else. */
  @Delete('sessions')
  @HttpCode(204)
  @Allow('account.use')
  endOtherSessions(@Caller() who: Who, @Req() request: Request): Promise<void> {
    return this.sessions.endOthers(who, request.sessionID);
  }

  /** Signs out on one other device. */
  @Delete('sessions/:id')
  @HttpCode(204)
  @Allow('account.use')
  endSession(@Caller() who: Who, @Param('id') id: string, @Req() request: Request): Promise<void> {
    return this.sessions.end(who, { id, present: request.sessionID });
  }

  /** Whether one's second factor is on, and whether the agency asks for it. */
  @Get('second-factor')
  @Answers('SecondFactorState')
  @Allow('account.use')
  readSecondFactor(@Caller() who: Who): Promise<SecondFactorState> {
    return this.factors.read(who);
  }

  /** A secret for an authenticator app (TOTP, RFC 6238). It is in use once a code confirms it. */
  @Post('second-factor')
  @Answers('SecondFactorSecret')
  @Allow('account.use')
  async beginSecondFactor(@Caller() who: Who): Promise<SecondFactorSecret> {
    return this.factors.begin(who, await this.accounts.emailOf(who.accountId));
  }

  /** Turns the second factor on; answers the recovery codes, which are shown only now. */
  @Post('second-factor/confirm')
  @Answers('RecoveryCodes')
  @Allow('account.use')
  @Throttle(TRIES)
  confirmSecondFactor(@Caller() who: Who, @Body() input: ConfirmSecondFactor): Promise<RecoveryCodes> {
    return this.factors.confirm(who, input.code);
  }

  /** Ten new recovery codes; the old ones stop working. */
  @Post('second-factor/recovery-codes')
  @Answers('RecoveryCodes')
  @Allow('account.use')
  @Throttle(TRIES)
  renewRecoveryCodes(@Caller() who: Who, @Body() input: WithPassword): Promise<RecoveryCodes> {
    return this.factors.renewCodes(who, input.password);
  }

  /** Turns the second factor off. */
  @Post('second-factor/off')
  @HttpCode(204)
  @Allow('account.use')
  @Throttle(TRIES)
  turnSecondFactorOff(@Caller() who: Who, @Body() input: WithPassword): Promise<void> {
    return this.factors.turnOff(who, input.password);
  }

  /** Sign-ins, refusals and changes of rights, newest first; `before` is what the page before answered. */
  @Get('security-log')
  @Answers('SecurityLog')
  @Allow('security.read')
  readLog(@Caller() who: Who, @Query('before') before?: string): Promise<SecurityLog> {
    if (before !== undefined && !/^\d{1,18}$/.test(before))
      throw new Refusal('invalid-input', 'Use the position the page before gave as next.', { field: 'before' });
    return this.log.read(who, before ?? null);
  }
}
