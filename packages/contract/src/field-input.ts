import { OWN_FIELD_KIND, type OwnFieldKind, type OwnFieldValue } from '@crew/core';
import { IsBoolean, IsIn, IsString } from 'class-validator';
import { IsId, IsLine, IsTextOrNumber, MayBeLeftOut, MayBeNull } from './rules.ts';
import { AreWords } from './task-rules.ts';

const CHOICE = 'Each thing to choose from is a word or two.';

/** A new own field of the agency. */
export class AddOwnField {
  @IsString({ message: 'A field has a name.' })
  @IsLine(60, 'the field a name')
  name!: string;

  @IsIn(OWN_FIELD_KIND, { message: `A field holds one of ${OWN_FIELD_KIND.join(', ')}.` })
  kind!: OwnFieldKind;

  /** What can be chosen, for a choice. */
  @MayBeLeftOut()
  @AreWords({ what: 'what can be chosen', most: 50, longest: 60, each: CHOICE })
  choices?: string[];
}

/** Changing an own field; only what is given changes. What it holds stays what it is. */
export class EditOwnField {
  @MayBeLeftOut()
  @IsString({ message: 'A field has a name.' })
  @IsLine(60, 'the field a name')
  name?: string;

  @MayBeLeftOut()
  @AreWords({ what: 'what can be chosen', most: 50, longest: 60, each: CHOICE })
  choices?: string[];

  /** A retired field is offered no more; where it is filled in it stays. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Retired is yes or no.' })
  isRetired?: boolean;
}

/** An own field on a task with what stands in it; null leaves it open. */
export class OwnFieldInput {
  @IsId()
  fieldId!: string;

  @MayBeNull()
  @IsTextOrNumber()
  value!: OwnFieldValue;
}
