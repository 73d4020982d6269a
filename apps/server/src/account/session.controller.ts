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
  private readonly config: Config;
  /** Compared with when the address is unknown, so that both answers take the same time. */
  private readonly nobodysHash = hashPassword('nobody');

  constructor(accounts: AccountRepository, tries: SignInAttempts, week: ThisWeek, clock: Clock, @Inject(CONFIG) config: Config) {
    this.accounts = accounts;
    this.tries = tries;
    this.week = week;
    this.clock = clock;
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
      throw new Refusal('wrong-sign-in', 'That address and password do not belong together. Check both and try again.', {
        field: 'password',
      });
    }
    if ((await this.accounts.findWho(account.id)) === null)
      throw new Refusal('not-allowed', 'Your access has ended. Ask a lead of your agency to bring you back.', { field: 'email' });
    await beginSession(request, account.id, await this.tries.forget(email));
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
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await endSession(request);
    response.clearCookie('crew.sid');
  }
}
