import type { EngagementPlan, PlanChanged, TaskChange } from '@crew/contract';
import { call } from '../../api/client.ts';
import { isUnderWay, oneByOne } from '../../api/in-turn.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { count } from '../../words/format.ts';
import { undoOf } from '../plan-change/use-proposal.ts';

/** Where tasks are to go, in the plan as it then is; null where they cannot go there. */
export type Placing = (plan: EngagementPlan) => readonly TaskChange[] | null;

/**
 * Puts tasks in other places of the tree, at once; what that moved is said, and undone from the
 * notice. Steps that follow quickly are taken one after the other, each in the plan the one
 * before has left.
 */
export async function placeTasks(shown: EngagementPlan, placing: Placing): Promise<void> {
  const path = `/engagements/${shown.engagement.id}`;
  const isShownOld = isUnderWay(`${path}/changes`);
  try {
    const placed = await oneByOne(`${path}/changes`, async () => {
      const tasks = placing(isShownOld ? await call<EngagementPlan>('GET', `${path}/plan`) : shown) ?? [];
      if (tasks.length === 0) return null;
      return { tasks, ...(await call<PlanChanged>('POST', `${path}/changes`, { tasks })) };
    });
    if (placed === null) return;
    await refreshAll();
    const { tasks, effect, changeId } = placed;
    const moved = effect.moves.length === 0 ? '' : ` ${count(effect.moves.length, 'task')} got other days.`;
    notify(`${count(tasks.length, 'task')} put there.${moved}`, undoOf(changeId));
  } catch (error) {
    notify(error instanceof Error ? error.message : 'This was not saved. Try again.', { tone: 'trouble' });
    await refreshAll();
  }
}
