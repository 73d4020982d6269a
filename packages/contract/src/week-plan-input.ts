import type { IsoDay } from '@crew/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsObject, ValidateNested } from 'class-validator';
import { IsDay, IsId, MayBeNull } from './rules.ts';

/** The week a task is meant to be done in; its dates and people stay. */
export class WeekOfTask {
  @IsId()
  taskId!: string;

  /** Any day of the week; null for none yet. */
  @MayBeNull()
  @IsDay()
  week!: IsoDay | null;
}

/** Puts work into weeks, all of it or none. */
export class PlaceInWeek {
  @IsArray({ message: 'Give the tasks as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one task.' })
  @ArrayMaxSize(500, { message: 'Place at most 500 tasks at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => WeekOfTask)
  tasks!: WeekOfTask[];
}
