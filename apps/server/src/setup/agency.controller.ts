import { Body, Controller, Get, HttpCode, Inject, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Throttle } from '@nestjs/throttler';
import { SetUpAgency, type AgencyState } from '@crew/contract';
import type { Request } from 'express';
import { AccountRepository } from '../account/account.repository.ts';
import { refuseWeakPassword } from '../account/weak-password.ts';
import { CreateAgency } from '../agency/create-agency.ts';
import { LOGO_ADDRESS } from '../agency/keep-settings.ts';
import { Answers } from '../platform/answers.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import { Database } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { Open, type Who } from '../platform/rights.ts';
import { beginSession } from '../platform/session.ts';
import { isSetupKey } from '../platform/setup-key.ts';
import { AddExampleRules } from '../rule/add-example-rules.ts';

const FULL_WEEK = [450, 450, 450, 450, 450, 0, 0];

@ApiTags('agency')
@Controller('agency')
export class AgencyController {
  private readonly creating: CreateAgency;
  private readonly accounts: AccountRepository;
  private readonly rules: AddExampleRules;
  private readonly database: Database;
  private readonly config: Config;

  constructor(
    creating: CreateAgency,
    accounts: AccountRepository,
    rules: AddExampleRules,
    database: Database,
    @Inject(CONFIG) config: Config,
  ) {
    this.creating = creating;
    this.accounts = accounts;
    this.rules = rules;
    this.database = database;
    this.config = config;
  }

  /** Whether this installation has its agency yet, with its name and logo. */
  @Get()
  @Answers('AgencyState')
  @Open()
  async read(): Promise<AgencyState> {
    const agency = await this.database.row<{ name: string; logo: string | null }>(
      `SELECT name, ${LOGO_ADDRESS} AS logo FROM agency LIMIT 1`,
    );
    return { isSetUp: agency !== null, name: agency?.name ?? null, logo: agency?.logo ?? null };
  }

  /** Sets up the agency, once, for whoever has the set-up key; they are signed in as its owner. */
  @Post()
  @HttpCode(204)
  @Open()
  @Throttle({ default: { limit: 20, ttl: 60_000 } })
  async begin(@Body() input: SetUpAgency, @Req() request: Request): Promise<void> {
    if (!isSetupKey(this.config.sessionSecret, input.setupKey))
      throw new Refusal('wrong-secret', 'This is not the set-up key. Copy it from where the server was started.', { field: 'setupKey' });
    const email = input.email.trim().toLowerCase();
    refuseWeakPassword(input.password);
    const { zone = 'UTC', country, currency, week = FULL_WEEK } = input;
    const draft = {
      name: input.agencyName.trim(),
      ...{ zone, week, closed: [], roles: [] },
      ...(country === undefined ? {} : { country }),
      ...(currency === undefined ? {} : { currency }),
      people: [{ name: input.name.trim(), email, password: input.password, access: 'owner', roles: [], week }],
      clients: [{ name: input.agencyName.trim(), hue: 'slate', isOwn: true, contacts: [] }],
    } as const;
    const ownerId = await this.creating.run(draft, async (manager) => {
      const account = await this.accounts.findByEmail(email, manager);
      const who = (await this.accounts.findWho(account?.id ?? '', manager)) as Who;
      await this.rules.addFirst(manager, who);
      return who.accountId;
    });
    await beginSession(request, ownerId);
  }
}
