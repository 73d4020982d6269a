/** Where a notice appears: in the bell, in a mail of its own, in the daily digest. */
export const NOTICE_CHANNEL = ['screen', 'mail', 'digest'] as const;
export type NoticeChannel = (typeof NOTICE_CHANNEL)[number];
type Channels = Readonly<Record<NoticeChannel, boolean>>;

const NONE: Channels = { screen: false, mail: false, digest: false };
const SCREEN: Channels = { ...NONE, screen: true };
const DIGEST: Channels = { ...SCREEN, digest: true };
/** What somebody waits for. */
const MAIL: Channels = { ...SCREEN, mail: true };

/** What somebody is told of, and where when they have chosen nothing. The more important first: of one event a person gets one notice. */
export const NOTICE_KINDS = {
  /** A handoff was given to them. */
  'handed-off': MAIL,
  /** What they handed off came back with a question. */
  'sent-back': MAIL,
  /** Somebody answered a mail about what is theirs. */
  'mail-received': MAIL,
  /** A handoff of theirs can be handed off: a rule put it on their desk. */
  'handoff-ready': DIGEST,
  /** A rule of the agency sends them a message. */
  told: DIGEST,
  /** A handoff has been with them for long, or with somebody in an engagement they lead. */
  reminder: MAIL,
  /** A task of theirs, or in an engagement they lead, is overdue or has waited for long. */
  overdue: DIGEST,
  /** A task of theirs is done without time logged by them. */
  unlogged: SCREEN,
  /** A task was assigned to them. */
  assigned: DIGEST,
  /** A task is no longer theirs. */
  unassigned: SCREEN,
  /** Nothing is open before a task of theirs any more. */
  ready: DIGEST,
  /** A task of theirs was rescheduled because of what somebody did. */
  moved: DIGEST,
  /** The promise of an engagement they lead or work in changed. */
  promise: DIGEST,
  /** An engagement they lead or work in began, ended or goes through another round. */
  engagement: DIGEST,
  /** Somebody picked up what they handed off. */
  'picked-up': SCREEN,
  /** The status of a task they share, or of one in an engagement they lead, changed. */
  status: NONE,
} as const satisfies Readonly<Record<string, Channels>>;

export type NoticeKind = keyof typeof NOTICE_KINDS;
export const NOTICE_KIND = Object.keys(NOTICE_KINDS) as readonly NoticeKind[];

/** What notices are grouped by. */
export const NOTICE_THING = ['task', 'handoff', 'engagement'] as const;
export type NoticeThing = (typeof NOTICE_THING)[number];
