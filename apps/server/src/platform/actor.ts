import type { ActorKind, ActingJob } from '@crew/contract';
import type { Who } from './rights.ts';

/** A job of the server that changes something by itself, named for the history. */
export interface JobActor {
  readonly job: ActingJob;
}

/** Who changes something: somebody who is signed in, or a job. */
export type Actor = Who | JobActor;

/** Who changes something, and when. */
export interface By {
  readonly actor: Actor;
  readonly at: Date;
  /** The event that brought this about, where it was none of the same transaction. */
  readonly causeId?: string | null;
}

export const isJob = (actor: Actor): actor is JobActor => 'job' in actor;

export function actorKind(actor: Actor): ActorKind {
  if (isJob(actor)) return 'job';
  return actor.personId === null ? 'contact' : 'person';
}
