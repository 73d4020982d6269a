import { IsString } from 'class-validator';
import { IsLine, MayBeNull } from './rules.ts';

const IS_WORDS = { message: 'A label is a word or two.' };

/** Renames a label on all tasks, or removes it from them. */
export class EditLabel {
  @IsString(IS_WORDS)
  @IsLine(40, 'the label')
  label!: string;

  /** Its new name; if that is in use already, the two labels are merged. Null removes the label. */
  @MayBeNull()
  @IsString(IS_WORDS)
  @IsLine(40, 'the new label')
  to!: string | null;
}
