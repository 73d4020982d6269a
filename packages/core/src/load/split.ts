/**
 * Splits a whole into whole parts in proportion to `weights`, by largest remainder, ties to
 * the earlier; the parts add up to the whole. Weights are whole numbers, at least one above 0.
 */
export function splitByLargestRemainder(whole: number, weights: ArrayLike<number>): Int32Array {
  const parts = new Int32Array(weights.length);
  splitInto({ whole, weights, first: 0, last: weights.length, parts, fractions: new Float64Array(weights.length) });
  return parts;
}

/** A split over weights[first … last − 1], written to the same places of `parts`; `fractions` is scratch. */
export interface Split {
  readonly whole: number;
  readonly weights: ArrayLike<number>;
  readonly first: number;
  readonly last: number;
  readonly parts: Int32Array;
  readonly fractions: Float64Array;
}

/** As `splitByLargestRemainder` without allocating, for the hot path of the load. */
export function splitInto(split: Split): void {
  const { whole, weights, first, last, parts, fractions } = split;
  let total = 0;
  for (let index = first; index < last; index++) total += weights[index] as number;
  let left = whole;
  for (let index = first; index < last; index++) {
    const product = whole * (weights[index] as number);
    const part = Math.floor(product / total);
    parts[index] = part;
    fractions[index] = product - part * total;
    left -= part;
  }
  for (; left > 0; left--) {
    let best = first;
    for (let index = first + 1; index < last; index++) if ((fractions[index] as number) > (fractions[best] as number)) best = index;
    parts[best] = (parts[best] as number) + 1;
    fractions[best] = -1;
  }
}
