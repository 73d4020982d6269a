import type { ActorKind, ActingJob } from '@crew/contract';
import type { Who } from './rights.ts';

/** A job of the server that changes something by itself, named for the history. */
export interface JobActor {
  readonly job: ActingJob;
}

/** Who changes something: somebody who is signed in, a rule, or a job. */
export type Actor = Who | JobActor;

/** Who changes something, and when. */
export interface By {
  readonly actor: Actor;
  readonly at: Date;
  /** The event that brought this about, where it was none of the same transaction. */
  readonly causeId?: string | null;
  /** The run of a rule that led here, where it was not the actor itself. */
  readonly runId?: string | null;
}

export const isJob = (actor: Actor): actor is JobActor => 'job' in actor;

export function actorKind(actor: Actor): ActorKind {
  if (isJob(actor)) return 'job';
  if (actor.rule !== undefined) return 'rule';
  return actor.personId === null ? 'contact' : 'person';
}
