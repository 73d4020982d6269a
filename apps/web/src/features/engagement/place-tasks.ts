import { perform } from '../../session/perform.ts';
import type { EngagementPlan, PlanChanged, PlanEffect, TaskChange } from '@crew/contract';
import { call } from '../../api/client.ts';
import { isUnderWay, oneByOne } from '../../api/in-turn.ts';
import { movesAnything } from '../task/add-task.ts';
import type { Proposing } from '../plan-change/use-proposal.ts';
import { count } from '../../words/format.ts';

/** Where tasks are to go, in the plan as it then is; null where they cannot go there. */
export type Placing = (plan: EngagementPlan) => readonly TaskChange[] | null;

/**
 * Moves tasks to other places of the tree. A new order is saved at once; a new parent or phase, where
 * that moves days or overloads somebody, is previewed first. Steps that follow quickly are applied one
 * after the other, each to the plan the one before has left.
 */
export async function placeTasks(shown: EngagementPlan, placing: Placing, propose: Proposing['propose']): Promise<void> {
  const path = `/engagements/${shown.engagement.id}`;
  const isShownOld = isUnderWay(`${path}/changes`);
  await perform({
    send: () =>
      oneByOne(`${path}/changes`, async () => {
        const plan = isShownOld ? await call<EngagementPlan>('GET', `${path}/plan`) : shown;
        const tasks = placing(plan) ?? [];
        if (isElsewhere(tasks, plan) && movesAnything(await call<PlanEffect>('POST', `${path}/changes/preview`, { tasks }))) {
          propose({ title: proposalWords(tasks, plan), note: 'Moved in the outline.', tasks });
          return null;
        }
        return tasks.length === 0 ? null : { tasks, ...(await call<PlanChanged>('POST', `${path}/changes`, { tasks })) };
      }),
    said: (placed) => (placed === null ? null : placedWords(placed)),
    undo: (placed) => placed?.changeId ?? null,
  });
}

/** Whether any of the tasks gets another parent or another phase. */
function isElsewhere(changes: readonly TaskChange[], { tasks }: EngagementPlan): boolean {
  const now = new Map(tasks.map((task) => [task.id, task]));
  return changes.some(({ id, parentId, phaseId }) => {
    const task = now.get(id);
    return (parentId !== undefined && parentId !== task?.parentId) || (phaseId !== undefined && phaseId !== task?.phaseId);
  });
}

function proposalWords(changes: readonly TaskChange[], { tasks }: EngagementPlan): string {
  const [first] = changes;
  const title = tasks.find(({ id }) => id === first?.id)?.title ?? '';
  return changes.length === 1 ? `If “${title}” moves there` : `If ${count(changes.length, 'task')} move there`;
}

function placedWords({ tasks, effect }: Pick<PlanChanged, 'effect'> & { readonly tasks: readonly TaskChange[] }): string {
  const moved = effect.moves.length === 0 ? '' : ` ${count(effect.moves.length, 'task')} rescheduled.`;
  return `${count(tasks.length, 'task')} moved.${moved}`;
}
