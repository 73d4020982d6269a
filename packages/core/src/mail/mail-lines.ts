import { introducesQuote, isHeader, isPutByDevice, separatesMails } from './phrases.ts';

/** A line of a reply: what its writer wrote, what they quote, the head of another mail, or what else a program put there. */
export interface MailLine {
  kind: 'own' | 'quoted' | 'head' | 'program';
  /** Of a quoted line without its marks. */
  readonly text: string;
}

const QUOTED = /^\s*>/;
const MARKS = /^\s*(?:>\s?)+/;

/** Lines of a text with plain spaces, none of them at the ends. */
export const linesOf = (text: string): string[] =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/\u00a0/g, ' ')
    .split('\n')
    .map((line) => line.trimEnd());

/** A line with its spaces folded, to be compared. */
export const fold = (line: string): string => line.trim().replace(/\s+/g, ' ');

/** Tells the lines of a reply apart; `sent` are the folded lines of the mail it answers, if that is known. */
export function readMailLines(text: string, sent: ReadonlySet<string> | null): MailLine[] {
  const lines = linesOf(text).map((line): MailLine => {
    const isQuoted = QUOTED.test(line);
    return { kind: isQuoted ? 'quoted' : 'own', text: isQuoted ? line.replace(MARKS, '') : line };
  });
  markHeaderBlocks(lines, sent);
  markIntroductions(lines);
  markSignatures(lines);
  return lines;
}

const isOwn = (line: MailLine | undefined): line is MailLine => line?.kind === 'own';
const isBlank = (line: MailLine): boolean => line.text.trim() === '';

/** A head of another mail in the text, and without quote marks behind it what it heads. */
function markHeaderBlocks(lines: MailLine[], sent: ReadonlySet<string> | null): void {
  let first: number | null = null;
  for (let index = 0; index < lines.length; index++) {
    const end = endOfBlock(lines, index);
    if (end === index) continue;
    first ??= end;
    for (const line of lines.slice(index, end)) line.kind = 'head';
    index = end - 1;
  }
  if (first === null) return;
  const behind = lines.slice(first);
  if (behind.some((line) => line.kind === 'quoted')) return;
  for (const line of behind) if (isOwn(line) && (sent === null || (!isBlank(line) && sent.has(fold(line.text))))) line.kind = 'quoted';
}

/** Behind which line a header block that begins here ends; the line itself when none begins here. */
function endOfBlock(lines: readonly MailLine[], start: number): number {
  const isSeparator = isOwn(lines[start]) && separatesMails(lines[start].text.trim());
  let at = isSeparator ? start + 1 : start;
  while (isSeparator && isOwn(lines[at]) && isBlank(lines[at] as MailLine)) at++;
  const from = at;
  while (isOwn(lines[at]) && isHeader((lines[at] as MailLine).text.trim())) at++;
  if (at - from >= 2) return at;
  return isSeparator ? start + 1 : start;
}

/** Up to three lines in a row that introduce the quoted line behind them. */
function markIntroductions(lines: MailLine[]): void {
  for (let quoted = 1; quoted < lines.length; quoted++) {
    if (lines[quoted]?.kind !== 'quoted' || lines[quoted - 1]?.kind !== 'own') continue;
    let last = quoted - 1;
    while (isOwn(lines[last]) && isBlank(lines[last] as MailLine)) last--;
    for (let count = 1; count <= 3; count++) {
      const parts = lines.slice(Math.max(0, last - count + 1), last + 1);
      if (parts.length < count || parts.some((line) => !isOwn(line) || isBlank(line))) break;
      if (!introducesQuote(fold(parts.map((line) => line.text).join(' ')))) continue;
      for (const line of parts) line.kind = 'program';
      break;
    }
  }
}

/** From a line of two dashes on, up to what is quoted next; and what a device puts under what somebody wrote. */
function markSignatures(lines: MailLine[]): void {
  let isSignature = false;
  for (const line of lines) {
    if (line.kind === 'quoted') isSignature = false;
    else if (line.kind === 'own' && line.text.trim() === '--') isSignature = true;
    if (isSignature) line.kind = 'program';
  }
  const firstBreak = lines.findIndex((line) => line.kind === 'quoted');
  for (const end of new Set([firstBreak < 0 ? lines.length : firstBreak, lines.length])) {
    const last = lines.slice(0, end).findLast((line) => isOwn(line) && !isBlank(line));
    if (last !== undefined && isPutByDevice(last.text)) last.kind = 'program';
  }
}
