import type { IsoDay } from '@crew/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsObject,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsDay, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';

const WEEKDAY = { each: true, message: 'A weekday has 0 to 24 hours.' } as const;

/** The agency's working week: minutes Monday … Sunday. */
export class EditCalendar {
  @IsArray({ message: 'A week has seven days.' })
  @ArrayMinSize(7, { message: 'A week has seven days.' })
  @ArrayMaxSize(7, { message: 'A week has seven days.' })
  @IsInt(WEEKDAY)
  @Min(0, WEEKDAY)
  @Max(1440, WEEKDAY)
  week!: number[];
}

/** A day on which nobody works. */
export class ClosedDayInput {
  @IsDay()
  day!: IsoDay;

  @IsString({ message: 'Say why the day is closed.' })
  @IsLine(120, 'the closed day a name')
  name!: string;
}

/** Another calendar to preview: what is left out stays as it is. */
export class PreviewCalendar {
  @MayBeLeftOut()
  @IsArray({ message: 'A week has seven days.' })
  @ArrayMinSize(7, { message: 'A week has seven days.' })
  @ArrayMaxSize(7, { message: 'A week has seven days.' })
  @IsInt(WEEKDAY)
  @Min(0, WEEKDAY)
  @Max(1440, WEEKDAY)
  week?: number[];

  /** Days to close. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the days as a list.' })
  @ArrayMaxSize(1000, { message: 'Close at most 1 000 days at once.' })
  @IsDay({ each: true })
  close?: IsoDay[];

  /** Closed days to remove. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the days as a list.' })
  @ArrayMaxSize(1000, { message: 'Open at most 1 000 days at once.' })
  @IsDay({ each: true })
  open?: IsoDay[];
}

/** Days to close. A day that is closed already gets the new name. */
export class AddClosedDays {
  @IsArray({ message: 'Give the days as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one day.' })
  @ArrayMaxSize(1000, { message: 'Close at most 1 000 days at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => ClosedDayInput)
  days!: ClosedDayInput[];
}

/** Time off of somebody: whole days, or some minutes of each. */
export class AddTimeOff {
  @IsDay()
  from!: IsoDay;

  @IsDay()
  to!: IsoDay;

  /** Minutes a day; null for whole days. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsInt({ message: 'Time off is a whole number of minutes a day.' })
  @Min(1, { message: 'Time off is at least a minute a day.' })
  @Max(1440, { message: 'A day has 24 hours.' })
  minutes?: number | null;

  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(200, { message: 'Keep the note to 200 characters.' })
  note?: string;
}

/** An iCalendar file; with `isTrial` it is only previewed. */
export class ImportCalendar {
  @IsString({ message: 'This file holds no calendar.' })
  @MaxLength(2_000_000, { message: 'This file is larger than 2 MB.' })
  text!: string;

  @MayBeLeftOut()
  @IsBoolean({ message: 'A trial is yes or no.' })
  isTrial?: boolean;
}
