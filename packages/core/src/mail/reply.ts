import { refuse, requireObject } from '../check.ts';
import { attempt, type Result } from '../result.ts';
import { findEdits, readSentLines } from './find-edits.ts';
import { fold, linesOf, readMailLines, type MailLine } from './mail-lines.ts';

export interface ReplyInput {
  /** The plain text of a reply. */
  readonly text: string;
  /** The plain text of the mail it answers, where that is known. */
  readonly sent?: string;
}

/** What somebody said about a line of the mail they answered. */
export interface Remark {
  readonly on: string;
  readonly says: string;
}

export interface Reply {
  readonly words: string;
  readonly remarks: readonly Remark[];
}

/** What was said behind the first quoted line; `on` is the last quoted line above it, if there is one. */
interface Said {
  readonly on: string | null;
  readonly says: string;
}

/**
 * What somebody wrote in a reply by mail: their words, and their remarks on lines of the mail they
 * answered; without what they quote, introductions of quotes, heads of mails and signatures. Nothing a
 * person wrote is lost. Source: core specification, section 9.
 *
 * Problems: fields that are not texts.
 */
export function reply(input: ReplyInput): Result<Reply> {
  return attempt(() => {
    const { text, sent } = readReply(input);
    const sentLines = sent === undefined ? null : linesOf(sent);
    const lines = readMailLines(text, sentLines === null ? null : new Set(sentLines.map(fold)));
    const first = lines.findIndex(({ kind }) => kind === 'quoted' || kind === 'head');
    const [before, behind] = first < 0 ? [lines, []] : [lines.slice(0, first), lines.slice(first)];
    return compose(trim(before.filter(isOwn).map(({ text: words }) => words)), readSaid(behind, sentLines));
  });
}

function readReply(input: ReplyInput): ReplyInput {
  requireObject(input, 'input');
  if (typeof input.text !== 'string') refuse({ kind: 'invalid-field', at: 'text', expected: 'a text' });
  if (input.sent !== undefined && typeof input.sent !== 'string') refuse({ kind: 'invalid-field', at: 'sent', expected: 'a text' });
  return input;
}

const isOwn = ({ kind }: MailLine): boolean => kind === 'own';

/** What was said behind the first quoted line, in order, and apart from it what stands under the last one. */
function readSaid(lines: readonly MailLine[], sent: readonly string[] | null): { readonly said: Said[]; readonly last: Said | null } {
  const quoted = lines.filter(({ kind }) => kind === 'quoted').map(({ text }) => text);
  const edits = sent === null ? [] : findEdits(quoted, readSentLines(sent));
  const said: Said[] = [];
  let own: string[] = [];
  let on: string | null = null;
  let place = 0;
  for (const { kind, text } of lines) {
    if (kind === 'own') own.push(text);
    if (kind !== 'quoted') continue;
    said.push({ on, says: trim(own) });
    own = [];
    const edited = edits[place++] ?? null;
    if (edited !== null) said.push({ on: edited, says: text.trim() });
    if (text.trim() !== '') on = text.trim();
  }
  const last = { on, says: trim(own) };
  return { said: said.filter(hasWords), last: hasWords(last) ? last : null };
}

const hasWords = ({ says }: Said): boolean => says !== '';

/** What stands under the last quoted line is a remark only among others; alone it answers the whole. */
function compose(before: string, { said, last }: ReturnType<typeof readSaid>): Reply {
  const remarks = said.filter(isRemark);
  const isLastRemark = last !== null && isRemark(last) && remarks.length > 0;
  if (isLastRemark) remarks.push(last);
  const apart = [...said.filter((one) => !isRemark(one)), ...(last === null || isLastRemark ? [] : [last])];
  return { words: [before, ...apart.map(({ says }) => says)].filter((text) => text !== '').join('\n\n'), remarks };
}

const isRemark = (said: Said): said is Remark => said.on !== null;

/** Lines as one text: blank ones at the ends cut, several inside become one. */
function trim(lines: readonly string[]): string {
  return lines
    .join('\n')
    .replace(/^(?:[^\S\n]*\n)+/, '')
    .replace(/\s+$/, '')
    .replace(/\n(?:[^\S\n]*\n){2,}/g, '\n\n');
}
