/** How large a body may be, before it is parsed: what is refused here has cost next to nothing. */
export interface BodyLimits {
  readonly bytes: number;
  /** Objects and lists within one another. */
  readonly depth: number;
  /** Members of one object; no form of ours has more than a few dozen. */
  readonly keys: number;
  /** Items of one list. */
  readonly items: number;
  /** Values in all. */
  readonly values: number;
}

const [QUOTE, BACKSLASH, COMMA, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [0x22, 0x5c, 0x2c, 0x5b, 0x5d, 0x7b, 0x7d];

/**
 * What of a JSON text in UTF-8 is beyond the limits, as a sentence, or null. One pass over the
 * bytes that counts brackets and commas outside of texts; whether it is JSON at all is for the
 * parser to say.
 */
export function beyondLimits(text: Uint8Array, limits: BodyLimits): string | null {
  const counts: number[] = [];
  const most: number[] = [];
  let values = 0;
  for (let at = 0; at < text.length; at++) {
    const byte = text[at] as number;
    if (byte === QUOTE) at = endOfText(text, at);
    else if (byte === OPEN_OBJECT || byte === OPEN_LIST) {
      if (counts.length === limits.depth) return `It is nested more than ${limits.depth} deep.`;
      counts.push(1);
      most.push(byte === OPEN_OBJECT ? limits.keys : limits.items);
      values++;
    } else if (byte === CLOSE_OBJECT || byte === CLOSE_LIST) {
      counts.pop();
      most.pop();
    } else if (byte === COMMA) {
      const count = (counts[counts.length - 1] ?? 1) + 1;
      const allowed = most[most.length - 1] ?? 1;
      if (count > allowed)
        return allowed === limits.keys
          ? `An object in it has more than ${allowed} fields.`
          : `A list in it has more than ${allowed} items.`;
      counts[counts.length - 1] = count;
      values++;
    }
    if (values > limits.values) return `It has more than ${limits.values} values.`;
  }
  return null;
}

function endOfText(text: Uint8Array, from: number): number {
  for (let at = from + 1; at < text.length; at++) {
    if (text[at] === BACKSLASH) at++;
    else if (text[at] === QUOTE) return at;
  }
  return text.length;
}

/** Whether every text in a value can be kept: none has half a character (a lone surrogate) or the character 0 in it. */
export function isKeepable(value: unknown): boolean {
  if (typeof value === 'string') return !HALF_OR_ZERO.test(value);
  if (typeof value !== 'object' || value === null) return true;
  return Object.entries(value).every(([key, member]) => !HALF_OR_ZERO.test(key) && isKeepable(member));
}

// With the flag `u`, a pair of surrogates is one character, and only lone ones are in this class.
// eslint-disable-next-line no-control-regex -- the character 0 is what is looked for
const HALF_OR_ZERO = /[\ud800-\udfff\u0000]/u;
