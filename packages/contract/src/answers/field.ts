import type { OwnFieldKind } from '@crew/core';

/** A field the agency has thought of itself. */
export interface OwnField {
  readonly id: string;
  readonly name: string;
  readonly kind: OwnFieldKind;
  readonly choices: readonly string[];
  /** Offered no more; where it is filled in it stays. */
  readonly isRetired: boolean;
  /** On how many tasks of engagements and templates it is. */
  readonly usedTimes: number;
}
