import { refuse, requireWhole } from '../check.ts';
import { attempt, type Result } from '../result.ts';

/** What is done with agreed hours that were not used: lost, or kept for the next period or for good. */
export const CARRY = ['none', 'next', 'all'] as const;
export type Carry = (typeof CARRY)[number];

/** One period as agreed and as used; minutes. */
export interface RetainerPeriod {
  readonly agreed: number;
  readonly used: number;
  /** What is done with what is left of it. */
  readonly carry: Carry;
  /** Nothing more is used of it: only now is known what is left. */
  readonly isOver: boolean;
}

/** A period with what came from before and what is left; minutes. Agreed and carried in are used, left, lost or carried out, each once. */
export interface RetainerBalance {
  readonly agreed: number;
  readonly carriedIn: number;
  readonly used: number;
  readonly isOver: boolean;
  /** What may still be used; nothing once it is over. */
  readonly left: number;
  /** What was used beyond what there was: nobody agreed to it. */
  readonly over: number;
  /** What the next period got, once this one was over. */
  readonly carriedOut: number;
  /** What was neither used nor carried, once it was over. */
  readonly lost: number;
}

/**
 * Agreed hours from period to period, in order. Used first is what was carried in, as it is lost
 * first. With `next` only a period's own hours are carried, once; with `all` whatever is left. Hours
 * are carried when a period is over, not before: until then they are its own. What was used beyond the
 * agreed hours is not taken from later periods: it has to be agreed separately.
 */
export function balanceRetainer(periods: readonly RetainerPeriod[]): Result<RetainerBalance[]> {
  return attempt(() => {
    let carriedIn = 0;
    return periods.map(({ carry, isOver, ...period }, index) => {
      if (!CARRY.includes(carry)) refuse({ kind: 'invalid-field', at: `periods[${index}].carry`, expected: CARRY.join(', ') });
      const agreed = requireWhole(period.agreed, `periods[${index}].agreed`, 0);
      const used = requireWhole(period.used, `periods[${index}].used`, 0);
      const unused = Math.max(0, agreed + carriedIn - used);
      const over = Math.max(0, used - agreed - carriedIn);
      const carriedOut = isOver ? carriedOf(unused, agreed, carry) : 0;
      const ended = isOver ? { left: 0, lost: unused - carriedOut } : { left: unused, lost: 0 };
      const balance = { agreed, carriedIn, used, isOver, over, carriedOut, ...ended };
      carriedIn = carriedOut;
      return balance;
    });
  });
}

function carriedOf(unused: number, agreed: number, carry: Carry): number {
  if (carry === 'none') return 0;
  return carry === 'all' ? unused : Math.min(unused, agreed);
}
