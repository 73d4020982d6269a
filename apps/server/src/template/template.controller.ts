import { Body, Controller, Get, HttpCode, Param, Post, Put, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import {
  ArchiveTemplate,
  ImportTemplate,
  KeepVersion,
  MakeTemplate,
  SaveTemplate,
  type DifferenceLine,
  type DryRun,
  type Made,
  type TemplateContentView,
  type TemplateImported,
  type TemplateSummary,
  type TemplateUses,
  type TemplateVersionLine,
} from '@crew/contract';
import type { ExchangedTemplate, IsoDay } from '@crew/core';
import { Answers } from '../platform/answers.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { OptionalDay, OptionalWord, PathId } from '../platform/query-pipes.ts';
import { TakesLarge } from '../platform/read-body.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { CompareVersions } from './compare-versions.ts';
import { DryRunTemplate } from './dry-run.ts';
import { ExchangeTemplate } from './exchange-template.ts';
import { KeepTemplate } from './keep-template.ts';
import { TemplateRepository, type Which } from './template.repository.ts';

@ApiTags('templates')
@Controller('templates')
export class TemplateController {
  private readonly templates: TemplateRepository;
  private readonly dryRun: DryRunTemplate;
  private readonly keeping: KeepTemplate;
  private readonly comparing: CompareVersions;
  private readonly exchange: ExchangeTemplate;
  private readonly database: Database;
  private readonly clock: Clock;

  constructor(
    templates: TemplateRepository,
    dryRun: DryRunTemplate,
    keeping: KeepTemplate,
    comparing: CompareVersions,
    exchange: ExchangeTemplate,
    database: Database,
    clock: Clock,
  ) {
    this.templates = templates;
    this.dryRun = dryRun;
    this.keeping = keeping;
    this.comparing = comparing;
    this.exchange = exchange;
    this.database = database;
    this.clock = clock;
  }

  /** The library. */
  @Get()
  @Answers('TemplateSummary', { isList: true })
  @Allow('template.read')
  list(@Caller() who: Who): Promise<TemplateSummary[]> {
    return this.templates.list(this.database.manager, who.agencyId);
  }

  /** A new template: empty but for a phase, or a copy. */
  @Post()
  @Answers('Made')
  @Allow('template.edit')
  async make(@Caller() who: Who, @Body() input: MakeTemplate): Promise<Made> {
    return { id: await this.keeping.make(who, input) };
  }

  /** Keeps a file of the open format as a new template; 400 with `details.faults` when it is not one. */
  @Post('import')
  @TakesLarge({ bytes: 64 * 1024 * 1024, values: 500_000, items: 20_000 })
  @Answers('TemplateImported')
  @HttpCode(200)
  @Allow('template.edit')
  import(@Caller() who: Who, @Body() input: ImportTemplate): Promise<TemplateImported> {
    return this.exchange.import(who, input.file, input.isTrial ?? false);
  }

  /** One template scheduled on the real calendar from `start`, or back from `promise`; from today when neither is given. `draft=yes` schedules the working copy. */
  @Get(':id')
  @Answers('DryRun')
  @Allow('template.read')
  @ApiQuery({ name: 'start', required: false })
  @ApiQuery({ name: 'promise', required: false })
  @ApiQuery({ name: 'draft', required: false })
  read(
    @Caller() who: Who,
    @Param('id', PathId) id: string,
    @Query('start', OptionalDay) start?: IsoDay,
    @Query('promise', OptionalDay) promise?: IsoDay,
    @Query('draft', OptionalWord) draft?: string,
  ): Promise<DryRun> {
    const from = start ?? (promise === undefined ? this.clock.today() : undefined);
    const plan = {
      templateId: id,
      ...(from === undefined ? {} : { start: from }),
      ...(promise === undefined ? {} : { promise }),
    };
    return this.dryRun.run(this.database.manager, who, plan, draft === 'yes' ? 'working' : 'newest');
  }

  /** The working copy. */
  @Get(':id/content')
  @Answers('TemplateContentView')
  @Allow('template.read')
  content(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TemplateContentView> {
    return this.keeping.read(who, id);
  }

  /** Saves the working copy, whole. 409 with `details.current` when it was changed meanwhile, 400 with `details.faults` when something is wrong with it. */
  @Put(':id/content')
  @TakesLarge({ bytes: 8 * 1024 * 1024, values: 500_000, items: 20_000 })
  @Answers('TemplateContentView')
  @Allow('template.edit')
  save(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: SaveTemplate): Promise<TemplateContentView> {
    return this.keeping.save(who, id, input);
  }

  @Get(':id/versions')
  @Answers('TemplateVersionLine', { isList: true })
  @Allow('template.read')
  async versions(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TemplateVersionLine[]> {
    await this.requireTemplate(who, id);
    return this.templates.versions(this.database.manager, who.agencyId, id);
  }

  /** Makes the working copy the next version. */
  @Post(':id/versions')
  @Answers('TemplateContentView')
  @Allow('template.edit')
  keep(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: KeepVersion): Promise<TemplateContentView> {
    return this.keeping.keep(who, id, input);
  }

  /** Differences between two versions; `to` may be `working`. */
  @Get(':id/difference')
  @Answers('DifferenceLine', { isList: true })
  @Allow('template.read')
  @ApiQuery({ name: 'from', required: true })
  @ApiQuery({ name: 'to', required: true })
  difference(
    @Caller() who: Who,
    @Param('id', PathId) id: string,
    @Query('from', OptionalWord) from?: string,
    @Query('to', OptionalWord) to?: string,
  ): Promise<DifferenceLine[]> {
    return this.comparing.run(who, id, { from: readWhich(from, 'from'), to: readWhich(to, 'to') });
  }

  /** The engagements made from it. */
  @Get(':id/uses')
  @Answers('TemplateUse', { isList: true })
  @Allow('template.read')
  async uses(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TemplateUses> {
    await this.requireTemplate(who, id);
    return this.templates.uses(this.database.manager, who.agencyId, id);
  }

  @Post(':id/archive')
  @HttpCode(204)
  @Allow('template.edit')
  archive(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ArchiveTemplate): Promise<void> {
    return this.keeping.archive(who, id, input.isArchived);
  }

  /** The newest version as a file of the open format (docs/formats/template.schema.json). */
  @Get(':id/export')
  @Answers('ExchangedTemplate')
  @Allow('template.read')
  export(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ExchangedTemplate> {
    return this.exchange.export(who, id);
  }

  private async requireTemplate(who: Who, id: string): Promise<void> {
    requireFound(await this.templates.facts(this.database.manager, who.agencyId, id), 'template');
  }
}

function readWhich(text: string | undefined, field: string): Which {
  if (text === 'working') return 'working';
  if (text !== undefined && /^[1-9]\d{0,5}$/.test(text)) return Number(text);
  throw new Refusal('invalid-input', 'Name a version by its number, or “working” for the working copy.', { field });
}
