import { fold } from './mail-lines.ts';

/** A line of the mail that was answered, folded, with its words. */
interface SentLine {
  readonly text: string;
  readonly folded: string;
  readonly words: readonly string[];
}

/** The lines of a mail that quoted lines are compared with. */
export const readSentLines = (lines: readonly string[]): readonly SentLine[] =>
  lines.map((text) => ({ text: text.trim(), folded: fold(text), words: wordsOf(text) })).filter(({ folded }) => folded !== '');

const wordsOf = (line: string): string[] => fold(line).split(' ');

/**
 * Which line of the mail each quoted line is an edited version of, or null: it is not in the mail as
 * it is, but shares at least half of its words with that line. A line that was only broken into
 * several is not edited.
 */
export function findEdits(quoted: readonly string[], sent: readonly SentLine[]): (string | null)[] {
  const known = new Set(sent.map(({ folded }) => folded));
  const broken = brokenLines(quoted, known);
  return quoted.map((line, index) => {
    const folded = fold(line);
    return folded === '' || known.has(folded) || broken.has(index) ? null : (mostAlike(line, sent)?.text ?? null);
  });
}

/** The most lines a mail program breaks one into. */
const MOST_PARTS = 12;

/** Lines that together are one line of the mail. */
function brokenLines(quoted: readonly string[], known: ReadonlySet<string>): ReadonlySet<number> {
  const broken = new Set<number>();
  for (let start = 0; start < quoted.length; start++) {
    let whole = fold(quoted[start] as string);
    for (let end = start + 1; whole !== '' && end < Math.min(quoted.length, start + MOST_PARTS); end++) {
      whole = fold(`${whole} ${quoted[end] as string}`);
      if (known.has(whole)) for (let part = start; part <= end; part++) broken.add(part);
    }
  }
  return broken;
}

function mostAlike(line: string, sent: readonly SentLine[]): SentLine | null {
  const words = wordsOf(line);
  let [best, most]: [SentLine | null, number] = [null, 0];
  for (const candidate of sent) {
    const longer = Math.max(words.length, candidate.words.length);
    // The shorter one bounds what can be shared, which saves most comparisons.
    if (Math.min(words.length, candidate.words.length) * 2 < longer) continue;
    const share = commonWords(words, candidate.words) / longer;
    if (share >= 0.5 && share > most) [best, most] = [candidate, share];
  }
  return best;
}

/** The length of the longest common subsequence of words. */
function commonWords(left: readonly string[], right: readonly string[]): number {
  let row = new Uint32Array(right.length + 1);
  for (const word of left) {
    const next = new Uint32Array(right.length + 1);
    for (let index = 0; index < right.length; index++) {
      next[index + 1] = word === right[index] ? (row[index] as number) + 1 : Math.max(row[index + 1] as number, next[index] as number);
    }
    row = next;
  }
  return row[right.length] as number;
}
