import { IsString } from 'class-validator';
import { IsLine, MayBeNull } from './rules.ts';

const IS_WORDS = { message: 'A label is a word or two.' };

/** A label on all tasks becomes another one, or is removed from them. */
export class EditLabel {
  @IsString(IS_WORDS)
  @IsLine(40, 'the label')
  label!: string;

  /** Its new name; one that is in use already takes in the tasks of this one. Null removes the label. */
  @MayBeNull()
  @IsString(IS_WORDS)
  @IsLine(40, 'the new label')
  to!: string | null;
}
