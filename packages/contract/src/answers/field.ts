import type { CustomFieldKind } from '@crew/core';

/** A field the agency has added to its tasks. */
export interface CustomField {
  readonly id: string;
  readonly name: string;
  readonly kind: CustomFieldKind;
  readonly choices: readonly string[];
  /** Not offered any more; where it is filled in it stays. */
  readonly isArchived: boolean;
  /** On how many tasks of engagements and templates it is. */
  readonly usedTimes: number;
}
