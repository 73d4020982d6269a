import type { PlanChanged, TaskChange } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { count } from '../../words/format.ts';
import { undoChange } from '../replan/use-proposal.ts';

/** Puts tasks in other places of the tree, at once; what that moved is said, and undone from the notice. */
export async function placeTasks(engagementId: string, tasks: readonly TaskChange[]): Promise<void> {
  try {
    const { changeId, effect } = await call<PlanChanged>('POST', `/engagements/${engagementId}/changes`, { tasks });
    await refreshAll();
    const moved = effect.moves.length === 0 ? '' : ` ${count(effect.moves.length, 'task')} got other days.`;
    notify(`${count(tasks.length, 'task')} put there.${moved}`, { undo: () => undoChange(changeId) });
  } catch (error) {
    notify(error instanceof Error ? error.message : 'This was not saved. Try again.', { tone: 'trouble' });
    await refreshAll();
  }
}
