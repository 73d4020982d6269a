import type { MailboxMail } from '@crew/contract';
import { dayOf, fullDay, timeWords } from '../../words/format.ts';

/** What an answer begins with: room for words, and the mail it answers, quoted as mail programs do. */
export function quote({ at, from, text }: Pick<MailboxMail, 'at' | 'from' | 'text'>, { zone }: { readonly zone: string }): string {
  const name = /^"?([^"<]+?)"?\s*</.exec(from)?.[1] ?? from;
  const lines = text.trimEnd().split('\n');
  return `\n\nOn ${fullDay(dayOf(at, zone))} at ${timeWords(at, zone)}, ${name} wrote:\n${lines.map((line) => (line === '' ? '>' : `> ${line}`)).join('\n')}\n`;
}
