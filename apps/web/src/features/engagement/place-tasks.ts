import { perform } from '../../session/perform.ts';
import type { EngagementPlan, PlanChanged, TaskChange } from '@crew/contract';
import { call } from '../../api/client.ts';
import { isUnderWay, oneByOne } from '../../api/in-turn.ts';
import { count } from '../../words/format.ts';

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
  await perform({
    send: () =>
      oneByOne(`${path}/changes`, async () => {
        const tasks = placing(isShownOld ? await call<EngagementPlan>('GET', `${path}/plan`) : shown) ?? [];
        return tasks.length === 0 ? null : { tasks, ...(await call<PlanChanged>('POST', `${path}/changes`, { tasks })) };
      }),
    said: (placed) => (placed === null ? null : placedWords(placed)),
    undo: (placed) => placed?.changeId ?? null,
  });
}

function placedWords({ tasks, effect }: Pick<PlanChanged, 'effect'> & { readonly tasks: readonly TaskChange[] }): string {
  const moved = effect.moves.length === 0 ? '' : ` ${count(effect.moves.length, 'task')} got other days.`;
  return `${count(tasks.length, 'task')} put there.${moved}`;
}
