import type { EngagementPlan, PlanPhase, PlanTask } from '@crew/contract';
import { groupTasks, taskListOf, type TaskGroup, type TaskList } from '../task-list/task-list.ts';

/** What the tasks are grouped by. */
export type Gathering = 'phase' | 'deliverable';

/** A phase or a deliverable, above its tasks. */
export interface Heading extends TaskGroup<PlanTask> {
  readonly phase: PlanPhase | null;
  /** The tasks below it, apart from the others: a part of another heading's task stands at the top here. */
  readonly list: TaskList<PlanTask>;
}

/** The headings of the plan in order, each with its tasks. */
export function headingsOf({ phases, deliverables, tasks }: EngagementPlan, gathering: Gathering): Heading[] {
  const byId = new Map(tasks.map((task) => [task.id, task]));
  /** Subtasks stand with what they are a part of, whatever they are for themselves. */
  const topOf = (task: PlanTask): PlanTask => {
    const parent = byId.get(task.parentId ?? '');
    return parent === undefined ? task : topOf(parent);
  };
  const groups =
    gathering === 'deliverable'
      ? groupTasks(tasks, deliverables, { keyOf: (task) => topOf(task).deliverableId, other: 'No deliverable' })
      : groupTasks(tasks, phases, { keyOf: (task) => task.phaseId });
  return groups.map((group) => ({
    ...group,
    phase: phases.find(({ id }) => id === group.id) ?? null,
    list: taskListOf(group.tasks),
  }));
}
