import { ENGAGEMENT_IN_COLOUR } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import {
  DERIVED_EVENTS,
  HISTORY_PARTS,
  type HistoryPart,
  type EventKind,
  type FieldChange,
  type HistoryLine,
  type HistoryPage,
} from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { eventSeenBy } from '../platform/visible.ts';
import { canUndoBatch, undoableBy } from './undoable.ts';

/** Which part of the history is asked for; what is left out does not filter. */
export interface HistoryQuery {
  /** All that one change did. */
  readonly changeId?: string;
  readonly subject?: { readonly kind: string; readonly id: string };
  readonly engagementId?: string;
  readonly personId?: string;
  readonly part?: HistoryPart;
  /** Only what this rule did. */
  readonly ruleId?: string;
  /** Only what happened on these days of the agency, both included. */
  readonly from?: IsoDay;
  readonly to?: IsoDay;
  /** Only what is older than this event. */
  readonly before?: string;
}

const PAGE = 30;

/** Left out: tasks moved because another was put before them, and marks that only rules wait for. */
const UNTOLD: readonly EventKind[] = ['task-reordered', 'day-reached', 'hours-reached'];

const CAN_UNDO = canUndoBatch({ kinds: '$1', account: '$4' });

/** The events that are listed. Phase changes made by a handoff are told by the handoff's own event; they stand for it once it is undone. */
const told = (event: string): string => `${event}.kind <> ALL($2) AND NOT (${event}.payload ? 'turn' AND ${event}.undoes_id IS NULL)`;

const SHOWN_WITH = `b.batch_id = v.batch_id AND b.engagement_id IS NOT DISTINCT FROM v.engagement_id AND ${told('b')}`;

/** Undoing an undo is a redo. */
const IS_UNDOING = `(v.undoes_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM event o WHERE o.batch_id = v.undoes_id AND o.undoes_id IS NOT NULL))`;

/** The line that stands for all a change did to an engagement: the first that somebody decided, else the first. */
const IS_HEAD = `(v.batch_id IS NULL OR NOT EXISTS (SELECT 1 FROM event b WHERE ${SHOWN_WITH} AND (b.kind = ANY($3), b.id) < (v.kind = ANY($3), v.id)))`;

const LINES = (isFolded: boolean): string => `
  SELECT v.id::text AS id, v.at, coalesce(v.payload->>'turn', v.kind) AS kind, v.changes, v.payload, v.batch_id AS "changeId", v.undone_by_id AS "redoId", v.run_id AS "runId",
    ${IS_UNDOING} AS "isUndoing", ${CAN_UNDO} AS "canUndo",
    ${isFolded ? `(SELECT count(*)::int FROM event b WHERE ${SHOWN_WITH} AND b.id <> v.id)` : '0'} AS effects,
    json_build_object('kind', v.actor_kind, 'job', v.job, 'name', coalesce(w.name, k.name),
      'person', CASE WHEN w.id IS NOT NULL THEN json_build_object('id', w.id, 'name', w.name, 'initials', w.initials) END) AS by,
    json_build_object('kind', v.subject, 'id', v.subject_id,
      'name', coalesce(v.facts->>'task', v.facts->>'name', v.facts->>'phase', v.facts->>'engagementName')) AS subject,
    CASE WHEN e.id IS NOT NULL THEN ${ENGAGEMENT_IN_COLOUR} END AS engagement
  FROM event v LEFT JOIN account y ON y.id = v.account_id LEFT JOIN person w ON w.id = y.person_id LEFT JOIN contact k ON k.id = y.contact_id
  LEFT JOIN engagement e ON e.id = v.engagement_id LEFT JOIN client c ON c.id = e.client_id`;

interface Row extends Omit<HistoryLine, 'note'> {
  readonly payload: { readonly names?: Readonly<Record<string, string>> } & Readonly<Record<string, unknown>>;
}

/** Reads the history: of a thing, an engagement, a person's doings, or everything; the newest first. */
@Injectable()
export class ReadHistory {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** 30 lines at most. What one change did to an engagement is one line, unless a thing or a change is asked for. */
  async page(who: Who, query: HistoryQuery): Promise<HistoryPage> {
    // For a thing, a change or a kind of event, each event is a line.
    const isFolded = query.subject === undefined && query.changeId === undefined && query.part === undefined && query.ruleId === undefined;
    const values: unknown[] = [undoableBy(who), UNTOLD, DERIVED_EVENTS, who.accountId];
    const seen = eventSeenBy(who, values.length + 1);
    values.push(...seen.values);
    const conditions = [told('v'), '$3::text[] IS NOT NULL', '$4::uuid IS NOT NULL', seen.sql, ...(isFolded ? [IS_HEAD] : [])];
    const also = (condition: (place: string) => string, value: unknown): void => {
      if (value === undefined) return;
      values.push(value);
      conditions.push(condition(`$${values.length}`));
    };
    also((place) => `v.batch_id = ${place}`, query.changeId);
    also((place) => `v.subject_id = ${place}`, query.subject?.id);
    also((place) => `v.subject = ${place}`, query.subject?.kind);
    also((place) => `v.engagement_id = ${place}`, query.engagementId);
    also((place) => `w.id = ${place}`, query.personId);
    also(
      (place) => `coalesce(v.payload->>'turn', v.kind) = ANY(${place})`,
      query.part === undefined ? undefined : HISTORY_PARTS[query.part],
    );
    also((place) => `v.actor_kind = 'rule' AND v.run_id IN (SELECT r.id FROM rule_run r WHERE r.rule_id = ${place})`, query.ruleId);
    if (query.from !== undefined || query.to !== undefined) values.push(this.clock.zone);
    const zone = `$${values.length}`;
    also((place) => `v.at >= ${place}::date::timestamp AT TIME ZONE ${zone}`, query.from);
    also((place) => `v.at < (${place}::date + 1)::timestamp AT TIME ZONE ${zone}`, query.to);
    also((place) => `v.id < ${place}::bigint`, query.before);
    const sql = `${LINES(isFolded)} WHERE ${conditions.join(' AND ')} ORDER BY v.id DESC LIMIT ${PAGE + 1}`;
    const rows = await this.database.rows<Row>(sql, values);
    const lines = rows.slice(0, PAGE).map(toLine);
    return { lines, before: rows.length > PAGE ? (lines.at(-1)?.id ?? null) : null };
  }
}

function toLine({ payload, changes, ...line }: Row): HistoryLine {
  const names = payload.names ?? {};
  const inWords = (field: string, value: unknown): unknown => wordsFor(field, value, names);
  return {
    ...line,
    changes: (changes as readonly FieldChange[]).map(({ field, from, to }) => ({
      field,
      from: inWords(field, from),
      to: inWords(field, to),
    })),
    note: noteOf(payload),
  };
}

/** A value with its ids replaced by what they were called: people, files, and what is waited for as "FS Sketch +2". */
function wordsFor(field: string, value: unknown, names: Readonly<Record<string, string>>): unknown {
  const nameOf = (id: unknown): string => names[String(id)] ?? 'something removed since';
  if (Array.isArray(value)) {
    if (field === 'assignees') return (value as { personId: string }[]).map(({ personId }) => nameOf(personId));
    if (field === 'files' || field === 'clients') return value.map((id: unknown) => names[String(id)] ?? id);
    if (field === 'after')
      return value.map((dependency: unknown) =>
        typeof dependency === 'string' ? dependency : dependencyWords(dependency as Dependency, nameOf),
      );
    return value;
  }
  return typeof value === 'string' ? (names[value] ?? value) : value;
}

interface Dependency {
  readonly taskId: string;
  readonly type: string;
  readonly lag: number;
}

const dependencyWords = ({ taskId, type, lag }: Dependency, nameOf: (id: string) => string): string =>
  `${type} ${nameOf(taskId)}${lag === 0 ? '' : ` ${lag > 0 ? '+' : '−'}${Math.abs(lag)}`}`;

/** The text that came with an event: a message or a question, else a reason, else the name of a step, a check or a part. */
function noteOf(payload: Readonly<Record<string, unknown>>): string | null {
  const texts = ['words', 'reason', 'lateReason', 'title', 'text', 'name', 'note', 'to'].map((key) => payload[key]);
  return texts.find((text): text is string => typeof text === 'string' && text !== '') ?? null;
}
