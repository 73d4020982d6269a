import type { ChangeUndone } from '@crew/contract';
import { ApiError, call, troubleWords } from '../api/client.ts';
import { refreshAll, refreshTouched } from '../api/queries.ts';
import { noticeToCome, notify, type Undo } from '../ui/toasts.tsx';
import { undoneWords } from './undone-words.ts';

/** A change as a screen makes it. */
export interface Step<Answer> {
  readonly send: () => Promise<Answer>;
  /** What the notice says once it is done; left out, nothing is said. */
  readonly said?: string | ((answer: Answer) => string | null);
  /** What takes it back: the id of the change, or a way of its own; null where there is none. */
  readonly undo?: (answer: Answer) => string | Undo | null;
  /** What is still to be done once it is said; nobody waits for it. */
  readonly after?: (answer: Answer) => Promise<void> | undefined;
  /** Shows what went wrong where it belongs; left out, a notice does. */
  readonly onTrouble?: (words: string, error: unknown) => void;
}

/** What came of a step. */
export type Performed<Answer> = { readonly isDone: true; readonly answer: Answer } | { readonly isDone: false };

/**
 * The one way to send a change: it is sent, what it touched is read anew, it is said with its
 * undo, and what went wrong is told. Changes of one thing keep their order (`call`); `u` waits
 * for the notice that is to come.
 */
export async function perform<Answer>({ onTrouble, ...step }: Step<Answer>): Promise<Performed<Answer>> {
  try {
    return { isDone: true, answer: await carryOut(step) };
  } catch (error) {
    const words = troubleWords(error);
    if (onTrouble === undefined) notify(words, { tone: 'trouble' });
    else onTrouble(words, error);
    // What was shown at once did not come to be, and what it met is news.
    await refreshAll();
    return { isDone: false };
  }
}

/** As `perform`, for a form that shows what went wrong at its own foot: that is thrown. */
export async function performOrThrow<Answer>(step: Omit<Step<Answer>, 'onTrouble'>): Promise<Answer> {
  try {
    return await carryOut(step);
  } catch (error) {
    // Somebody was quicker: what they made of it is shown around the form, and the next try is over that.
    if (error instanceof ApiError && error.code === 'changed-meanwhile') await refreshAll();
    throw error;
  }
}

async function carryOut<Answer>({ send, said, undo, after }: Omit<Step<Answer>, 'onTrouble'>): Promise<Answer> {
  const told = said === undefined ? () => undefined : noticeToCome();
  try {
    const answer = await send();
    await refreshTouched();
    const words = typeof said === 'function' ? said(answer) : said;
    const way = undo?.(answer) ?? null;
    if (words !== undefined && words !== null) notify(words, way === null ? {} : typeof way === 'string' ? wayBack(way) : { undo: way });
    void after?.(answer);
    return answer;
  } finally {
    told();
  }
}

/** Undoes a change that was made, with everything it moved, and says what others have changed since, which stays. */
export async function undoChange(changeId: string): Promise<string> {
  const { kept } = await call<ChangeUndone>('POST', `/changes/${changeId}/undo`);
  await refreshTouched();
  return undoneWords(kept);
}

/** How a notice takes a change back. */
export const wayBack = (changeId: string): { readonly undo: Undo; readonly change: string } => ({
  undo: () => undoChange(changeId),
  change: changeId,
});

/** A way back that is a change of its own. */
export const backBy =
  (send: () => Promise<unknown>): Undo =>
  async () => {
    await send();
    await refreshTouched();
  };
