import { Body, Controller, Get, Header, HttpCode, Param, Patch, Post, Query, StreamableFile } from '@nestjs/common';
import { ApiProduces, ApiQuery, ApiTags } from '@nestjs/swagger';
import {
  of,
  CloseTime,
  CorrectTime,
  LogTime,
  RemoveTime,
  type CrewTime,
  type TimeEntryView,
  type TimeLogged,
  type WeekSheet,
} from '@crew/contract';
import { weekOf, type IsoDay } from '@crew/core';
import { isUUID } from 'class-validator';
import { Answers } from '../platform/answers.ts';
import { ThisWeek } from '../calendar/this-week.ts';
import { OptionalDay, OptionalId, OptionalWord, PathId } from '../platform/query-pipes.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, requireCan, type Who } from '../platform/rights.ts';
import { CloseTimePeriod } from './close-time.ts';
import { ExportTime } from './export-time.ts';
import { KeepTime } from './keep-time.ts';
import { ReadTime } from './read-time.ts';

@ApiTags('time')
@Controller()
export class TimeController {
  private readonly reading: ReadTime;
  private readonly keeping: KeepTime;
  private readonly closing: CloseTimePeriod;
  private readonly exporting: ExportTime;
  private readonly thisWeek: ThisWeek;
  constructor(reading: ReadTime, keeping: KeepTime, closing: CloseTimePeriod, exporting: ExportTime, thisWeek: ThisWeek) {
    this.reading = reading;
    this.keeping = keeping;
    this.closing = closing;
    this.exporting = exporting;
    this.thisWeek = thisWeek;
  }

  /** The week around `day` (today when left out): what was logged by task and day, overlaps, and missing time. Leads read anyone's. */
  @Get('time')
  @Answers('WeekSheet')
  @Allow('time.read')
  @ApiQuery({ name: 'day', required: false })
  @ApiQuery({ name: 'person', required: false })
  async week(
    @Caller() who: Who,
    @Query('day', OptionalDay) day?: IsoDay,
    @Query('person', OptionalId) person?: string,
  ): Promise<WeekSheet> {
    requireReadable(who, person);
    return this.reading.week(who, person ?? (who.personId as string), await this.weekFrom(who, day));
  }

  /** The entries of the week around `day` as comma-separated values: one's own, or for leads `person`, or `crew` for everybody's. */
  @Get('time/export')
  @Allow('time.read')
  @ApiQuery({ name: 'day', required: false })
  @ApiQuery({ name: 'person', required: false })
  @ApiProduces('text/csv')
  @Header('Content-Type', 'text/csv; charset=utf-8')
  async export(
    @Caller() who: Who,
    @Query('day', OptionalDay) day?: IsoDay,
    @Query('person', OptionalWord) person?: string,
  ): Promise<StreamableFile> {
    const isCrew = person === 'crew';
    if (!isCrew) requireReadable(who, person);
    else requireCan(who, 'time.read-crew', NOT_READABLE);
    const week = await this.weekFrom(who, day);
    const text = await this.exporting.run(who, { personId: isCrew ? null : (person ?? who.personId), ...week });
    return new StreamableFile(Buffer.from(text), { disposition: `attachment; filename="time-${week.from}${isCrew ? '-crew' : ''}.csv"` });
  }

  /** What each of the crew logged in the week around `day`, and what was changed after closing. */
  @Get('time/crew')
  @Answers('CrewTime')
  @Allow('time.read-crew')
  @ApiQuery({ name: 'day', required: false })
  async crew(@Caller() who: Who, @Query('day', OptionalDay) day?: IsoDay): Promise<CrewTime> {
    return this.reading.crew(who, await this.weekFrom(who, day));
  }

  /** Locks entries up to a day, or opens them again. */
  @Post('time/closing')
  @HttpCode(204)
  @Allow('time.close')
  close(@Caller() who: Who, @Body() input: CloseTime): Promise<void> {
    return this.closing.run(who, input.through);
  }

  /** Time by hand, for oneself. */
  @Post('tasks/:id/time')
  @Answers('TimeLogged')
  @Allow('time.edit')
  log(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: LogTime): Promise<TimeLogged> {
    return this.keeping.log(who, id, input);
  }

  /** Edits an entry. 409 with `details.current` when it was changed meanwhile. */
  @Patch('time/:id')
  @Answers('TimeEntryView')
  @Allow('time.edit')
  correct(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: CorrectTime): Promise<TimeEntryView> {
    return this.keeping.correct(who, id, input);
  }

  @Post('time/:id/remove')
  @HttpCode(204)
  @Allow('time.edit')
  remove(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: RemoveTime): Promise<void> {
    return this.keeping.remove(who, id, input);
  }

  private async weekFrom(who: Who, day: IsoDay | undefined): Promise<{ readonly from: IsoDay; readonly to: IsoDay }> {
    return day === undefined ? this.thisWeek.run(who.agencyId) : weekOf(day);
  }
}

const NOT_READABLE = { words: 'Only leads read the time of somebody else.', field: 'person' };

/** Whose time may be read: one's own, or for leads anybody's. */
function requireReadable(who: Who, person: string | undefined): void {
  if (person !== undefined && !isUUID(person))
    throw new Refusal('invalid-input', 'This is no id of a person. Choose from the list.', { field: 'person' });
  requireCan(who, 'time.read', { subject: of(person ?? who.personId), ...NOT_READABLE });
}
