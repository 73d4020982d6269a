import type { IsoDay } from '@crew/core';
import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Query } from '@nestjs/common';
import { ApiQuery, ApiTags } from '@nestjs/swagger';
import {
  AddClosedDays,
  AddTimeOff,
  EditCalendar,
  ImportCalendar,
  type AgencyCalendar,
  type CalendarChanged,
  type CalendarFile,
  type HolidayCountry,
  type PublicHoliday,
  type TimeOffAdded,
  type TimeOffFile,
  type TimeOffRemoved,
} from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { TakesLarge } from '../platform/read-body.ts';
import { OptionalDay, PathId } from '../platform/query-pipes.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepCalendar } from './keep-calendar.ts';
import { KeepTimeOff } from './keep-time-off.ts';
import { holidayCountries, holidaysOf } from './public-holidays.ts';

@ApiTags('calendar')
@Controller()
export class CalendarController {
  private readonly calendar: KeepCalendar;
  private readonly timeOff: KeepTimeOff;
  constructor(calendar: KeepCalendar, timeOff: KeepTimeOff) {
    this.calendar = calendar;
    this.timeOff = timeOff;
  }

  /** The agency's week, its closed days, and who is away; a freelancer sees only their own absences. */
  @Get('calendar')
  @Answers('AgencyCalendar')
  @Allow('calendar.read')
  read(@Caller() who: Who): Promise<AgencyCalendar> {
    return this.calendar.read(who);
  }

  @Patch('calendar')
  @Answers('CalendarChanged')
  @Allow('calendar.edit')
  edit(@Caller() who: Who, @Body() input: EditCalendar): Promise<CalendarChanged> {
    return this.calendar.edit(who, input);
  }

  /** Countries whose public holidays are known, with their regions. */
  @Get('holidays/countries')
  @Answers('HolidayCountry', { isList: true })
  @Allow('calendar.edit')
  listCountries(): HolidayCountry[] {
    return holidayCountries();
  }

  /** The holidays of a country or region in a year, day by day. */
  @Get('holidays')
  @Answers('PublicHoliday', { isList: true })
  @Allow('calendar.edit')
  @ApiQuery({ name: 'region', required: false })
  listHolidays(@Query('country') country: string, @Query('year') year: string, @Query('region') region?: string): PublicHoliday[] {
    if (!/^(19|20|21)\d\d$/.test(year ?? '')) throw new Refusal('invalid-input', 'Give a year, such as 2027.', { field: 'year' });
    return holidaysOf({ country: String(country), region: region === undefined || region === '' ? null : String(region) }, Number(year));
  }

  @Post('calendar/closed-days')
  @Answers('CalendarChanged')
  @Allow('calendar.edit')
  close(@Caller() who: Who, @Body() input: AddClosedDays): Promise<CalendarChanged> {
    return this.calendar.close(who, input);
  }

  /** Removes a closed day, or with `to` all closed days until then. */
  @Delete('calendar/closed-days/:id')
  @Answers('CalendarChanged')
  @Allow('calendar.edit')
  @ApiQuery({ name: 'to', required: false })
  reopen(@Caller() who: Who, @Param('id', OptionalDay) day: IsoDay, @Query('to', OptionalDay) to?: IsoDay): Promise<CalendarChanged> {
    return this.calendar.reopen(who, { from: day, to: to ?? day });
  }

  /** Closes the whole days of an iCalendar file; `isTrial` only previews it. */
  @Post('calendar/import')
  @TakesLarge({ bytes: 4 * 1024 * 1024 })
  @Answers('CalendarFile')
  @HttpCode(200)
  @Allow('calendar.edit')
  import(@Caller() who: Who, @Body() input: ImportCalendar): Promise<CalendarFile> {
    return this.calendar.importClosed(who, input.text, input.isTrial ?? false);
  }

  /** Time off: one's own, or for leads anybody's. Answers the open work that falls in it. */
  @Post('crew/:id/time-off')
  @Answers('TimeOffAdded')
  @Allow('time-off.edit')
  addTimeOff(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AddTimeOff): Promise<TimeOffAdded> {
    return this.timeOff.add(who, id, input);
  }

  /** The absences of an iCalendar file; `isTrial` only previews it. */
  @Post('crew/:id/time-off/import')
  @TakesLarge({ bytes: 4 * 1024 * 1024 })
  @Answers('TimeOffFile')
  @HttpCode(200)
  @Allow('time-off.edit')
  importTimeOff(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: ImportCalendar): Promise<TimeOffFile> {
    return this.timeOff.import(who, id, { text: input.text, isTrial: input.isTrial ?? false });
  }

  @Delete('time-off/:id')
  @Answers('TimeOffRemoved')
  @Allow('time-off.edit')
  removeTimeOff(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TimeOffRemoved> {
    return this.timeOff.remove(who, id);
  }
}
