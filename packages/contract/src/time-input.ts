import type { IsoDay } from '@crew/core';
import { IsBoolean, IsInt, IsISO8601, IsString, Max, MaxLength, Min } from 'class-validator';
import { IsDay, IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';

const LAST_MINUTE = 1439;

/** Starts one's timer on a task; a timer on another task is stopped and logged. */
export class StartTimer {
  @IsId()
  taskId!: string;
}

/** Stops one's timer and logs what it counted. */
export class StopTimer {
  /** In place of what it counted: needed when it was left running since another day. */
  @MayBeLeftOut()
  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Log at least a minute, or discard the timer.' })
  @Max(1440, { message: 'A day has at most 24 hours.' })
  minutes?: number;

  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(500, { message: 'Keep the note to 500 characters.' })
  note?: string;

  /** Why it is logged although its period is closed; leads only, kept with the entry. */
  @MayBeLeftOut()
  @IsString({ message: 'A reason is text.' })
  @IsLine(300, 'the reason')
  reason?: string;
}

/** A stopped timer as it was before: what the stop answered as `undo`. */
export class RestoreTimer {
  @MayBeNull()
  @IsId()
  entryId!: string | null;

  @IsId()
  taskId!: string;

  @IsDay()
  day!: IsoDay;

  @IsInt({ message: 'Seconds are a whole number.' })
  @Min(0, { message: 'A timer counts from 0.' })
  @Max(31_536_000, { message: 'No timer counts for longer than a year.' })
  bankedSeconds!: number;

  @MayBeNull()
  @IsISO8601({ strict: true }, { message: 'Give the moment as 2026-12-14T09:30:00Z.' })
  runningSince!: string | null;
}

/** Fields of every entry besides how long. */
class TimeParts {
  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(500, { message: 'Keep the note to 500 characters.' })
  note?: string;

  /** The minute of the day it began at, 0 is midnight; null when unknown. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsInt({ message: 'Give the minute of the day it started at.' })
  @Min(0, { message: 'A day starts at minute 0.' })
  @Max(LAST_MINUTE, { message: `A day ends with minute ${LAST_MINUTE}.` })
  startMinute?: number | null;

  /** Whether it is chargeable; left out, as the task says. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Chargeable is yes or no.' })
  isChargeable?: boolean;

  /** Why it changes although its period is closed; leads only, kept with the entry. */
  @MayBeLeftOut()
  @IsString({ message: 'A reason is text.' })
  @IsLine(300, 'the reason')
  reason?: string;
}

/** Time by hand. */
export class LogTime extends TimeParts {
  @IsDay()
  day!: IsoDay;

  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Time is at least 1 minute.' })
  @Max(1440, { message: 'A day has 24 hours.' })
  minutes!: number;

  /** Whose time it is; left out, one's own. Leads log for others. */
  @MayBeLeftOut()
  @IsId()
  personId?: string;
}

/** Editing an entry; only the fields given change. `version` is the one that was read. */
export class CorrectTime extends TimeParts {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsId()
  taskId?: string;

  @MayBeLeftOut()
  @IsDay()
  day?: IsoDay;

  @MayBeLeftOut()
  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Time is at least 1 minute; remove the entry instead.' })
  @Max(1440, { message: 'A day has 24 hours.' })
  minutes?: number;
}

/** Deleting an entry. */
export class RemoveTime {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'A reason is text.' })
  @IsLine(300, 'the reason')
  reason?: string;
}

/** Closing the agency's time: entries up to this day are locked; null opens everything again. */
export class CloseTime {
  @MayBeNull()
  @IsDay()
  through!: IsoDay | null;
}
