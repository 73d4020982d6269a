import {
  ANCHOR_AT,
  DEPENDENCY_TYPE,
  PHASE_EDGE,
  TASK_STATUS,
  type AnchorAt,
  type DependencyType,
  type PhaseEdge,
  type TaskStatus,
} from '@crew/core';

/** The fixed words of the product: the same in database, API, code and screen. Those the core computes with are defined there. */
export { ANCHOR_AT, DEPENDENCY_TYPE, PHASE_EDGE, TASK_STATUS, type AnchorAt, type DependencyType, type PhaseEdge, type TaskStatus };

/** A file is at most this large. */
export const MOST_FILE_BYTES = 50 * 1024 * 1024;

/** What somebody may do. The first four are crew, the last is a client's contact. */
export const ACCESS = ['owner', 'lead', 'member', 'freelancer', 'client'] as const;
export type Access = (typeof ACCESS)[number];

/** Access of the agency's own people. */
export const CREW_ACCESS = ['owner', 'lead', 'member', 'freelancer'] as const;
export type CrewAccess = (typeof CREW_ACCESS)[number];

/** What each access lets somebody do, in words. */
export const CREW_ACCESS_WORDS: Readonly<Record<CrewAccess, { readonly name: string; readonly may: string }>> = {
  owner: { name: 'Owner', may: 'everything, and who else owns' },
  lead: { name: 'Lead', may: 'leads engagements, looks after crew and templates' },
  member: { name: 'Member', may: 'sees and works on every engagement' },
  freelancer: { name: 'Freelancer', may: 'sees own tasks only' },
};

/** How each status reads on the screen. */
export const TASK_STATUS_WORDS: Readonly<Record<TaskStatus, string>> = {
  queued: 'Not begun',
  active: 'Under way',
  review: 'In review',
  waiting: 'Waiting',
  done: 'Done',
  dropped: 'Dropped',
};

export const WAITING_ON = ['client', 'colleague', 'supplier'] as const;
export type WaitingOn = (typeof WAITING_ON)[number];

export const TASK_KIND = ['work', 'client', 'review', 'meeting', 'order', 'milestone'] as const;
export type TaskKind = (typeof TASK_KIND)[number];

export const PRIORITY = ['low', 'normal', 'high'] as const;
export type Priority = (typeof PRIORITY)[number];

/** What each dependency means, from the side of the task that waits. */
export const DEPENDENCY_TYPE_WORDS: Readonly<Record<DependencyType, string>> = {
  FS: 'starts after the end of',
  SS: 'starts with the start of',
  FF: 'ends with the end of',
  SF: 'ends with the start of',
};

/** How far an outside maker's part is, apart from the task's own status. */
export const OUTSIDE_STATE = ['to-brief', 'briefed', 'making', 'back'] as const;
export type OutsideState = (typeof OUTSIDE_STATE)[number];

export const OUTSIDE_STATE_WORDS: Readonly<Record<OutsideState, string>> = {
  'to-brief': 'Brief not sent',
  briefed: 'Brief sent',
  making: 'Being made',
  back: 'Back with us',
};

export const PHASE_STATE = ['ahead', 'running', 'over'] as const;
export type PhaseState = (typeof PHASE_STATE)[number];

export const ENGAGEMENT_STATE = ['proposal', 'open', 'finished', 'dropped'] as const;
export type EngagementState = (typeof ENGAGEMENT_STATE)[number];

/** As stored. On the screen a handoff that is far off is shown as not due. */
export const HANDOFF_STATE = ['getting-ready', 'handed-off', 'picked-up', 'sent-back'] as const;
export type HandoffState = (typeof HANDOFF_STATE)[number];

/** What the baton on a joint of two phases shows. */
export type Baton = 'not-due' | HandoffState;

export const CHECK_KIND = ['tasks-done', 'titled-done', 'steps-done', 'client-done', 'field-filled', 'files-there', 'word'] as const;
export type CheckKind = (typeof CHECK_KIND)[number];

export const TEMPLATE_KIND = ['engagement', 'phase', 'task'] as const;
export type TemplateKind = (typeof TEMPLATE_KIND)[number];

/** The hues a client can have; see the tokens of the interface. */
export const CLIENT_HUE = ['blue', 'leaf', 'plum', 'violet', 'ochre', 'teal', 'umber', 'olive', 'slate'] as const;
export type ClientHue = (typeof CLIENT_HUE)[number];

/** What is done with a repeating task that was not done when the next one comes. */
export const WHEN_MISSED = ['keep', 'drop'] as const;
export type WhenMissed = (typeof WHEN_MISSED)[number];

/** Engagements that repeat, such as care visits, and production lines whose units follow each other. */
export const SERIES_KIND = ['repeating', 'line'] as const;
export type SeriesKind = (typeof SERIES_KIND)[number];

/** What the day of a rule means for a unit. */
export const SERIES_PLACES = ['start', 'promise'] as const;
export type SeriesPlaces = (typeof SERIES_PLACES)[number];
