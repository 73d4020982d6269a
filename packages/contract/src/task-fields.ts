/**
 * Every field of a task that somebody decides, by the name it has in the history. Days are decided by
 * the planner and recorded too. Assignees, dependencies, files and steps are kept separately.
 */
export const TASK_FIELD = [
  ...(['title', 'description', 'kind', 'roleId', 'priority', 'status', 'waitingOn', 'waitingSince', 'realStart', 'doneOn'] as const),
  ...([
    'estimateMinutes',
    'days',
    'fixedDay',
    'notBefore',
    'anchor',
    'phaseId',
    'parentId',
    'deliverableId',
    'labels',
    'pageLinks',
  ] as const),
  ...(['customFields', 'outside', 'isShownToClient', 'isChargeable', 'mayStartEarly', 'plannedWeek', 'carried', 'series', 'ways'] as const),
  ...(['templateTaskId', 'position', 'startDay', 'dueDay'] as const),
] as const;
export type TaskField = (typeof TASK_FIELD)[number];
