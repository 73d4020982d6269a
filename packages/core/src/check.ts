import { parseDay } from './calendar/day.ts';
import { ProblemError, type Problem } from './result.ts';

/** Where a value stands, e.g. `tasks[draft].days`; given as a function where building the text for every value would cost. */
export type Place = string | (() => string);

const placeOf = (at: Place): string => (typeof at === 'string' ? at : at());

/** Throws the problem; for use inside `attempt`. */
export function refuse(problem: Problem): never {
  throw new ProblemError(problem);
}

/** Refuses anything that is not a plain object. */
export function requireObject(value: unknown, at: Place): asserts value is Record<string, unknown> {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    refuse({ kind: 'invalid-field', at: placeOf(at), expected: 'an object' });
}

/** Refuses anything that is not a list. */
export function requireList(value: unknown, at: Place): asserts value is unknown[] {
  if (!Array.isArray(value)) refuse({ kind: 'invalid-field', at: placeOf(at), expected: 'a list' });
}

/** A non-empty string id. */
export function requireId(value: unknown, at: Place): string {
  if (typeof value !== 'string' || value === '') refuse({ kind: 'invalid-field', at: placeOf(at), expected: 'a non-empty text' });
  return value as string;
}

/** A whole number within bounds. */
export function requireWhole(value: unknown, at: Place, least = Number.MIN_SAFE_INTEGER): number {
  if (!Number.isSafeInteger(value) || (value as number) < least) {
    refuse({
      kind: 'invalid-field',
      at: placeOf(at),
      expected: least > Number.MIN_SAFE_INTEGER ? `a whole number of at least ${least}` : 'a whole number',
    });
  }
  return value as number;
}

/** A calendar day as a day number. */
export function requireDay(value: unknown, at: Place): number {
  const day = parseDay(value);
  if (day === null) refuse({ kind: 'invalid-day', at: placeOf(at), given: String(value) });
  return day as number;
}

/** Index of items by id, refusing an empty or repeated id. */
export function indexById(items: readonly { readonly id: string }[], list: string): Map<string, number> {
  const index = new Map<string, number>();
  for (let position = 0; position < items.length; position++) {
    const item: unknown = items[position];
    if (typeof item !== 'object' || item === null) requireObject(item, `${list}[${position}]`);
    const id = (item as { readonly id: unknown }).id;
    if (typeof id !== 'string' || id === '') requireId(id, `${list}[${position}].id`);
    index.set(id as string, position);
    // One look-up an item: the index grew by one, or the id was there already.
    if (index.size === position) refuse({ kind: 'duplicate-id', at: list, id: id as string });
  }
  return index;
}
