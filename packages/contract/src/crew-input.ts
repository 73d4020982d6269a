import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, IsInt, IsString, Matches, Max, MaxLength, Min } from 'class-validator';
import { IsId, IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';
import { CREW_ACCESS, type CrewAccess } from './words.ts';

const MINUTES_OF_A_DAY = { each: true, message: 'A weekday has 0 to 24 hours.' } as const;

/** Minutes of work on Monday … Sunday. */
export const IsWeek = (): PropertyDecorator => (target, property) => {
  for (const rule of [
    IsArray({ message: 'A week has seven days.' }),
    ArrayMinSize(7, { message: 'A week has seven days.' }),
    ArrayMaxSize(7, { message: 'A week has seven days.' }),
    IsInt(MINUTES_OF_A_DAY),
    Min(0, MINUTES_OF_A_DAY),
    Max(1440, MINUTES_OF_A_DAY),
  ])
    rule(target, property);
};

/** What of a person can be changed; only the fields given change. */
export class CrewFields {
  @MayBeLeftOut()
  @IsIn(CREW_ACCESS, { message: `Access is one of ${CREW_ACCESS.join(', ')}.` })
  access?: CrewAccess;

  /** Names of roles, the main one first; a name that is new makes the role. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the roles as a list.' })
  @ArrayMaxSize(20, { message: 'Somebody holds at most 20 roles.' })
  @IsString({ each: true, message: 'A role is a name.' })
  @MaxLength(80, { each: true, message: 'Keep a role to 80 characters.' })
  @Matches(/\S/, { each: true, message: 'A role has a name.' })
  roles?: string[];

  /** Minutes of work on Monday … Sunday. */
  @MayBeLeftOut()
  @IsWeek()
  week?: number[];
}

/** Changing a person. Somebody who left is not removed: what they did stays theirs. */
export class EditPerson extends CrewFields {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Write the name.' })
  @IsLine(120, 'the name')
  name?: string;

  @MayBeLeftOut()
  @IsBoolean({ message: 'Active is yes or no.' })
  isActive?: boolean;

  /** Who takes their handoffs while they are away; null leaves that to the lead of each engagement. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  standInId?: string | null;
}

/** A role: a kind of work. To rename one, send the new name. */
export class KeepRole {
  @IsString({ message: 'A role has a name.' })
  @IsLine(80, 'the role a name')
  name!: string;
}
