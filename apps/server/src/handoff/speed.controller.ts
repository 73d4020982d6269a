import { Controller, Get, Header, Query, StreamableFile } from '@nestjs/common';
import { ApiProduces, ApiTags } from '@nestjs/swagger';
import { SPEED_BY, SPEED_MONTHS, type HandoffCase, type HandoffSpeed, type SpeedBy, type SpeedMonths } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { OptionalChoice, OptionalId, OptionalWord } from '../platform/query-pipes.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { ReadSpeed, type SpeedAsked } from './read-speed.ts';

const MONTHS = SPEED_MONTHS.map(String);

@ApiTags('handoffs')
@Controller('handoffs/speed')
@Allow('handoff.speed')
export class SpeedController {
  private readonly reading: ReadSpeed;
  constructor(reading: ReadSpeed) {
    this.reading = reading;
  }

  /**
   * Handoff times over the last months (3, 6 or 12; 6 when left out): by the phases of one template, or over all or one
   * template by the roles that own phases, or by person (waits by who receives, the rest by who gives).
   */
  @Get()
  @Answers('HandoffSpeed')
  read(
    @Caller() who: Who,
    @Query('by', new OptionalChoice(SPEED_BY)) by: SpeedBy | undefined,
    @Query('template', OptionalId) templateId: string | undefined,
    @Query('months', new OptionalChoice(MONTHS)) months: string | undefined,
  ): Promise<HandoffSpeed> {
    return this.reading.run(who, askedOf(by, templateId, months));
  }

  /** The handoffs behind the numbers of one column (its `key`) and month (as `2026-11`). */
  @Get('cases')
  @Answers('HandoffCase', { isList: true })
  cases(
    @Caller() who: Who,
    @Query('by', new OptionalChoice(SPEED_BY)) by: SpeedBy | undefined,
    @Query('template', OptionalId) templateId: string | undefined,
    @Query('months', new OptionalChoice(MONTHS)) months: string | undefined,
    @Query('key', OptionalWord) key: string | undefined,
    @Query('month', OptionalWord) month: string | undefined,
  ): Promise<readonly HandoffCase[]> {
    if (key === undefined || month === undefined)
      throw new Refusal('invalid-input', 'Give the column (key) and the month.', { field: key === undefined ? 'key' : 'month' });
    return this.reading.cases(who, { ...askedOf(by, templateId, months), key, month });
  }

  /** Every handoff of the months as comma-separated values. */
  @Get('export')
  @ApiProduces('text/csv')
  @Header('Content-Type', 'text/csv; charset=utf-8')
  async export(
    @Caller() who: Who,
    @Query('template', OptionalId) templateId: string | undefined,
    @Query('months', new OptionalChoice(MONTHS)) months: string | undefined,
  ): Promise<StreamableFile> {
    const text = await this.reading.csv(who, askedOf('role', templateId, months));
    return new StreamableFile(Buffer.from(text), { disposition: 'attachment; filename="handoffs.csv"' });
  }
}

function askedOf(by: SpeedBy | undefined, templateId: string | undefined, months: string | undefined): SpeedAsked {
  const asked = by ?? (templateId === undefined ? 'role' : 'phase');
  if (asked === 'phase' && templateId === undefined)
    throw new Refusal('invalid-input', 'Phases are those of one template: choose it.', { field: 'template' });
  return { by: asked, templateId, months: Number(months ?? 6) as SpeedMonths };
}
