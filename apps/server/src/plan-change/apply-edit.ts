import type { PhaseRow } from '../engagement/phase-images.ts';
import { Refusal } from '../platform/refusal.ts';
import type { TaskImage } from '../task/task-images.ts';
import { addPhases, arrangePhases, changePhase, editPhase, endPhases, restorePhases, startRound } from './edit-phases.ts';
import { addTasks, changeTask, orderTasks, placeTask, restoreTasks } from './edit-tasks.ts';
import type { Draft, OperationOf, PlanEdit, PlanOperation } from './plan-edit.ts';
import type { PlanImage } from './plan-image.ts';
import { settleTasks } from './settle-tasks.ts';

const APPLY: { readonly [Kind in PlanOperation['kind']]: (draft: Draft, operation: OperationOf<Kind>) => void } = {
  'add-phases': addPhases,
  'change-phase': changePhase,
  'edit-phase': editPhase,
  'arrange-phases': arrangePhases,
  'restore-phases': restorePhases,
  'end-phases': endPhases,
  'start-round': startRound,
  'set-template-version': (draft, { version }) => {
    draft.templateVersion = version;
  },
  'add-deliverables': (draft, { deliverables }) => {
    const last = Math.max(-1, ...draft.deliverables.map(({ position }) => position));
    draft.deliverables = [...draft.deliverables, ...deliverables.map((row, index) => ({ ...row, position: last + 1 + index }))];
  },
  'add-tasks': addTasks,
  'restore-tasks': restoreTasks,
  'remove-tasks': (draft, { ids }) => {
    for (const id of ids) draft.tasks.delete(id);
  },
  'change-task': changeTask,
  'place-task': placeTask,
  'order-tasks': orderTasks,
};

/**
 * The plan after an edit, with what follows for its structure (`settleTasks`); days are the
 * planner's. Nothing is written. Tasks that nothing happened to stay the same objects. Refuses a
 * place that is not there any more.
 */
export function applyEdit(plan: PlanImage, { operations }: PlanEdit): PlanImage {
  const { phases, checks, handoffs, deliverables, templateVersion, lastNumber } = plan;
  const draft: Draft = {
    ...{ plan, phases, checks, handoffs, deliverables, templateVersion, lastNumber },
    tasks: new Map(plan.tasks.map((image) => [image.id, image])),
  };
  for (const operation of operations) (APPLY[operation.kind] as (draft: Draft, operation: PlanOperation) => void)(draft, operation);
  const { plan: _plan, ...rest } = draft;
  const tasks = settleTasks(plan.tasks, [...draft.tasks.values()]).sort((left, right) => left.row.number - right.row.number);
  refuseLostPhase(tasks, { before: plan.phases, after: draft.phases });
  return { ...plan, ...rest, tasks };
}

/** Refuses an edit after which a task would stand in a phase that is not there. */
function refuseLostPhase(tasks: readonly TaskImage[], { before, after }: Phases): void {
  const there = new Set(after.map(({ id }) => id));
  const lost = tasks.find(({ row }) => !there.has(row.phase_id));
  if (lost === undefined) return;
  const phase = before.find(({ id }) => id === lost.row.phase_id)?.name ?? 'a phase that is gone';
  throw new Refusal('changed-meanwhile', `“${lost.row.title}” is in ${phase} now, which would go. Move it to another phase first.`);
}

interface Phases {
  readonly before: readonly PhaseRow[];
  readonly after: readonly PhaseRow[];
}
