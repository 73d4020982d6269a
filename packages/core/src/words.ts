/* The fixed words that are computed with; the contract passes them on, so that each is written once. */

export const TASK_STATUS = ['queued', 'active', 'review', 'waiting', 'done', 'dropped'] as const;
export type TaskStatus = (typeof TASK_STATUS)[number];

/** What a task's planned start is counted from. */
export const ANCHOR_AT = ['phase-start', 'engagement-start', 'before-phase-end', 'before-promise'] as const;
export type AnchorAt = (typeof ANCHOR_AT)[number];

/** Which ends a dependency joins: finish to start, start to start, finish to finish, start to finish. */
export const DEPENDENCY_TYPE = ['FS', 'SS', 'FF', 'SF'] as const;
export type DependencyType = (typeof DEPENDENCY_TYPE)[number];

/** The end of the phase before from which the start of the next is counted. */
export const PHASE_EDGE = ['finish', 'start'] as const;
export type PhaseEdge = (typeof PHASE_EDGE)[number];
