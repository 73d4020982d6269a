import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, ValidateNested } from 'class-validator';
import { IsDay, IsId, MayBeLeftOut } from './rules.ts';
import { ChangePlan } from './task-input.ts';

/** What changes in one engagement. */
export class PlanPart extends ChangePlan {
  @IsId({ message: 'Name the engagement.' })
  engagementId!: string;
}

/** Changes across engagements that are looked at and taken together, as one step. */
export class ChangePlans {
  @IsArray({ message: 'Give the engagements as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one change.' })
  @ArrayMaxSize(50, { message: 'Change at most 50 engagements at once.' })
  @ValidateNested({ each: true })
  @Type(() => PlanPart)
  parts!: PlanPart[];

  /** The days whose load is answered; left out, three weeks from this Monday. */
  @MayBeLeftOut()
  @IsDay()
  from?: string;

  @MayBeLeftOut()
  @IsDay()
  to?: string;
}
