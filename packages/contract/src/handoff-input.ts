import { ArrayMaxSize, IsArray, IsBoolean, IsInt, IsString, MaxLength } from 'class-validator';
import { IsId, IsLine, MayBeLeftOut } from './rules.ts';

/** Confirms a gate check, or takes that back. */
export class EditCheck {
  @IsBoolean({ message: 'Clear is yes or no.' })
  isClear!: boolean;
}

/** Handing a phase off. `reason` lets a lead pass a gate that is not clear. */
export class HandOff {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsId({ message: 'Choose who receives it.' })
  receiverId?: string;

  @IsString({ message: 'Words are text.' })
  @MaxLength(4000, { message: 'Keep the words to 4 000 characters.' })
  words!: string;

  /** Tasks and files that are left out of the packet, by their ids. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give what is left out as a list.' })
  @ArrayMaxSize(500, { message: 'Leave out at most 500 things.' })
  @IsId({ each: true })
  without?: string[];

  @MayBeLeftOut()
  @IsString({ message: 'A reason is text.' })
  @IsLine(500, 'a reason')
  reason?: string;
}

/** Picking a handoff up. */
export class PickUp {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;
}

/** Sending a handoff back. */
export class SendBack extends PickUp {
  @IsString({ message: 'Write the question.' })
  @IsLine(2000, 'the question')
  question!: string;
}

/** Passes a handoff on to somebody else. */
export class GiveOn extends PickUp {
  @IsId({ message: 'Choose who receives it.' })
  receiverId!: string;
}
