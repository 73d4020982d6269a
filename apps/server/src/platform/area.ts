import type { Type } from '@nestjs/common';
import type { CommandInput, CommandName, EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { JobName, JobPayloads } from './job-names.ts';
import type { Who } from './rights.ts';

/** A job of an area: who does it, and when it is asked for by itself. */
export interface AreaJob {
  readonly name: JobName;
  readonly by: Type<unknown>;
  readonly run: (handler: never, payload: never, signal: AbortSignal) => Promise<void>;
  /** As a line of a crontab, in UTC. */
  readonly at?: string;
  /** It may take longer than the time between two: one runs at a time in all processes, and one waits at most. */
  readonly isAlone?: boolean;
}

/** A command of an area: the use case that carries it out. */
export interface AreaCommand {
  readonly name: CommandName;
  readonly by: Type<unknown>;
  readonly run: (useCase: never, who: Who, asked: never) => Promise<unknown>;
}

/** Who follows the stream of events: it is told once of each event of these kinds, in the transaction that takes note of it. */
export interface AreaFollower {
  readonly kinds: readonly EventKind[];
  readonly by: Type<Follower>;
}

/** An event that has to be looked at. */
export interface PendingEvent {
  readonly id: string;
  readonly agencyId: string;
  readonly kind: EventKind;
}

/** Looks at events, a number of them at once. */
export interface Follower {
  readonly follow: (manager: EntityManager, events: readonly PendingEvent[]) => Promise<void>;
}

/** Who undoes changes of an area that concern no engagement. */
export interface AreaUndoing {
  readonly kinds: readonly EventKind[];
  readonly by: Type<unknown>;
}

/** What an area adds to the server: its manifest, in `x.module.ts`. A new area is one more line in `areas.ts`. */
export interface Area {
  readonly controllers?: readonly Type<unknown>[];
  readonly providers?: readonly Type<unknown>[];
  readonly entities?: readonly Type<object>[];
  readonly jobs?: readonly AreaJob[];
  readonly commands?: readonly AreaCommand[];
  readonly followers?: readonly AreaFollower[];
  readonly undoing?: readonly AreaUndoing[];
}

/** Under which the jobs of all areas are given to whoever runs them. */
export const AREA_JOBS = Symbol('jobs of all areas');

/** Under which the commands of all areas are given to `RunCommand`. */
export const AREA_COMMANDS = Symbol('commands of all areas');

/** Under which the followers of all areas are given to `FollowEvents`. */
export const AREA_FOLLOWERS = Symbol('followers of all areas');

/** Under which those of all areas are given to whoever undoes changes. */
export const AREA_UNDOING = Symbol('what areas undo by rules of their own');

/** A command whose use case takes the command's target and input. */
export const commandBy = <Name extends CommandName, UseCase>(declared: {
  readonly name: Name;
  readonly by: Type<UseCase>;
  readonly run: (useCase: UseCase, who: Who, asked: { readonly target: string; readonly input: CommandInput<Name> }) => Promise<unknown>;
}): AreaCommand => declared as unknown as AreaCommand;

/** A job whose handler takes what the job is told, and stops early when the server does. */
export const job = <Name extends JobName, Handler>(declared: {
  readonly name: Name;
  readonly by: Type<Handler>;
  readonly run: (handler: Handler, payload: JobPayloads[Name], signal: AbortSignal) => Promise<void>;
  readonly at?: string;
  readonly isAlone?: boolean;
}): AreaJob => declared as unknown as AreaJob;
