import type { CustomFieldKind } from '@crew/core';

/** A custom field of the agency's tasks. */
export interface CustomField {
  readonly id: string;
  readonly name: string;
  readonly kind: CustomFieldKind;
  readonly choices: readonly string[];
  /** Archived: not offered any more; where it is filled in it stays. */
  readonly isArchived: boolean;
  /** On how many tasks of engagements and templates it is. */
  readonly usedTimes: number;
}
