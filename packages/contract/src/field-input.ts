import { CUSTOM_FIELD_KIND, type CustomFieldKind, type CustomFieldValue } from '@crew/core';
import { IsBoolean, IsIn, IsString } from 'class-validator';
import { IsId, IsLine, IsTextOrNumber, MayBeLeftOut, MayBeNull } from './rules.ts';
import { AreWords } from './task-rules.ts';

const CHOICE = 'Each thing to choose from is a word or two.';

/** A new custom field of the agency. */
export class AddCustomField {
  @IsString({ message: 'A field has a name.' })
  @IsLine(60, 'the field a name')
  name!: string;

  @IsIn(CUSTOM_FIELD_KIND, { message: `A field holds one of ${CUSTOM_FIELD_KIND.join(', ')}.` })
  kind!: CustomFieldKind;

  /** The choices, for a choice field. */
  @MayBeLeftOut()
  @AreWords({ what: 'what can be chosen', most: 50, longest: 60, each: CHOICE })
  choices?: string[];
}

/** Editing a custom field; only what is given changes. Its kind stays. */
export class EditCustomField {
  @MayBeLeftOut()
  @IsString({ message: 'A field has a name.' })
  @IsLine(60, 'the field a name')
  name?: string;

  @MayBeLeftOut()
  @AreWords({ what: 'what can be chosen', most: 50, longest: 60, each: CHOICE })
  choices?: string[];

  /** An archived field is not offered any more; where it is filled in it stays. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Archived is yes or no.' })
  isArchived?: boolean;
}

/** A custom field on a task with its value; null leaves it open. */
export class CustomFieldInput {
  @IsId()
  fieldId!: string;

  @MayBeNull()
  @IsTextOrNumber()
  value!: CustomFieldValue;
}
