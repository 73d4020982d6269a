import type { EngagementPlan, Priority, TaskChange, TaskStatus, PlanTask } from '@crew/contract';
import { count, hourWords } from '../../words/format.ts';
import type { Proposal } from '../plan-change/use-proposal.ts';
import { leavesUnder, taskListOf, topsChosen, type TaskList } from '../task-list/task-list.ts';

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

/** One step for all chosen tasks, as a change to preview. A group's own fields are set on its subtasks. */
export function bulkProposal(chosen: readonly PlanTask[], step: BulkStep, { tasks }: Pick<EngagementPlan, 'tasks'>): Proposal {
  const list = taskListOf(tasks);
  const tops = topsChosen(list, chosen);
  const propose = PROPOSALS[step.kind] as (step: BulkStep, chosen: Chosen) => Proposal;
  return propose(step, { list, chosen, tops, leaves: leavesUnder(list, tops), many: count(chosen.length, 'task') });
}

/** The chosen tasks as a step may see them. */
interface Chosen {
  readonly list: TaskList<PlanTask>;
  readonly chosen: readonly PlanTask[];
  /** Those of them that stand below none of the others. */
  readonly tops: readonly PlanTask[];
  /** Those at or below them that have no subtasks. */
  readonly leaves: readonly PlanTask[];
  /** "3 tasks" */
  readonly many: string;
}

type Proposals = { readonly [Kind in BulkStep['kind']]: (step: Extract<BulkStep, { kind: Kind }>, chosen: Chosen) => Proposal };

const of = (tasks: readonly PlanTask[], change: (task: PlanTask) => Omit<TaskChange, 'id' | 'version'>): TaskChange[] =>
  tasks.map((task) => ({ id: task.id, version: task.version, ...change(task) }));

const PROPOSALS: Proposals = {
  assign: ({ personId, name }, { leaves, many }) => {
    const ours = leaves.filter(({ kind }) => kind !== 'client');
    const theirs = leaves.length - ours.length;
    const given =
      personId === null ? `You unassigned ${count(ours.length, 'task')}.` : `You assigned ${count(ours.length, 'task')} to ${name}.`;
    return {
      title: personId === null ? `If nobody has these ${many}` : `If ${name} does these ${many}`,
      note:
        theirs === 0 ? given : `${given} ${count(theirs, 'task')} of the client’s own ${theirs === 1 ? 'stays' : 'stay'} with the client.`,
      tasks: of(ours, () => ({ assigneeIds: personId === null ? [] : [personId] })),
    };
  },
  shift: ({ days }, { list, tops, many }) => {
    const span = count(Math.abs(days), 'working day');
    const way = days > 0 ? 'later' : 'earlier';
    // Work under way keeps its start: of a group that has begun the parts are moved, each as far as it can be.
    const moved = tops.flatMap((task) => (task.realStart !== null && task.isGroup ? leavesUnder(list, [task]) : [task]));
    return {
      title: `If these ${many} move by ${span}`,
      note: `You moved them ${span} ${way}; what is under way ends ${way}, what is done stays.`,
      tasks: of(moved, () => ({ shiftDays: days })),
    };
  },
  effort: ({ minutes }, { leaves }) => ({
    title: `If each of these takes ${minutes === null ? 'an unknown effort' : hourWords(minutes)}`,
    note: `You set the effort of ${count(leaves.length, 'task')}.`,
    tasks: of(leaves, () => ({ estimateMinutes: minutes })),
  }),
  label: ({ label, isRemoved }, { chosen, many }) => ({
    title: isRemoved ? `Without the label “${label}”` : `With the label “${label}”`,
    note: `You ${isRemoved ? 'removed it from' : 'added it to'} ${many}.`,
    tasks: of(chosen, ({ labels }) => ({
      labels: isRemoved ? labels.filter((other) => other !== label) : [...new Set([...labels, label])],
    })),
  }),
  status: ({ status, words }, { leaves, many }) => {
    const open = leaves.filter((task) => task.status !== 'done' && task.status !== 'dropped');
    return {
      title: `If these ${many} are ${words.toLowerCase()}`,
      note: `You set the status of ${count(leaves.length, 'task')}.`,
      tasks: of(status === 'dropped' ? open : leaves, () => ({ status })),
    };
  },
  priority: ({ priority }, { chosen, many }) => ({
    title: `Of ${priority} priority`,
    note: `You set it on ${many}.`,
    tasks: of(chosen, () => ({ priority })),
  }),
  deliverable: ({ id, name }, { chosen, many }) => ({
    title: id === null ? 'For no deliverable' : `For “${name}”`,
    note: `You grouped ${many}.`,
    tasks: of(chosen, () => ({ deliverableId: id })),
  }),
  phase: ({ id, name }, { tops, many }) => ({
    title: `If these ${many} move to ${name}`,
    note: 'You moved them there.',
    tasks: of(tops, () => ({ phaseId: id, parentId: null })),
  }),
  delete: (_step, { tops, many }) => ({
    title: `Without these ${many}`,
    note: `You removed ${many} from the plan.`,
    tasks: of(tops, () => ({ isDeleted: true })),
  }),
};
