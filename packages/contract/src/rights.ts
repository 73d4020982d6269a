import type { Access } from './words.ts';

/** How far a right reaches: to everything of the agency, to what is one's own, or to nothing. */
export type Reach = 'all' | 'own' | 'none';

type Row = Readonly<Record<Access, Reach>>;

const NOBODY: Row = { owner: 'none', lead: 'none', member: 'none', freelancer: 'none', client: 'none' };
const OWNERS: Row = { ...NOBODY, owner: 'all' };
const LEADS: Row = { ...OWNERS, lead: 'all' };
const STAFF: Row = { ...LEADS, member: 'all' };
const CREW: Row = { ...STAFF, freelancer: 'all' };
const EVERYBODY: Row = { ...CREW, client: 'all' };
/** Owners, leads and members do it for everybody's things, a freelancer for their own. */
const STAFF_OR_OWN: Row = { ...STAFF, freelancer: 'own' };
/** Leads do it for everybody, the rest of the crew for themselves. */
const LEADS_OR_OWN: Row = { ...LEADS, member: 'own', freelancer: 'own' };

/**
 * Every action, and how far each access may go with it. What `own` means follows from the action: a
 * task one is assigned to, one's own time, the handoff one receives. Whether somebody sees a thing is
 * a condition in the query that reads it, made from the same table.
 */
export const RIGHTS = {
  /** Signing in and out, what concerns one's own account, and hearing of changes. */
  'account.use': EVERYBODY,
  'agency.read-settings': STAFF,
  'agency.edit-settings': OWNERS,
  'calendar.read': CREW,
  'calendar.edit': LEADS,
  'client.read': STAFF,
  'client.edit': LEADS,
  /** What a client's contact sees of the engagements of that client. */
  'client-page.read': { ...NOBODY, client: 'own' },
  'crew.read': STAFF,
  'crew.edit': LEADS,
  /** Making somebody owner, or taking that access away. */
  'crew.edit-owners': OWNERS,
  'desk.read': LEADS_OR_OWN,
  'desk.edit': LEADS_OR_OWN,
  'engagement.read': { ...STAFF_OR_OWN, client: 'own' },
  /** Starting an engagement, editing its name and promise, ending it, its template and its phases. */
  'engagement.edit': LEADS,
  /** Lists and pages of engagements as a whole. */
  'engagement.open': STAFF,
  /** The plan of one engagement; for a freelancer only their own tasks of it. */
  'engagement.read-plan': STAFF_OR_OWN,
  'field.read': CREW,
  'field.edit': LEADS,
  'file.add': CREW,
  'file.read': STAFF_OR_OWN,
  'forecast.use': STAFF,
  /** A freelancer reads those they give or receive. */
  'handoff.read': STAFF_OR_OWN,
  'handoff.hand-off': STAFF_OR_OWN,
  /** Picking up, sending back or passing on a handoff one receives. */
  'handoff.receive': LEADS_OR_OWN,
  /** Handing off although the gate is not clear, with a reason. */
  'handoff.pass-gate': LEADS,
  /** Handoff times, by phase, role and person. */
  'handoff.speed': STAFF,
  'history.read': STAFF_OR_OWN,
  'label.read': STAFF,
  'label.edit': LEADS,
  'learn.read': STAFF,
  'learn.apply': LEADS,
  /** The action behind a link in a mail. */
  'mail.open': CREW,
  /** What was sent to whom, what was answered, and what could not be sent; sending it again. */
  'mail.read': LEADS,
  /** The mail server the agency sends by. */
  'mail.server': OWNERS,
  /** The bundled mailboxes, while mail goes nowhere else. */
  'mailbox.read': LEADS_OR_OWN,
  /** One's own notices, and which of them one gets. */
  'notice.use': CREW,
  /** Adding, moving, assigning and deleting tasks. */
  'plan.edit': STAFF,
  'plan.undo': STAFF_OR_OWN,
  /** Seeing who else has a page open that one may see, and being seen there. */
  'presence.use': CREW,
  'role.edit': LEADS,
  /** Rules, what they did and what they would do. */
  'rule.read': STAFF,
  'rule.edit': LEADS,
  /** The log of sign-ins, refusals and changes of rights. */
  'security.read': OWNERS,
  'series.read': STAFF,
  'series.edit': LEADS,
  'task-series.edit': STAFF,
  'task.read': STAFF_OR_OWN,
  /** Status, steps, files and custom fields: what changes while somebody does a task. */
  'task.work-on': STAFF_OR_OWN,
  'template.read': STAFF,
  'template.edit': LEADS,
  'time.read': LEADS_OR_OWN,
  'time.edit': LEADS_OR_OWN,
  'time.read-crew': LEADS,
  /** Closing a period, opening it again, and correcting time that is closed. */
  'time.close': LEADS,
  /** When somebody is away; one's own is always read. */
  'time-off.read': STAFF_OR_OWN,
  'time-off.edit': LEADS_OR_OWN,
  'timer.use': CREW,
  /** Programs elsewhere that receive events. */
  'webhook.edit': OWNERS,
  'week-plan.edit': STAFF,
  'workload.read': STAFF,
  /** Trying an engagement that does not exist on the load. */
  'workload.try': LEADS,
} satisfies Readonly<Record<string, Row>>;

export type Action = keyof typeof RIGHTS;

/** Who asks for a right: a person or a client, or a job of the server, which may do everything. */
export type RightsHolder = { readonly access: Access; readonly personId: string | null } | { readonly job: string };

/** Whose a thing is: the people it belongs to. */
export interface Subject {
  readonly personIds: readonly (string | null | undefined)[];
}

/** How far somebody may go with an action. */
export const reachOf = (actor: RightsHolder, action: Action): Reach => ('job' in actor ? 'all' : RIGHTS[action][actor.access]);

/**
 * Whether somebody may do something, in general or to one thing. Without a subject it answers whether
 * they may do it to anything at all, such as their own things.
 */
export function can(actor: RightsHolder, action: Action, subject?: Subject): boolean {
  const reach = reachOf(actor, action);
  if (reach !== 'own' || subject === undefined || 'job' in actor) return reach !== 'none';
  return actor.personId !== null && subject.personIds.includes(actor.personId);
}

/** The thing belongs to this person. */
export const of = (...personIds: readonly (string | null | undefined)[]): Subject => ({ personIds });
