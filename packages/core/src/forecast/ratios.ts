import { refuse, requireList, requireObject, requireWhole } from '../check.ts';

/** A finished task of the agency: working days planned and really taken, and the role that did it. */
export interface FinishedTask {
  readonly role?: string | null;
  readonly planned: number;
  readonly real: number;
}

/** With fewer finished tasks than this, a role's own record is too small to draw from. */
const ENOUGH_OF_A_ROLE = 8;
const TABLE = 1024;
/** The 80th percentile of the standard normal distribution. */
const NORMAL_80 = 0.8416212335729143;

/** Ratios of real to planned length to draw from: the role's own, or those of all roles, or none. */
export interface RatioPools {
  readonly ofRole: (role: string | null) => Float64Array;
  /** Where the ratios of a role come from, and how many there are. */
  readonly sourceOf: (role: string | null) => { readonly from: 'role' | 'agency' | 'assumed'; readonly n: number };
}

/**
 * Sorts the record of finished work into pools to draw from (core-spec, section 6). Tasks planned
 * without length are left out: they have no ratio.
 */
export function readRatios(record: readonly FinishedTask[]): RatioPools {
  requireList(record, 'record');
  const byRole = new Map<string, number[]>();
  const all: number[] = [];
  record.forEach((task, index) => {
    const at = `record[${index}]`;
    requireObject(task, at);
    const planned = requireWhole(task.planned, `${at}.planned`, 0);
    const real = requireWhole(task.real, `${at}.real`, 0);
    if (planned === 0) return;
    if (task.role !== undefined && task.role !== null && typeof task.role !== 'string')
      refuse({ kind: 'invalid-field', at: `${at}.role`, expected: 'a role or nothing' });
    all.push(real / planned);
    if (!task.role) return;
    const own = byRole.get(task.role) ?? [];
    own.push(real / planned);
    byRole.set(task.role, own);
  });
  const pools = new Map([...byRole].filter(([, own]) => own.length >= ENOUGH_OF_A_ROLE).map(([role, own]) => [role, tableOf(own)]));
  const together = all.length > 0 ? tableOf(all) : assumedRatios();
  return {
    ofRole: (role) => (role === null ? together : (pools.get(role) ?? together)),
    sourceOf: (role) => {
      const own = role === null ? undefined : pools.get(role);
      if (own !== undefined) return { from: 'role', n: own.length };
      return all.length > 0 ? { from: 'agency', n: all.length } : { from: 'assumed', n: 0 };
    },
  };
}

/** Sorted, so that the order of the record changes nothing. */
const tableOf = (ratios: readonly number[]): Float64Array => Float64Array.from(ratios).sort();

/** With no record: lognormal, middle 1.0 and 80th percentile 1.4, as a table of its quantiles. */
export function assumedRatios(): Float64Array {
  const sigma = Math.log(1.4) / NORMAL_80;
  return Float64Array.from({ length: TABLE }, (_, index) => Math.exp(sigma * normalQuantile((index + 0.5) / TABLE)));
}

/**
 * The quantile of the standard normal distribution, to about 4.5e-4.
 * Source: Abramowitz and Stegun, Handbook of Mathematical Functions, 26.2.23.
 */
export function normalQuantile(share: number): number {
  const tail = Math.min(share, 1 - share);
  const t = Math.sqrt(-2 * Math.log(tail));
  const value = t - (2.515517 + t * (0.802853 + t * 0.010328)) / (1 + t * (1.432788 + t * (0.189269 + t * 0.001308)));
  return share < 0.5 ? -value : value;
}
