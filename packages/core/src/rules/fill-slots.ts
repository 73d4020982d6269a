import type { Effect, Fact, Facts } from './types.ts';

/** `{{`, or a slot with its name. */
const SLOT = /\{\{|\{([^{}]*)\}/g;

/**
 * A text with its slots filled from facts: lists with commas between, nothing for a fact that is not
 * there; `{{` is a brace, and so is one without its partner.
 */
export const fillSlots = (text: string, facts: Facts): string =>
  text.replace(SLOT, (found, name: string | undefined) => (name === undefined ? found.slice(1) : wordsOf(factOf(facts, name))));

/** The effect with the slots in all its texts filled, but for what it does. */
export const fillEffect = (effect: Effect, facts: Facts): Effect => ({ ...(fillAll(effect, facts) as Effect), do: effect.do });

/** A fact, or undefined; what only every object has is none. */
export const factOf = (facts: Facts, name: string): Fact | undefined => (Object.hasOwn(facts, name) ? facts[name] : undefined);

const wordsOf = (fact: Fact | undefined): string => (fact === undefined ? '' : typeof fact === 'object' ? fact.join(', ') : String(fact));

function fillAll(value: unknown, facts: Facts): unknown {
  if (typeof value === 'string') return fillSlots(value, facts);
  if (Array.isArray(value)) return value.map((part: unknown) => fillAll(part, facts));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([field, part]) => [field, fillAll(part, facts)]));
}
