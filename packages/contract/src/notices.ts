/**
 * What somebody can be told of, and whether they are when they have chosen nothing. In the order
 * of what matters more: one event tells a person one thing.
 */
export const NOTICE_KINDS = {
  /** A handoff was given to them. */
  'handed-off': { isOn: true },
  /** What they handed off came back with a question. */
  'sent-back': { isOn: true },
  /** A handoff of theirs can be handed off: a rule put it on their desk. */
  'handoff-ready': { isOn: true },
  /** A rule of the agency has something to tell them. */
  told: { isOn: true },
  /** A handoff has been with them for long, or with somebody in an engagement they lead. */
  reminder: { isOn: true },
  /** A task became theirs. */
  assigned: { isOn: true },
  /** A task is no longer theirs. */
  unassigned: { isOn: true },
  /** Nothing stands in front of a task of theirs any more. */
  ready: { isOn: true },
  /** A task of theirs has other days because of what somebody did. */
  moved: { isOn: true },
  /** The promise of an engagement they lead or work in is another. */
  promise: { isOn: true },
  /** An engagement they lead or work in began, ended or goes through another round. */
  engagement: { isOn: true },
  /** What they handed off was picked up. */
  'picked-up': { isOn: true },
  /** The status of a task they share, or that stands in an engagement they lead. */
  status: { isOn: false },
} as const satisfies Readonly<Record<string, { readonly isOn: boolean }>>;

export type NoticeKind = keyof typeof NOTICE_KINDS;
export const NOTICE_KIND = Object.keys(NOTICE_KINDS) as readonly NoticeKind[];

/** What notices are grouped by. */
export const NOTICE_THING = ['task', 'handoff', 'engagement'] as const;
export type NoticeThing = (typeof NOTICE_THING)[number];
