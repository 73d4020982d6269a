import { Body, Controller, Get, HttpCode, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BeginAgency, type AgencyState } from '@crew/contract';
import type { Request } from 'express';
import { refuseWeakPassword } from '../account/weak-password.ts';
import { AccountRepository } from '../account/account.repository.ts';
import { Database } from '../platform/database.ts';
import { Open, type Who } from '../platform/rights.ts';
import { beginSession } from '../platform/session.ts';
import { CreateTemplate } from '../template/create-template.ts';
import { exampleRoles, exampleTemplates } from '../template/examples/index.ts';
import { AddExampleRules } from '../rule/add-example-rules.ts';
import { FoundAgency } from '../agency/found-agency.ts';
import { Answers } from '../platform/answers.ts';

const FULL_WEEK = [450, 450, 450, 450, 450, 0, 0];

@ApiTags('agency')
@Controller('agency')
export class FoundingController {
  private readonly founding: FoundAgency;
  private readonly accounts: AccountRepository;
  private readonly templates: CreateTemplate;
  private readonly rules: AddExampleRules;
  private readonly database: Database;

  constructor(founding: FoundAgency, accounts: AccountRepository, templates: CreateTemplate, rules: AddExampleRules, database: Database) {
    this.founding = founding;
    this.accounts = accounts;
    this.templates = templates;
    this.rules = rules;
    this.database = database;
  }

  /** Whether this installation has its agency yet. */
  @Get()
  @Answers('AgencyState')
  @Open()
  async read(): Promise<AgencyState> {
    return { isFounded: (await this.database.row('SELECT 1 FROM agency LIMIT 1')) !== null };
  }

  /** Founds the agency, once; the founder is signed in as its owner. */
  @Post()
  @HttpCode(204)
  @Open()
  async begin(@Body() input: BeginAgency, @Req() request: Request): Promise<void> {
    const email = input.email.trim().toLowerCase();
    refuseWeakPassword(input.password);
    const draft = {
      name: input.agencyName.trim(),
      zone: input.zone ?? 'UTC',
      week: FULL_WEEK,
      closed: [],
      roles: input.withExamples ? exampleRoles : [],
      people: [{ name: input.name.trim(), email, password: input.password, access: 'owner', roles: [], week: FULL_WEEK }],
      clients: [{ name: input.agencyName.trim(), hue: 'slate', isOwn: true, contacts: [] }],
    } as const;
    const founder = await this.founding.run(draft, async (manager) => {
      const account = await this.accounts.findByEmail(email, manager);
      const who = (await this.accounts.findWho(account?.id ?? '', manager)) as Who;
      if (input.withExamples) {
        for (const template of exampleTemplates) await this.templates.write(manager, who, template);
        await this.rules.run(manager, who);
      }
      return who.accountId;
    });
    await beginSession(request, founder);
  }
}
