import type { IsoDay } from '@crew/core';
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsInt, IsObject, Max, Min, ValidateNested } from 'class-validator';
import { RoleChoice } from './engagement-input.ts';
import { IsDay, IsId, MayBeLeftOut } from './rules.ts';
import { ChangePlan } from './task-input.ts';

/** How far ahead the effect of a change on people is measured, in calendar days: further than most windows show. */
export const LOOK_AHEAD_DAYS = 120;

/** What changes in one engagement. */
export class PlanPart extends ChangePlan {
  @IsId({ message: 'Name the engagement.' })
  engagementId!: string;
}

/** A new engagement tried on the real load; nothing is saved. */
export class TryEngagement {
  @IsId({ message: 'Choose a template.' })
  templateId!: string;

  @IsDay()
  start!: IsoDay;

  /** Who does the work of each role; left out, whoever is suggested first. */
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(100)
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => RoleChoice)
  roles?: RoleChoice[];

  /** In percent: how much of it counts. */
  @MayBeLeftOut()
  @IsInt({ message: 'Likelihood is a whole percentage.' })
  @Min(0, { message: 'Likelihood is at least 0 %.' })
  @Max(100, { message: 'Likelihood is at most 100 %.' })
  likelihood?: number;

  /** The days whose load is answered; left out, three weeks from this Monday. */
  @MayBeLeftOut()
  @IsDay()
  from?: IsoDay;

  @MayBeLeftOut()
  @IsDay()
  to?: IsoDay;
}

/** Changes across engagements that are previewed and applied together, as one step. */
export class ChangePlans {
  @IsArray({ message: 'Give the engagements as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one change.' })
  @ArrayMaxSize(50, { message: 'Change at most 50 engagements at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => PlanPart)
  parts!: PlanPart[];

  /** The days whose load is answered; left out, three weeks from this Monday. */
  @MayBeLeftOut()
  @IsDay()
  from?: IsoDay;

  @MayBeLeftOut()
  @IsDay()
  to?: IsoDay;
}
