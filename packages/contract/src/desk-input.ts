import type { IsoDay } from '@crew/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsInt, IsObject, Max, Min, ValidateNested } from 'class-validator';
import { IsDay, IsId, MayBeLeftOut, MayBeNull } from './rules.ts';

/** Puts work on a day of a week, or elsewhere in the order of that day. The task keeps its dates. */
export class PlaceOnDay {
  @IsId()
  taskId!: string;

  @IsDay()
  day!: IsoDay;

  /** The day it is taken from; left out, every day of the week it was put on. */
  @MayBeLeftOut()
  @IsDay()
  fromDay?: IsoDay;

  /** How much of it; left out, what is left of it and stands on no other day. */
  @MayBeLeftOut()
  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Put at least a minute there.' })
  @Max(1440, { message: 'A day has 24 hours.' })
  minutes?: number;

  /** Puts it before this one; null puts it last. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  beforeTaskId?: string | null;

  /** Whose week; left out, one's own. Leads arrange anybody's. */
  @MayBeLeftOut()
  @IsId()
  personId?: string;
}

/** Takes work off a day again, or off the whole week. */
export class RemoveFromDay {
  @IsId()
  taskId!: string;

  @MayBeLeftOut()
  @IsDay()
  day?: IsoDay;

  @MayBeLeftOut()
  @IsId()
  personId?: string;
}

/** Work on a day, as it was. */
export class PlaceBefore {
  @IsId()
  taskId!: string;

  @IsDay()
  day!: IsoDay;

  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Put at least a minute there.' })
  @Max(1440, { message: 'A day has 24 hours.' })
  minutes!: number;
}

/** Restores days of a week as they were before a step, as the answer to that step gave them. */
export class RestorePlaces {
  @IsId()
  personId!: string;

  /** The task the step was about. */
  @IsId()
  taskId!: string;

  @IsArray({ message: 'Give the days as a list.' })
  @ArrayMaxSize(400, { message: 'A step touches at most 400 days.' })
  @IsDay({ each: true })
  days!: IsoDay[];

  @IsArray({ message: 'Give the places as a list.' })
  @ArrayMaxSize(1000, { message: 'At most 1 000 placements are restored at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => PlaceBefore)
  places!: PlaceBefore[];
}
