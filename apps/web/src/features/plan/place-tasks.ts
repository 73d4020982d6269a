import type { EngagementPlan, PlanChanged, TaskChange } from '@crew/contract';
import { call } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { notify } from '../../ui/toasts.tsx';
import { count } from '../../words/format.ts';
import { undoChange } from '../replan/use-proposal.ts';

/** Where tasks are to go, in the plan as it then is; null where they cannot go there. */
export type Placing = (plan: EngagementPlan) => readonly TaskChange[] | null;

/** What is still being placed, by engagement. */
const lines = new Map<string, Promise<void>>();

/**
 * Puts tasks in other places of the tree, at once; what that moved is said, and undone from the
 * notice. Steps that follow quickly are taken one after the other, each in the plan the one
 * before has left.
 */
export function placeTasks(shown: EngagementPlan, placing: Placing): Promise<void> {
  const { id } = shown.engagement;
  const before = lines.get(id);
  const step = before === undefined ? place(shown, placing) : before.then(() => placeAnew(id, placing));
  const line = step.catch(tell).finally(() => lines.get(id) === line && lines.delete(id));
  lines.set(id, line);
  return line;
}

const placeAnew = async (id: string, placing: Placing): Promise<void> =>
  place(await call<EngagementPlan>('GET', `/engagements/${id}/plan`), placing);

async function place(plan: EngagementPlan, placing: Placing): Promise<void> {
  const tasks = placing(plan);
  if (tasks === null || tasks.length === 0) return;
  const { changeId, effect } = await call<PlanChanged>('POST', `/engagements/${plan.engagement.id}/changes`, { tasks });
  await refreshAll();
  const moved = effect.moves.length === 0 ? '' : ` ${count(effect.moves.length, 'task')} got other days.`;
  notify(`${count(tasks.length, 'task')} put there.${moved}`, { undo: () => undoChange(changeId) });
}

async function tell(error: unknown): Promise<void> {
  notify(error instanceof Error ? error.message : 'This was not saved. Try again.', { tone: 'trouble' });
  await refreshAll();
}
