import { Body, Controller, Delete, Get, HttpCode, Inject, Post, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Throttle } from '@nestjs/throttler';
import { DemoSignIn, SignIn, type DemoPerson, type Me } from '@crew/contract';
import type { Request, Response } from 'express';
import { ThisWeek } from '../calendar/this-week.ts';
import { Clock } from '../platform/clock.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, Open, type Who } from '../platform/rights.ts';
import { beginSession, endSession } from '../platform/session.ts';
import { AccountRepository } from './account.repository.ts';
import { SecondFactors } from './second-factors.ts';
import { KeepSecurityLog } from './security-log.ts';
import { SignInAttempts } from './sign-in-attempts.ts';
import { hashPassword, isPassword } from './password.ts';
import { Answers } from '../platform/answers.ts';

const SIGN_IN_TRIES = { default: { limit: 10, ttl: 60_000 } };

@ApiTags('session')
@Controller('session')
export class SessionController {
  private readonly accounts: AccountRepository;
  private readonly tries: SignInAttempts;
  private readonly week: ThisWeek;
  private readonly clock: Clock;
  private readonly factors: SecondFactors;
  private readonly log: KeepSecurityLog;
  private readonly config: Config;
  /** Compared with when the address is unknown, so that both answers take the same time. */
  private readonly nobodysHash = hashPassword('nobody');

  constructor(
    accounts: AccountRepository,
    tries: SignInAttempts,
    week: ThisWeek,
    clock: Clock,
    factors: SecondFactors,
    log: KeepSecurityLog,
    @Inject(CONFIG) config: Config,
  ) {
    this.accounts = accounts;
    this.tries = tries;
    this.week = week;
    this.clock = clock;
    this.factors = factors;
    this.log = log;
    this.config = config;
  }

  /** Who is signed in, with the token for changes and what waits for them. */
  @Get()
  @Answers('Me')
  @Allow('account.use')
  async read(@Caller() who: Who, @Req() request: Request): Promise<Me> {
    const counts = (who.personId === null ? null : await this.accounts.countWaiting(who, this.clock.today())) ?? { handoffs: 0, desk: 0 };
    return {
      accountId: who.accountId,
      name: who.name,
      initials: who.initials,
      access: who.access,
      personId: who.personId,
      clientName: who.clientName,
      agencyName: who.agencyName,
      today: this.clock.today(),
      thisWeek: (await this.week.run(who.agencyId)).from,
      zone: this.clock.zone,
      clockAheadMs: this.clock.aheadMs,
      csrfToken: request.session.csrfToken ?? '',
      counts,
      mustAddSecondFactor: who.mustAddSecondFactor === true,
      isDemo: this.config.isDemo,
      closedHints: await this.accounts.closedHints(who.accountId),
      wrongPasswords: request.session.wrongPasswords ?? null,
    };
  }

  @Post()
  @HttpCode(204)
  @Open()
  @Throttle(SIGN_IN_TRIES)
  async signIn(@Body() input: SignIn, @Req() request: Request): Promise<void> {
    const email = input.email.trim().toLowerCase();
    await this.tries.count(email);
    const account = await this.accounts.findByEmail(email);
    const matches = await isPassword(account?.passwordHash ?? (await this.nobodysHash), input.password);
    if (account === null || !matches) {
      await this.log.add({
        kind: 'refused',
        accountId: account?.id ?? null,
        ...(account === null ? { whom: email } : {}),
        note: 'wrong password',
      });
      throw new Refusal('wrong-sign-in', 'That address and password do not belong together. Check both and try again.', {
        field: 'password',
      });
    }
    if ((await this.accounts.findWho(account.id)) === null) {
      await this.log.add({ kind: 'refused', accountId: account.id, note: 'deactivated' });
      throw new Refusal('not-allowed', 'Your access has ended. Ask a lead of your agency to reactivate you.', { field: 'email' });
    }
    await this.requireSecondFactor(email, { accountId: account.id, code: input.code });
    await beginSession(request, account.id, await this.tries.forget(email));
    await this.log.add({ kind: 'signed-in', accountId: account.id });
  }

  /** Asks for the code of the account's second factor; a wrong one counts as a wrong password. */
  private async requireSecondFactor(email: string, { accountId, code }: { readonly accountId: string; readonly code: string | undefined }) {
    const outcome = await this.factors.check(accountId, code);
    if (outcome === 'ok') return;
    if (outcome === 'needed') {
      await this.tries.giveBack(email);
      throw new Refusal('second-factor-needed', 'Write the six digits your authenticator app shows, or a recovery code.', {
        field: 'code',
      });
    }
    await this.log.add({ kind: 'refused', accountId, note: 'wrong code' });
    throw new Refusal('wrong-sign-in', 'This code is wrong or was used already. Wait for the next one and try again.', { field: 'code' });
  }

  /** The word about wrong passwords has been read. */
  @Delete('wrong-passwords')
  @HttpCode(204)
  @Allow('account.use')
  forgetWrongPasswords(@Req() request: Request): void {
    delete request.session.wrongPasswords;
  }

  @Post('demo')
  @HttpCode(204)
  @Open()
  async signInToDemo(@Body() input: DemoSignIn, @Req() request: Request): Promise<void> {
    if (!this.config.isDemo) throw new Refusal('not-found', 'There is no demo here. Sign in with your address and password.');
    const who = await this.accounts.findWho(input.accountId);
    if (who === null) throw new Refusal('not-found', 'There is no such person in the demo. Reload the page.', { field: 'accountId' });
    await beginSession(request, who.accountId);
    await this.log.add({ kind: 'signed-in', accountId: who.accountId, note: 'demo' });
  }

  /** The demo's people; an empty list when the demo is off. */
  @Get('demo')
  @Answers('DemoPerson', { isList: true })
  @Open()
  listDemoPeople(): Promise<DemoPerson[]> {
    return this.config.isDemo ? this.accounts.listDemoPeople() : Promise.resolve([]);
  }

  @Delete()
  @HttpCode(204)
  @Allow('account.use')
  async signOut(@Caller() who: Who, @Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.log.add({ kind: 'signed-out', accountId: who.accountId });
    await endSession(request);
    response.clearCookie('crew.sid');
  }
}
