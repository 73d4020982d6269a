import { isDeepStrictEqual } from 'node:util';
import type { PhaseImages, PhaseRow, PhasesChanged } from '../engagement/phase-images.ts';
import { Refusal } from '../platform/refusal.ts';

/** Refuses to put phases back when anybody has handed one on, or confirmed a check, since. */
export function refusePassedSince(now: PhaseImages, { after }: PhasesChanged): void {
  const sorted = <Row extends { readonly id: string }>(rows: readonly Row[]): Row[] =>
    [...rows].sort((left, right) => (left.id < right.id ? -1 : 1));
  const ofPhase = ({ phases, checks, handoffs }: PhaseImages, id: string): unknown[] => [
    withoutBaseline(phases.find((phase) => phase.id === id)),
    sorted(checks.filter((check) => check.phase_id === id)),
    // Its version tells that it was passed; the moment is written in more than one way.
    sorted(handoffs.filter((handoff) => handoff.from_phase_id === id).map((handoff) => ({ ...handoff, since: null }))),
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
