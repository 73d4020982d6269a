/** Whether every word that was typed is somewhere in the text, in any order; case and accents are ignored. */
export function hasEveryWord(text: string, typed: string): boolean {
  const plain = plainText(text);
  return plainText(typed)
    .split(/\s+/)
    .every((word) => plain.includes(word));
}

const plainText = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
