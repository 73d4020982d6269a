import { Foundation1764000000001 } from './0001-foundation.ts';

/** In the order they run. */
export const migrations = [Foundation1764000000001];
