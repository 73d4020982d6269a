import { IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import { IsId, MayBeLeftOut } from './rules.ts';

/** Starting one's timer on a task; a timer on another task is stopped and logged. */
export class StartTimer {
  @IsId()
  taskId!: string;
}

/** Stopping one's timer and logging what it counted. */
export class StopTimer {
  /** In place of what it counted: needed when it was left running since another day. */
  @MayBeLeftOut()
  @IsInt({ message: 'Time is a whole number of minutes.' })
  @Min(1, { message: 'Log at least a minute, or throw the timer away.' })
  @Max(1440, { message: 'A day has at most 24 hours.' })
  minutes?: number;

  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(500, { message: 'Keep the note to 500 characters.' })
  note?: string;
}
