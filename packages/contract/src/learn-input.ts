import { ArrayMaxSize, ArrayMinSize, IsArray, IsInt, IsString, MaxLength } from 'class-validator';
import { MayBeLeftOut } from './rules.ts';

/** Applies proposals to a template, as its next version. */
export class AcceptLearned {
  @IsInt({ message: 'Send the revision that was read.' })
  revision!: number;

  /** Ids of the proposals to apply; the others stay as they are. */
  @IsArray({ message: 'Give the proposals as a list.' })
  @ArrayMinSize(1, { message: 'Choose at least one.' })
  @ArrayMaxSize(500, { message: 'Choose at most 500 at once.' })
  @IsString({ each: true, message: 'A proposal is named by its id.' })
  @MaxLength(300, { each: true, message: 'This is no id of a proposal.' })
  proposals!: string[];

  @MayBeLeftOut()
  @IsString({ message: 'A note is text.' })
  @MaxLength(300, { message: 'Keep the note to 300 characters.' })
  note?: string;
}
