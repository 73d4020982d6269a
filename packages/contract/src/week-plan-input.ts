import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsInt, IsObject, Min, ValidateNested } from 'class-validator';
import { IsDay, IsId, MayBeLeftOut, MayBeNull } from './rules.ts';

/** The week a task is meant to be done in; its dates and people stay. */
export class WeekOfTask {
  @IsId()
  taskId!: string;

  /** Any day of the week; null for none yet. */
  @MayBeNull()
  @IsDay()
  week!: string | null;

  /** How often it was carried over, to put a step back; left out, it is counted: once more when it was left over. */
  @MayBeLeftOut()
  @IsInt({ message: 'Carried is a whole number.' })
  @Min(0, { message: 'Carried is at least 0.' })
  carried?: number;
}

/** Putting work into weeks, all of it or none. */
export class PlaceInWeek {
  @IsArray({ message: 'Give the tasks as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one task.' })
  @ArrayMaxSize(500, { message: 'Place at most 500 tasks at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => WeekOfTask)
  tasks!: WeekOfTask[];
}
