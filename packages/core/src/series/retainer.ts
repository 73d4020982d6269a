import { refuse, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';

/** What becomes of agreed hours that were not used: lost, or kept for the next period or for good. */
export const CARRY = ['none', 'next', 'all'] as const;
export type Carry = (typeof CARRY)[number];

/** One period as agreed and as used; minutes. */
export interface RetainerPeriod {
  readonly agreed: number;
  readonly used: number;
}

/** A period with what came from before and what is left; minutes. */
export interface RetainerBalance {
  readonly agreed: number;
  readonly carriedIn: number;
  readonly used: number;
  /** What may still be used. */
  readonly left: number;
  /** What was used beyond what there was: nobody agreed to it. */
  readonly over: number;
  /** What the next period gets. */
  readonly carriedOut: number;
}

/**
 * Agreed hours from period to period, in order. Used first is what was carried in, as it is
 * lost first. With `next` only a period's own hours are carried, once; with `all` whatever is
 * left. What was used beyond is not taken from later periods: it is another matter to agree.
 */
export function balanceRetainer(periods: readonly RetainerPeriod[], carry: Carry): Result<RetainerBalance[]> {
  return attempt(() => {
    if (!CARRY.includes(carry)) refuse({ kind: 'invalid-field', at: 'carry', expected: CARRY.join(', ') });
    let carriedIn = 0;
    return periods.map((period, index) => {
      const agreed = requireWhole(period.agreed, `periods[${index}].agreed`, 0);
      const used = requireWhole(period.used, `periods[${index}].used`, 0);
      const left = Math.max(0, agreed + carriedIn - used);
      const over = Math.max(0, used - agreed - carriedIn);
      const carriedOut = carry === 'none' ? 0 : carry === 'all' ? left : Math.min(left, agreed);
      const balance = { agreed, carriedIn, used, left, over, carriedOut };
      carriedIn = carriedOut;
      return balance;
    });
  });
}
