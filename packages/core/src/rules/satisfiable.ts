import { holds, isWanted } from './conditions.ts';
import type { Condition, Fact, Rule } from './types.ts';

/** What some rules together ask of one fact. */
interface Asked {
  readonly fact: string;
  /** By `when` and by where a rule holds: the fact is it, or is one of it. */
  readonly wanted: Fact[];
  readonly conditions: Condition[];
}

/**
 * The first fact of which some rules together ask what cannot be, or null when an event can be thought of
 * that all of them run at. Facts are taken to be independent of each other.
 */
export function findExcluded(rules: readonly Rule[]): string | null {
  const asked = new Map<string, Asked>();
  const of = (fact: string): Asked => {
    const found = asked.get(fact) ?? { fact, wanted: [], conditions: [] };
    asked.set(fact, found);
    return found;
  };
  for (const rule of rules) {
    if (rule.level !== 'agency') of(rule.level).wanted.push(rule[rule.level] as string);
    for (const [fact, wanted] of Object.entries(rule.when.is ?? {})) of(fact).wanted.push(wanted);
    for (const condition of rule.if ?? []) of(condition.fact).conditions.push(condition);
  }
  return [...asked.values()].find((one) => !isPossible(one))?.fact ?? null;
}

/** Tries the few values that can matter: those that are named, none at all, and what lies between the bounds. */
const isPossible = (asked: Asked): boolean => [undefined, ...candidatesOf(asked)].some((fact) => isAnswer(fact, asked));

function isAnswer(fact: Fact | undefined, { fact: name, wanted, conditions }: Asked): boolean {
  const facts = fact === undefined ? {} : { [name]: fact };
  return wanted.every((value) => isWanted(fact, value)) && conditions.every((condition) => holds(condition, facts));
}

function candidatesOf({ wanted, conditions }: Asked): Fact[] {
  const values = [...wanted, ...conditions.flatMap(({ value }) => (value === undefined ? [] : [value]))];
  const items = values.flatMap((value): readonly Fact[] => (typeof value === 'object' ? [value, ...value] : [value]));
  return [...items, ...numbersBetween(conditions), ...listsWith(conditions)];
}

/** A number that all bounds allow, if there is one: between the two nearest, or beyond the only one. */
function numbersBetween(conditions: readonly Condition[]): number[] {
  const bounds = (wanted: Condition['op']): number[] =>
    conditions.flatMap(({ op, value }) => (op === wanted && typeof value === 'number' ? [value] : []));
  const [low, high] = [Math.max(...bounds('more-than')), Math.min(...bounds('less-than'))];
  if (Number.isFinite(low) && Number.isFinite(high)) return between(low, high, conditions);
  if (Number.isFinite(low)) return between(low, low + conditions.length + 2, conditions);
  return Number.isFinite(high) ? between(high - conditions.length - 2, high, conditions) : [];
}

/** One more number than there are conditions that could exclude one. */
const between = (low: number, high: number, { length }: readonly Condition[]): number[] =>
  Array.from({ length: length + 1 }, (_, index) => low + ((high - low) * (index + 1)) / (length + 2));

/** Lists that have all that is asked of them, one more than there are conditions that could exclude one. */
function listsWith(conditions: readonly Condition[]): string[][] {
  const had = conditions.flatMap(({ op, value }) => (op === 'has' && typeof value === 'string' ? [value] : []));
  return had.length === 0 ? [] : [had, ...conditions.map((_, index) => [...had, ...conditions.slice(index).map(() => had[0] as string)])];
}
