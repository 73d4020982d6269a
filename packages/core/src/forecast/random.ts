/**
 * A small seeded generator: the same seed gives the same numbers in [0, 1) everywhere.
 * Source: mulberry32, public domain; 32 bits of state are plenty for the runs of one chunk.
 */
export class SeededRandom {
  private state: number;
  constructor(seed: number) {
    this.state = seed | 0;
  }

  /** Fills places of a row with the next numbers: many at once cost a fraction of as many calls. */
  fill(row: Float64Array, from: number, until: number): void {
    let { state } = this;
    for (let index = from; index < until; index++) {
      state = (state + 0x6d2b79f5) | 0;
      let mixed = Math.imul(state ^ (state >>> 15), state | 1);
      mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
      row[index] = ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
    }
    this.state = state;
  }
}

/** A seed of its own for each chunk of runs, so that chunks can be computed anywhere in any order. Source: the finaliser of MurmurHash3. */
export function seedOfChunk(seed: number, chunk: number): number {
  let mixed = (seed ^ Math.imul(chunk + 1, 0x9e3779b1)) >>> 0;
  mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return (mixed ^ (mixed >>> 16)) >>> 0;
}
