import { isDeepStrictEqual } from 'node:util';
import { NO_WORK_EVENTS, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { PhaseImages, PhaseRow, PhasesChanged } from '../engagement/phase-images.ts';
import { firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { BatchEvent } from './undo-change.ts';

/** Refuses to restore phases when anybody has handed one off, or confirmed a check, since. */
export function refusePassedSince(now: PhaseImages, { after }: PhasesChanged): void {
  const sorted = <Row extends { readonly id: string }>(rows: readonly Row[]): Row[] =>
    [...rows].sort((left, right) => (left.id < right.id ? -1 : 1));
  const ofPhase = ({ phases, checks, handoffs }: PhaseImages, id: string): unknown[] => [
    withoutBaseline(phases.find((phase) => phase.id === id)),
    sorted(checks.filter((check) => check.phase_id === id)),
    // Its version tells that it was passed; the moment is written in more than one way, and a rule may have put it on a desk.
    sorted(handoffs.filter((handoff) => handoff.from_phase_id === id).map((handoff) => ({ ...handoff, since: null, ready_for_ids: [] }))),
  ];
  const met = after.phases.find(({ id }) => !isDeepStrictEqual(ofPhase(now, id), ofPhase(after, id)));
  if (met === undefined) return;
  throw new Refusal(
    'changed-meanwhile',
    `“${met.name}” was changed or handed on since. Undoing would take that back too, so nothing was undone.`,
  );
}

/** Keeping a baseline changes no phase. */
const withoutBaseline = (phase: PhaseRow | undefined): object | undefined =>
  phase === undefined ? undefined : { ...phase, baseline_start: null, baseline_finish: null };

/** A phase that began with the turn of a handoff: tasks were given and planned in it. */
const BEGUN = new Set<EventKind>(['phase-started', 'phase-reopened']);

const WORKED_ON = `
  SELECT p.name FROM phase p WHERE p.id = ANY($1) AND EXISTS (
    SELECT 1 FROM task t JOIN event v ON v.subject_id = t.id AND v.id > $2 AND v.kind <> ALL($3) AND v.actor_kind <> 'rule' AND v.undone_by_id IS NULL AND v.undoes_id IS NULL
    WHERE t.phase_id = p.id) LIMIT 1`;

/** Refuses to undo a handoff when the phase it started has been worked on since; changes by rules do not count as work. */
export async function refuseWorkedOnSince(manager: EntityManager, events: readonly BatchEvent[]): Promise<void> {
  const begun = events.filter(({ kind }) => BEGUN.has(kind)).map(({ subjectId }) => subjectId);
  const last = events.at(-1)?.id;
  const met = begun.length === 0 ? null : await firstRow<{ name: string }>(manager, WORKED_ON, [begun, last, NO_WORK_EVENTS]);
  if (met === null) return;
  throw new Refusal('changed-meanwhile', `“${met.name}” has been worked on since. Undoing would leave that behind, so nothing was undone.`);
}
