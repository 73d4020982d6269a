import { Controller, Get, Param, ParseUUIDPipe, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import type { DryRun, TemplateSummary } from '@crew/contract';
import { parseDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, STAFF, type Who } from '../platform/rights.ts';
import { DryRunTemplate } from './dry-run.ts';
import { TemplateRepository } from './template.repository.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('templates')
@Controller('templates')
export class TemplateController {
  private readonly templates: TemplateRepository;
  private readonly dryRun: DryRunTemplate;
  private readonly database: Database;
  private readonly clock: Clock;

  constructor(templates: TemplateRepository, dryRun: DryRunTemplate, database: Database, clock: Clock) {
    this.templates = templates;
    this.dryRun = dryRun;
    this.database = database;
    this.clock = clock;
  }

  /** The library. */
  @Get()
  @Answers('TemplateSummary', { isList: true })
  @Allow(STAFF)
  list(@Caller() who: Who): Promise<TemplateSummary[]> {
    return this.templates.list(this.database.manager, who.agencyId);
  }

  /** One template laid on the real calendar from `start`, or back from `promise`; from today when neither is given. */
  @Get(':id')
  @Answers('DryRun')
  @Allow(STAFF)
  @ApiQuery({ name: 'start', required: false })
  @ApiQuery({ name: 'promise', required: false })
  read(@Caller() who: Who, @Param('id', ParseUUIDPipe) id: string, @Query() query: { start?: string; promise?: string }): Promise<DryRun> {
    for (const field of ['start', 'promise'] as const) {
      const given = query[field];
      if (given !== undefined && parseDay(given) === null)
        throw new Refusal('invalid-day', 'This is no calendar day. Write it as 2026-12-14.', { field });
    }
    const start = query.start ?? (query.promise === undefined ? this.clock.today() : undefined);
    const plan = {
      templateId: id,
      ...(start === undefined ? {} : { start }),
      ...(query.promise === undefined ? {} : { promise: query.promise }),
    };
    return this.dryRun.run(this.database.manager, who, plan);
  }
}
