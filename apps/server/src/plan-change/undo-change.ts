import { Inject, Injectable } from '@nestjs/common';
import { ModuleRef } from '@nestjs/core';
import {
  DERIVED_EVENTS,
  NO_WORK_EVENTS,
  reachOf,
  TURN_EVENTS,
  type ChangeUndone,
  type EventFacts,
  type EventKind,
  type FieldChange,
  type FieldKept,
  type TaskField,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { CAN_BE_UNDONE, undoableBy, type UndoesOwn } from '../activity/undoable.ts';
import { batchOf, markAsUndoing, record, type NewEvent } from '../activity/record.ts';
import { AREA_UNDOING, type AreaUndoing } from '../platform/area.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency, lockEngagements } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { settleTaskSeries } from '../series/settle-tasks.ts';
import type { PhasesChanged } from '../engagement/phase-images.ts';
import { refuseAtRest } from '../engagement/refuse-at-rest.ts';
import { applyEdit } from './apply-edit.ts';
import { readPlanImage, type PlanImage } from './plan-image.ts';
import { editOfUndo, planUndo, type Restorable, type Undoing } from './plan-undo.ts';
import { refusePassedSince, refuseWorkedOnSince } from './refuse-passed-since.ts';
import { undoRoles } from './undo-roles.ts';
import { undoEngagement } from './undo-engagement.ts';
import { writePlan } from './write-plan.ts';

/** An event of a batch, as undoing reads it. */
export interface BatchEvent {
  readonly id: string;
  readonly kind: EventKind;
  readonly accountId: string | null;
  readonly engagementId: string | null;
  readonly subjectId: string;
  readonly changes: readonly FieldChange[];
  readonly payload: Readonly<Record<string, unknown>>;
  readonly facts: EventFacts;
  readonly undoneById: string | null;
  readonly undoesId: string | null;
}

const BATCH = `
  SELECT id::text AS id, kind, account_id AS "accountId", engagement_id AS "engagementId", subject_id AS "subjectId", changes, payload, facts, undone_by_id AS "undoneById", undoes_id AS "undoesId"
  FROM event WHERE agency_id = $2 AND (batch_id = $1 OR (kind = 'task-rescheduled' AND NOT payload ? 'causes' AND undone_by_id IS NULL
    AND cause_id IN (SELECT c.id FROM event c WHERE c.batch_id = $1))) ORDER BY event.id`;

/** Whether what followed from this batch's status followed from others too: then nobody can tell what was whose. */
const SHARED = `
  SELECT 1 FROM event c JOIN event v ON v.engagement_id = c.engagement_id AND v.id > c.id AND v.kind = 'task-rescheduled' AND v.payload ? 'causes'
  WHERE c.batch_id = $1 LIMIT 1`;

/** What a batch did to one engagement. */
interface Part {
  readonly engagementId: string;
  readonly events: readonly BatchEvent[];
}

/**
 * Undoes everything one transaction changed, by field: a field is restored where it still has the
 * value the change gave it. What somebody changed since stays, and is answered by name; so do tasks
 * the change made that somebody has worked on. Phases, gates and handoffs are restored as a whole, or
 * the undo is refused. The undo is a batch of its own: undoing it brings the change back. Undoing
 * twice is refused.
 */
@Injectable()
export class UndoChange {
  private readonly database: Database;
  private readonly own: readonly AreaUndoing[];
  private readonly modules: ModuleRef;
  private readonly clock: Clock;
  constructor(database: Database, @Inject(AREA_UNDOING) own: readonly AreaUndoing[], modules: ModuleRef, clock: Clock) {
    this.database = database;
    this.own = own;
    this.modules = modules;
    this.clock = clock;
  }

  run(who: Who, batchId: string): Promise<ChangeUndone> {
    return this.database.transaction(async (manager) => {
      const read = (): Promise<BatchEvent[]> => rowsOf<BatchEvent>(manager, BATCH, [batchId, who.agencyId]);
      const all = await read();
      const own = this.own.find(({ kinds }) => all.length > 0 && all.every(({ kind }) => kinds.includes(kind)));
      if (own !== undefined) return this.undoByOwnRules(manager, who, { batchId, read, own });
      const parts = inEngagements(all);
      await refuseOthers(manager, who, parts);
      await lockEngagements(
        manager,
        parts.map((part) => part.engagementId),
      );
      await refuseAtRest(
        manager,
        parts.map((part) => part.engagementId),
      );
      // Read again under the locks: somebody may have undone it a moment ago.
      const events = await read();
      refuseWhole(events);
      markAsUndoing(manager, batchId);
      const undone: Undone[] = [];
      const isShared = (await firstRow(manager, SHARED, [batchId])) !== null;
      for (const part of inEngagements(events)) undone.push(await this.undo(manager, who, { ...part, isShared }));
      const kept = undone.flatMap((part) => part.kept);
      if (undone.every((part) => part.isEmpty)) refuseEmpty(kept);
      await mark(manager, batchId, events);
      return { changeId: batchOf(manager), kept };
    });
  }

  private async undoByOwnRules(
    manager: EntityManager,
    who: Who,
    { batchId, read, own }: { readonly batchId: string; readonly read: () => Promise<BatchEvent[]>; readonly own: AreaUndoing },
  ): Promise<ChangeUndone> {
    await lockAgency(manager, who.agencyId);
    // Read again under the lock: somebody may have undone it a moment ago.
    const events = await read();
    if (events.some(({ undoneById }) => undoneById !== null)) refuseTwice();
    markAsUndoing(manager, batchId);
    const { isAny, kept } = await this.modules.get<UndoesOwn>(own.by, { strict: false }).run(manager, who, events);
    const named = await withNames(manager, kept);
    if (!isAny) refuseEmpty(named);
    await mark(manager, batchId, events);
    return { changeId: batchOf(manager), kept: named };
  }

  private async undo(
    manager: EntityManager,
    who: Who,
    { engagementId, events, isShared }: Part & { readonly isShared: boolean },
  ): Promise<Undone> {
    const by = { actor: who, at: this.clock.now() };
    const before = await readPlanImage(manager, engagementId);
    const phased = events.find(({ kind }) => kind === 'phases-changed');
    const phases = phased?.payload as PhasesChanged | undefined;
    if (phases !== undefined) refusePassedSince(before, phases);
    if (hasTurn(events)) await refuseWorkedOnSince(manager, events);
    const undoing = planUndo(events, before.tasks, await readTouched(manager, events));
    const restorable = await readRestorable(manager, undoing);
    const after = applyEdit(before, editOfUndo(undoing, { present: before.tasks, restorable, phases }));
    const changed = (await writePlan(manager, by, { before, after, isUndoing: true })).map((event) => asTurn(event, phased));
    const engagement = await undoEngagement(manager, engagementId, events);
    const about = { engagementId, subject: 'engagement', subjectId: engagementId } as const;
    const roles = await undoRoles(manager, engagementId, events);
    const written: NewEvent[] = [
      ...changed,
      ...roles.events,
      ...(engagement.changes.length === 0 ? [] : [{ ...about, kind: 'engagement-changed', changes: engagement.changes } as const]),
    ];
    await record(manager, by, written);
    await refreshEngagement(manager, engagementId, {
      ...{
        today: this.clock.today(),
        by,
        changed: [...movedByUndo(undoing, { events, isShared }), ...beginningAnew(undoing, { before, after }), ...engagement.moved],
      },
      returned: undoing.stayed.map(({ id }) => id),
      made: undoing.gone.map(({ id }) => id),
    });
    if (hasTurn(events)) await settleTaskSeries(manager, engagementId, { today: this.clock.today(), by });
    const kept = [...undoing.kept, ...engagement.kept, ...roles.kept];
    return { kept: await withNames(manager, kept), isEmpty: written.length === 0 };
  }
}

/** What a turn of a handoff did to its phases goes back as what it was: the history of the handoff tells of it. */
function asTurn(event: NewEvent, undone: BatchEvent | undefined): NewEvent {
  const turn = undone?.payload['turn'];
  if (event.kind !== 'phases-changed' || undone === undefined || typeof turn !== 'string') return event;
  return { ...event, subject: 'handoff', subjectId: undone.subjectId, payload: { ...event.payload, turn } };
}

interface Undone {
  readonly kept: readonly FieldKept[];
  /** Whether nothing could be restored. */
  readonly isEmpty: boolean;
}

/** The events of a batch by engagement, in the order in which engagements are locked. */
function inEngagements(events: readonly BatchEvent[]): Part[] {
  const ids = [...new Set(events.flatMap(({ engagementId }) => engagementId ?? []))].sort();
  return ids.map((engagementId) => ({ engagementId, events: events.filter((event) => event.engagementId === engagementId) }));
}

const DERIVED = new Set<EventKind>(DERIVED_EVENTS);
const TURNS = new Set<EventKind>(TURN_EVENTS);
/** Whether it is the turn of a handoff, or the undoing of one. */
const hasTurn = (events: readonly BatchEvent[]): boolean => events.some(({ kind, payload }) => TURNS.has(kind) || 'turn' in payload);

/** Refuses a batch that is not there, was undone, or holds something that cannot be. */
function refuseWhole(events: readonly BatchEvent[]): void {
  if (events.length === 0) throw new Refusal('not-found', 'This change is no longer in the history.');
  if (events.some(({ undoneById }) => undoneById !== null)) refuseTwice();
  const isTurn = hasTurn(events);
  // What repeats goes along with the phase that runs: it is asked for again once the turn is undone.
  const cannot = ({ kind, engagementId, payload }: BatchEvent): boolean =>
    engagementId === null || !CAN_BE_UNDONE.has(kind) || (kind === 'task-deleted' && payload['image'] === null && !isTurn);
  // Of turns that were recorded before phases were kept with them nobody knows how to go back.
  if (events.some(cannot) || (isTurn && !events.some(({ kind }) => kind === 'phases-changed')))
    throw new Refusal('wrong-moment', 'This cannot be undone. Change it by hand.');
}

async function refuseOthers(manager: EntityManager, who: Who, parts: readonly Part[]): Promise<void> {
  const events = parts.flatMap((part) => part.events);
  // Whoever took a turn takes it back, with what followed from it.
  if (hasTurn(events) && events.every(({ kind, accountId }) => DERIVED.has(kind) || accountId === who.accountId)) return;
  if (reachOf(who, 'plan.undo') === 'own') {
    const decided = events.filter(({ kind }) => !DERIVED.has(kind));
    const tasks = new Set(decided.map(({ subjectId }) => subjectId));
    const own = await rowsOf(manager, 'SELECT 1 FROM task_assignee WHERE person_id = $1 AND task_id = ANY($2)', [who.personId, [...tasks]]);
    if (own.length < tasks.size) throw new Refusal('not-found', 'This change is no longer in the history.');
  }
  const allowed = new Set(undoableBy(who));
  if (events.some(({ kind }) => CAN_BE_UNDONE.has(kind) && !allowed.has(kind)))
    throw new Refusal('not-allowed', 'Only a lead can undo this. Ask one of them.');
}

/** The batch counts as undone; one that undid another makes that one count again. */
async function mark(manager: EntityManager, batchId: string, events: readonly BatchEvent[]): Promise<void> {
  await rowsOf(manager, 'UPDATE event SET undone_by_id = $2 WHERE batch_id = $1 OR id = ANY($3::bigint[])', [
    ...[batchId, batchOf(manager), events.map(({ id }) => id)],
  ]);
  const undone = events.find(({ undoesId }) => undoesId !== null)?.undoesId ?? null;
  if (undone !== null) await rowsOf(manager, 'UPDATE event SET undone_by_id = NULL WHERE batch_id = $1', [undone]);
}

const TOUCHED = `
  SELECT t.id FROM task t WHERE t.id = ANY($1) AND (
    EXISTS (SELECT 1 FROM event v WHERE v.subject_id = t.id AND v.id > $2 AND v.kind <> ALL($3) AND v.undone_by_id IS NULL AND v.undoes_id IS NULL)
    OR t.logged_minutes > 0 OR EXISTS (SELECT 1 FROM timer m WHERE m.task_id = t.id)
    OR EXISTS (SELECT 1 FROM desk_place d WHERE d.task_id = t.id) OR EXISTS (SELECT 1 FROM task x WHERE x.parent_id = t.id AND x.id <> ALL($1)))`;

/** Those of the tasks a batch made that somebody has changed, logged time on, has a timer on, has put into their week, or has put parts into. */
async function readTouched(manager: EntityManager, events: readonly BatchEvent[]): Promise<ReadonlySet<string>> {
  const made = events.filter(({ kind }) => kind === 'task-added' || kind === 'task-restored').map(({ subjectId }) => subjectId);
  if (made.length === 0) return new Set();
  const last = events.at(-1)?.id;
  const rows = await rowsOf<{ id: string }>(manager, TOUCHED, [made, last, NO_WORK_EVENTS]);
  return new Set(rows.map(({ id }) => id));
}

/**
 * Tasks the planner gives new days: those that do not get all of theirs back, and those whose
 * status goes back, because what followed from it was planned later and is not in the batch.
 */
function movedByUndo(
  { stayed }: Undoing,
  { events, isShared }: { readonly events: readonly BatchEvent[]; readonly isShared: boolean },
): string[] {
  // A status that moved nothing has nothing to restore: its task keeps its own days, overdue ones too.
  const isStatusAlone = events.every(({ kind }) => kind === 'task-status-changed');
  const isPlanned = (isStatusAlone && !isShared) || events.some(({ kind }) => kind === 'task-rescheduled');
  return stayed
    .filter(({ values, parts }) => Object.keys(values).length + Object.keys(parts).length > 0 && values.startDay === undefined)
    .filter(({ values, parts, kept }) => kept.length > 0 || (!isPlanned && (MOVING.some((field) => field in values) || 'after' in parts)))
    .map(({ id }) => id);
}

/** Tasks of phases that begin on another day than a moment ago, except those that get their own days back. */
function beginningAnew({ stayed }: Undoing, { before, after }: { readonly before: PlanImage; readonly after: PlanImage }): string[] {
  const began = new Map(before.phases.map((phase) => [phase.id, phase.started_on]));
  const moved = new Set(after.phases.filter(({ id, started_on }) => began.get(id) !== started_on).map(({ id }) => id));
  const settled = new Set(stayed.filter(({ values }) => values.startDay !== undefined).map(({ id }) => id));
  return after.tasks.filter(({ id, row }) => moved.has(String(row['phase_id'])) && !settled.has(id)).map(({ id }) => id);
}

const MOVING: readonly TaskField[] = ['status', 'days', 'fixedDay', 'notBefore', 'estimateMinutes', 'phaseId', 'parentId', 'anchor'];

const RESTORABLE = `
  SELECT ARRAY(SELECT f.id FROM file f WHERE f.id = ANY($1)) AS files, ARRAY(
    SELECT v.series_id FROM jsonb_to_recordset($2) AS v(series_id uuid, series_day date) JOIN task_series s ON s.id = v.series_id
    WHERE NOT EXISTS (SELECT 1 FROM task t WHERE t.series_id = v.series_id AND t.series_day = v.series_day)) AS series`;

async function readRestorable(manager: EntityManager, { gone, stayed }: Undoing): Promise<Restorable> {
  const files = [...gone.flatMap((image) => image.files), ...stayed.flatMap(({ parts }) => parts.files ?? [])];
  const row = await firstRow<{ files: string[]; series: string[] }>(manager, RESTORABLE, [
    files,
    JSON.stringify(gone.map((image) => image.row)),
  ]);
  return { files: new Set(row?.files), series: new Set<unknown>(row?.series) };
}

/** What is kept, with who last touched the thing it is a field of. */
async function withNames(manager: EntityManager, kept: readonly Omit<FieldKept, 'by'>[]): Promise<FieldKept[]> {
  const rows = await rowsOf<{ id: string; name: string }>(
    manager,
    `SELECT DISTINCT ON (v.subject_id) v.subject_id AS id, coalesce(p.name, k.name) AS name FROM event v JOIN account a ON a.id = v.account_id
     LEFT JOIN person p ON p.id = a.person_id LEFT JOIN contact k ON k.id = a.contact_id
     WHERE v.subject_id = ANY($1) AND v.undoes_id IS NULL AND v.kind <> ALL($2) ORDER BY v.subject_id, v.id DESC`,
    [kept.map(({ subjectId }) => subjectId), NO_WORK_EVENTS],
  );
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return kept.map((field) => ({ ...field, by: names.get(field.subjectId) ?? null }));
}

function refuseTwice(): never {
  throw new Refusal('wrong-moment', 'This has been undone already.');
}

/** Refuses an undo that finds nothing to restore: there would be nothing to redo. */
function refuseEmpty(kept: readonly FieldKept[]): never {
  if (kept.length === 0) throw new Refusal('wrong-moment', 'Everything is as it was before this change already. There is nothing to undo.');
  throw new Refusal('changed-meanwhile', `Everything this changed has been changed again since. ${keptWords(kept)}`, { details: { kept } });
}

const keptWords = (kept: readonly FieldKept[]): string => {
  const [first] = kept as [FieldKept, ...FieldKept[]];
  return `${first.by ?? 'Somebody'} changed “${first.title}”. Change it by hand.`;
};
