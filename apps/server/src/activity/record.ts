import { randomUUID } from 'node:crypto';
import {
  FOLLOWED_EVENTS,
  TOPIC_OF_SUBJECT,
  TOPICS_OF_KIND,
  type EventFacts,
  type EventKind,
  type EventPayloads,
  type EventSubject,
  type FieldChange,
  type Topic,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { actorKind, isJob, type By } from '../platform/actor.ts';
import { announcedBy, announcementOf, CHANGES } from '../platform/announce.ts';
import { rowsOf } from '../platform/database.ts';
import { isTrial } from '../platform/try-out.ts';
import { EVENT_FACTS, EVENT_FACTS_FROM } from './event-facts.ts';

type Carried<Kind extends EventKind> =
  EventPayloads[Kind] extends Readonly<Record<string, never>> ? { readonly payload?: never } : { readonly payload: EventPayloads[Kind] };

/** An event that is to be recorded. */
export type NewEvent = {
  readonly [Kind in EventKind]: Carried<Kind> & {
    readonly kind: Kind;
    readonly engagementId: string | null;
    readonly subject: EventSubject;
    readonly subjectId: string;
    readonly changes?: readonly FieldChange[];
    /** The names of ids in the changes, so that the history can be read when they are gone. */
    readonly names?: Readonly<Record<string, string>>;
    /** Facts that cannot be read from the tables any more, such as the title of what was deleted. */
    readonly facts?: EventFacts;
  };
}[EventKind];

/** The content of an event of one of these kinds, apart from its subject. */
export type EventSaying<Kind extends EventKind> = Kind extends EventKind
  ? Pick<Extract<NewEvent, { readonly kind: Kind }>, 'kind' | 'payload' | 'changes'>
  : never;

/** Columns of an event in the order they are filled. */
const COLUMNS =
  'agency_id, engagement_id, subject, subject_id, kind, payload, changes, facts, actor_kind, account_id, job, cause_id, batch_id, undoes_id, at, is_pending, run_id';

/** The fields of an event as they are sent. */
const GIVEN = `engagement_id uuid, subject text, subject_id uuid, kind text, payload jsonb, changes jsonb, facts jsonb,
  agency_id uuid, actor_kind text, account_id uuid, job text, cause_id bigint, batch_id uuid, at timestamptz, run_id uuid`;

const insertFrom = (source: string, order = ''): string => `
  WITH recorded AS (
    INSERT INTO event (${COLUMNS})
    SELECT coalesce(v.agency_id, e.agency_id), v.engagement_id, v.subject, v.subject_id, v.kind, v.payload, v.changes, ${EVENT_FACTS} || v.facts,
      v.actor_kind, v.account_id, v.job, v.cause_id, v.batch_id, $1, v.at, v.kind = ANY($3), v.run_id
    FROM ${source} ${EVENT_FACTS_FROM} ${order} RETURNING agency_id)
  SELECT pg_notify('${CHANGES}', ${announcementOf('agency_id', '$4', '$5')}) FROM recorded WHERE $4 IS NOT NULL LIMIT 1`;

/** Most changes are one event. For a set the planner expects a hundred, and would read whole tables for their facts. */
const INSERT_EVENT = insertFrom(`jsonb_to_record($2) AS v(${GIVEN})`);
const INSERT_EVENTS = insertFrom(
  `(SELECT * FROM ROWS FROM (jsonb_to_recordset($2) AS (${GIVEN})) WITH ORDINALITY) v`,
  'ORDER BY v.ordinality',
);

/**
 * Keeps what happened and announces it, all of it in one statement: part of the transaction
 * that did it, so that neither can be without the other. This is the only history there is.
 * What is only tried out is not kept.
 */
export function record(manager: EntityManager, by: By, events: readonly NewEvent[]): Promise<void> {
  return events.length === 0 ? Promise.resolve() : recordDeeds(manager, [{ by, batchId: batchOf(manager), events }]);
}

/** What somebody did at one time; it is undone as one by its batch. */
export interface Deed {
  readonly by: By;
  readonly batchId: string;
  readonly events: readonly NewEvent[];
}

/** As `record`, for what was done by several people or at several times and is written together. */
export async function recordDeeds(manager: EntityManager, deeds: readonly Deed[]): Promise<void> {
  const events = deeds.flatMap((deed) => deed.events);
  if (events.length === 0 || isTrial(manager)) return;
  hasRecorded.add(manager);
  const rows = deeds.flatMap((deed) => deed.events.map((event) => ({ ...toOrigin(deed), ...toRow(event) })));
  const announced = announcedBy(topicsOf(events));
  await rowsOf(manager, rows.length === 1 ? INSERT_EVENT : INSERT_EVENTS, [
    undoing.get(manager) ?? null,
    JSON.stringify(rows.length === 1 ? rows[0] : rows),
    FOLLOWED_EVENTS,
    announced?.topics ?? null,
    announced?.window ?? null,
  ]);
}

/** Who did it, when and why, as columns of its events. */
function toOrigin({ by: { actor, at, causeId, runId }, batchId }: Deed): object {
  return {
    agency_id: isJob(actor) ? null : actor.agencyId,
    actor_kind: actorKind(actor),
    account_id: isJob(actor) || actor.rule !== undefined ? null : actor.accountId,
    job: isJob(actor) ? actor.job : null,
    cause_id: causeId ?? null,
    batch_id: batchId,
    at,
    run_id: runId ?? (isJob(actor) ? null : (actor.rule?.runId ?? null)),
  };
}

/** What changes touch: the engagement, or what the kind or subject stands for; and the people whose own it is. */
function topicsOf(events: readonly NewEvent[]): Topic[] {
  const topics = events.flatMap(({ kind, subject, engagementId, payload, changes }): Topic[] => {
    const whole = TOPICS_OF_KIND[kind] ?? [TOPIC_OF_SUBJECT[subject]].filter((topic) => topic !== null);
    const people = [(payload as { readonly personId?: unknown } | undefined)?.personId, ...(changes ?? []).flatMap(assigneesIn)];
    return [
      ...whole,
      ...(engagementId === null ? [] : [`engagement:${engagementId}` as const]),
      ...people.filter((id) => typeof id === 'string').map((id) => `person:${id}` as const),
    ];
  });
  return [...new Set(topics)];
}

/** Whoever was given a task, or is not any more. */
function assigneesIn({ field, from, to }: FieldChange): unknown[] {
  if (field !== 'assignees') return [];
  return [from, to].flatMap((people) => (Array.isArray(people) ? people : [])).map((one: { readonly personId?: unknown }) => one.personId);
}

const batches = new WeakMap<EntityManager, string>();
const hasRecorded = new WeakSet<EntityManager>();
const undoing = new WeakMap<EntityManager, string>();

/** The id under which everything a transaction does is kept, and can be undone as one. */
export function batchOf(manager: EntityManager): string {
  // A single statement without a transaction around it is a batch of its own.
  if (manager.queryRunner === undefined) return randomUUID();
  const id = batches.get(manager) ?? randomUUID();
  batches.set(manager, id);
  return id;
}

/** The id that undoes what a transaction did, or null when it recorded nothing: then nothing was changed. */
export const changeIdOf = (manager: EntityManager): string | null => (hasRecorded.has(manager) ? batchOf(manager) : null);

/** Marks what the transaction records from now on as the undoing of a batch. */
export const markAsUndoing = (manager: EntityManager, batchId: string): unknown => undoing.set(manager, batchId);

function toRow({ engagementId, subject, subjectId, kind, payload, changes, names, facts }: NewEvent): object {
  return {
    ...{ engagement_id: engagementId, subject, subject_id: subjectId, kind, changes: changes ?? [], facts: facts ?? {} },
    payload: { ...(payload as object | undefined), ...(names === undefined ? {} : { names }) },
  };
}

/**
 * For a change that is written in one statement: SQL that records one `task-status-changed`
 * for each row of `source` (id, engagement_id), and announces it. `at` and the rest are
 * placeholders of the statement.
 */
export const recordStatusIn = (
  source: string,
  given: Readonly<Record<'agencyId' | 'accountId' | 'actorKind' | 'changes' | 'facts' | 'batchId' | 'at' | 'window', string>>,
): string => `
  recorded AS (
    INSERT INTO event (${COLUMNS})
    SELECT ${given.agencyId}, v.engagement_id, 'task', v.subject_id, 'task-status-changed', '{}', ${given.changes}, ${EVENT_FACTS} || ${given.facts},
      ${given.actorKind}, ${given.accountId}, NULL, NULL, ${given.batchId}, NULL, ${given.at}, true, NULL
    FROM (SELECT id AS subject_id, engagement_id, 'task' AS subject FROM ${source}) v ${EVENT_FACTS_FROM} RETURNING engagement_id)
  SELECT pg_notify('${CHANGES}', ${announcementOf(given.agencyId, "'engagement:' || engagement_id::text", given.window)}) FROM recorded`;
