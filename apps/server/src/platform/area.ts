import type { Type } from '@nestjs/common';
import type { JobName, JobPayloads } from './job-names.ts';

/** A job of an area: who does it, and when it is asked for by itself. */
export interface AreaJob {
  readonly name: JobName;
  readonly by: Type<unknown>;
  readonly run: (handler: never, payload: never) => Promise<void>;
  /** As a line of a crontab, in UTC. */
  readonly at?: string;
}

/** What an area adds to the server: its manifest, in `x.module.ts`. A new area is one more line in `areas.ts`. */
export interface Area {
  readonly controllers?: readonly Type<unknown>[];
  readonly providers?: readonly Type<unknown>[];
  readonly entities?: readonly Type<object>[];
  readonly jobs?: readonly AreaJob[];
}

/** Under which the jobs of all areas are given to whoever runs them. */
export const AREA_JOBS = Symbol('jobs of all areas');

/** A job whose handler takes what the job is told. */
export const job = <Name extends JobName, Handler>(declared: {
  readonly name: Name;
  readonly by: Type<Handler>;
  readonly run: (handler: Handler, payload: JobPayloads[Name]) => Promise<void>;
  readonly at?: string;
}): AreaJob => declared as unknown as AreaJob;
