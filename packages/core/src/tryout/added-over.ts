import type { LoadBook, LoadItem } from '../load/book.ts';

/** A few minutes over a day are noise of the even spreading, not an overload. */
export const LEAST_OVER = 30;
/** How many days after its finish are searched as well: late work fills the days after. */
export const BEHIND_DAYS = 60;

/** How much further above capacity the items put each of these people; minutes. The book is left as it was. */
export function addedOver(book: LoadBook, items: readonly LoadItem[], touched: readonly number[]): number[] {
  const before = touched.map((person) => overOf(book, person));
  for (const item of items) book.add(item);
  const added = touched.map((person, index) => overOf(book, person) - (before[index] as number));
  for (const item of items) book.remove(item);
  return added;
}

function overOf(book: LoadBook, person: number): number {
  let over = 0;
  for (let cell = person * book.days; cell < (person + 1) * book.days; cell++)
    over += Math.max(0, (book.load[cell] as number) - (book.capacity[cell] as number));
  return over;
}
