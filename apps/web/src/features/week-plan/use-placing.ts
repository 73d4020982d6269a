import type { PlacedInWeek } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { undoOf } from '../plan-change/use-proposal.ts';

/** Puts tasks into a week, or into none; one notice and one undo for all of them. */
export async function placeInWeek(taskIds: readonly string[], week: string | null, words: string): Promise<void> {
  try {
    const { changeId } = await call<PlacedInWeek>('POST', '/week-plan/places', { tasks: taskIds.map((taskId) => ({ taskId, week })) });
    await refreshAll();
    notify(words, undoOf(changeId));
  } catch (error) {
    notify(error instanceof Error ? error.message : 'This was not saved. Try again.', { tone: 'trouble' });
    await refreshAll();
  }
}
