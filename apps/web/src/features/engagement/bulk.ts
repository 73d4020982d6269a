import type { EngagementPlan, Priority, TaskChange, TaskStatus, PlanTask } from '@crew/contract';
import { count, hourWords } from '../../words/format.ts';
import type { Proposal } from '../plan-change/use-proposal.ts';
import { leavesUnder, taskListOf, topsChosen } from '../task-list/task-list.ts';

/** What can be done with many tasks at once. */
export type BulkStep =
  | { readonly kind: 'assign'; readonly personId: string | null; readonly name: string }
  | { readonly kind: 'shift'; readonly days: number }
  | { readonly kind: 'effort'; readonly minutes: number | null }
  | { readonly kind: 'label'; readonly label: string; readonly isRemoved: boolean }
  | { readonly kind: 'status'; readonly status: TaskStatus; readonly words: string }
  | { readonly kind: 'priority'; readonly priority: Priority }
  | { readonly kind: 'deliverable'; readonly id: string | null; readonly name: string }
  | { readonly kind: 'phase'; readonly id: string; readonly name: string }
  | { readonly kind: 'delete' };

/** One step for all chosen tasks, as a change that is looked at first. What subtasks decide is done on them. */
export function bulkProposal(chosen: readonly PlanTask[], step: BulkStep, plan: Pick<EngagementPlan, 'tasks'>): Proposal {
  const list = taskListOf(plan.tasks);
  const tops = topsChosen(list, chosen);
  const leaves = leavesUnder(list, tops);
  const open = leaves.filter((task) => task.status !== 'done' && task.status !== 'dropped');
  const of = (tasks: readonly PlanTask[], change: (task: PlanTask) => Omit<TaskChange, 'id' | 'version'>): TaskChange[] =>
    tasks.map((task) => ({ id: task.id, version: task.version, ...change(task) }));
  const many = count(chosen.length, 'task');
  switch (step.kind) {
    case 'assign':
      return {
        title: step.personId === null ? `If nobody has these ${many}` : `If ${step.name} does these ${many}`,
        note: `You gave ${count(leaves.length, 'task')} to ${step.personId === null ? 'nobody' : step.name}.`,
        tasks: of(leaves, () => ({ assigneeIds: step.personId === null ? [] : [step.personId] })),
      };
    case 'shift': {
      const days = count(Math.abs(step.days), 'working day');
      return {
        title: `If these ${many} move by ${days}`,
        note: `You moved them ${days} ${step.days > 0 ? 'later' : 'earlier'}; what is under way ends ${step.days > 0 ? 'later' : 'earlier'}, what is done stays.`,
        tasks: of(
          tops.flatMap((task) => (task.realStart !== null && task.isGroup ? leavesUnder(list, [task]) : [task])),
          () => ({
            shiftDays: step.days,
          }),
        ),
      };
    }
    case 'effort':
      return {
        title: `If each of these takes ${step.minutes === null ? 'an unknown effort' : hourWords(step.minutes)}`,
        note: `You set the effort of ${count(leaves.length, 'task')}.`,
        tasks: of(leaves, () => ({ estimateMinutes: step.minutes })),
      };
    case 'label':
      return {
        title: step.isRemoved ? `Without the label “${step.label}”` : `With the label “${step.label}”`,
        note: `You ${step.isRemoved ? 'took it from' : 'put it on'} ${many}.`,
        tasks: of(chosen, (task) => ({
          labels: step.isRemoved ? task.labels.filter((label) => label !== step.label) : [...new Set([...task.labels, step.label])],
        })),
      };
    case 'status':
      return {
        title: `If these ${many} are ${step.words.toLowerCase()}`,
        note: `You set the status of ${count(leaves.length, 'task')}.`,
        tasks: of(step.status === 'dropped' ? open : leaves, () => ({ status: step.status })),
      };
    case 'priority':
      return {
        title: `Of ${step.priority} priority`,
        note: `You set it on ${many}.`,
        tasks: of(chosen, () => ({ priority: step.priority })),
      };
    case 'deliverable':
      return {
        title: step.id === null ? 'For no deliverable' : `For “${step.name}”`,
        note: `You gathered ${many}.`,
        tasks: of(chosen, () => ({ deliverableId: step.id })),
      };
    case 'phase':
      return {
        title: `If these ${many} stand in ${step.name}`,
        note: 'You moved them there.',
        tasks: of(tops, () => ({ phaseId: step.id, parentId: null })),
      };
    case 'delete':
      return { title: `Without these ${many}`, note: `You took ${many} out of the plan.`, tasks: of(tops, () => ({ isDeleted: true })) };
  }
}
