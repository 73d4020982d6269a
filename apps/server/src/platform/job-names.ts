import type { EntityManager } from 'typeorm';
import { rowsOf } from './database.ts';

/** Every job with what it is told. */
export interface JobPayloads {
  /** Computes one engagement as of today. */
  'refresh-engagement': { readonly engagementId: string };
  /** Asks for that for every open engagement, because overdue depends on the day. */
  'refresh-all': Record<string, never>;
  /** Asks for that what repeats is made ahead, where today has not been settled yet. */
  'repeat-all': Record<string, never>;
  /** Makes the repeating tasks of one engagement ahead. */
  'repeat-tasks': { readonly engagementId: string };
  /** Makes the engagements of one series ahead. */
  'repeat-engagements': { readonly seriesId: string };
  /** Brings the forecasts of open engagements up to date. */
  'forecast-all': Record<string, never>;
  /** Looks at events nobody has looked at yet: those of a process that ended in between. */
  'follow-events': Record<string, never>;
  /** Carries out what rules decided at an event. */
  'carry-out-rules': { readonly eventId: string };
  /** Looks whether dates or hours that rules wait for are reached. */
  'reach-marks': Record<string, never>;
  /** Reminds whoever has held a handoff for long, then the lead. */
  remind: Record<string, never>;
  /** Mails a link to choose a new password, if somebody signs in by this address. */
  'send-access-link': { readonly email: string; readonly origin: { readonly ip: string; readonly userAgent: string } };
  /** Sends one mail. */
  'send-mail': { readonly mailId: string };
  /** Makes one call of a webhook. */
  'call-webhook': { readonly deliveryId: string };
  /** Does what an answer by mail asks for. */
  'act-on-mail': { readonly replyId: string };
  /** Mails notices that are due, and digests. */
  'mail-notices': Record<string, never>;
  /** Removes mail that is older than it is kept. */
  'prune-mail': Record<string, never>;
  /** Removes notices that were read long ago. */
  'prune-notices': Record<string, never>;
  /** Removes history that is older than it is kept. */
  'prune-history': Record<string, never>;
  /** Removes files that belong to nothing. */
  'sweep-files': Record<string, never>;
  /** Removes what is kept for a time only. */
  prune: Record<string, never>;
}

export type JobName = keyof JobPayloads;

/** Every job; each is done by one area. */
export const JOB_NAMES = Object.keys({
  ...{ 'refresh-engagement': 0, 'refresh-all': 0, 'repeat-all': 0, 'repeat-tasks': 0, 'repeat-engagements': 0 },
  ...{
    'follow-events': 0,
    'carry-out-rules': 0,
    'reach-marks': 0,
    'send-mail': 0,
    'call-webhook': 0,
    'act-on-mail': 0,
    'send-access-link': 0,
    'mail-notices': 0,
    'prune-mail': 0,
    'prune-notices': 0,
    remind: 0,
    'forecast-all': 0,
    'prune-history': 0,
    'sweep-files': 0,
    prune: 0,
  },
} satisfies Record<JobName, 0>) as JobName[];

/**
 * Asks for a job in the transaction of the change that needs it: rolled back together, done
 * together. A job with a key that is waiting already is not asked for twice.
 */
export async function addJob<Name extends JobName>(
  manager: EntityManager,
  job: { readonly name: Name; readonly payload: JobPayloads[Name]; readonly key?: string },
): Promise<void> {
  await rowsOf(manager, 'SELECT graphile_worker.add_job($1, payload := $2::json, job_key := $3)', [
    job.name,
    JSON.stringify(job.payload),
    job.key ?? null,
  ]);
}

/** Asks for the plan of each of these engagements, once each however often it is asked for. */
export async function addRefreshJobs(manager: EntityManager, engagementIds: readonly string[]): Promise<void> {
  await rowsOf(
    manager,
    `SELECT graphile_worker.add_job('refresh-engagement', payload := json_build_object('engagementId', id), job_key := 'refresh ' || id)
     FROM unnest($1::uuid[]) AS id`,
    // In one order, or two who ask for the same plans wait for each other in the queue's own table.
    [[...engagementIds].sort()],
  );
}

/** Asks for what repeats to be settled anew, because its rule, calendar or template is another: units, and what is coming. */
export async function addSeriesJobs(
  manager: EntityManager,
  {
    agencyId,
    templateId = null,
    seriesId = null,
  }: { readonly agencyId: string; readonly templateId?: string | null; readonly seriesId?: string | null },
): Promise<void> {
  await rowsOf(
    manager,
    `SELECT graphile_worker.add_job('repeat-engagements', payload := json_build_object('seriesId', s.id), job_key := 'repeat ' || s.id)
     FROM (SELECT id FROM engagement_series WHERE agency_id = $1 AND ($2::uuid IS NULL OR template_id = $2) AND ($3::uuid IS NULL OR id = $3) ORDER BY id) s`,
    [agencyId, templateId, seriesId],
  );
}
