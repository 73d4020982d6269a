/** An id as the API hands them out, the same for the same word. */
export function idOf(word: string): string {
  const hex = [...word].map((letter) => letter.charCodeAt(0).toString(16).padStart(2, '0')).join('');
  return `00000000-0000-4000-8000-${hex.slice(-12).padStart(12, '0')}`;
}
