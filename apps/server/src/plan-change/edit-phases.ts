import { randomUUID } from 'node:crypto';
import type { TemplateCheck } from '@crew/core';
import type { CheckRow, HandoffRow, PhaseRow } from '../engagement/phase-images.ts';
import type { Draft, OperationOf, PhasePlace } from './plan-edit.ts';

/** Behind all others and after nothing, until the phases are arranged. */
export function addPhases(draft: Draft, { phases }: OperationOf<'add-phases'>): void {
  const { engagementId } = draft.plan;
  const last = draft.phases.length;
  const rows = phases.map(({ id, originId, name, stateLine, roleId, rounds }, index): PhaseRow => ({
    ...{ id, engagement_id: engagementId, position: last + index, name, state_line: stateLine, template_phase_id: originId, rounds },
    ...{ role_id: roleId, after_phase_id: null, after_edge: 'finish', after_lag: 0, state: 'ahead', started_on: null, finished_on: null },
    ...{ round: 1, baseline_start: null, baseline_finish: null },
  }));
  draft.phases = [...draft.phases, ...rows];
  draft.checks = [
    ...draft.checks,
    ...phases.flatMap(({ id, checks }) => checks.map((check, position) => newCheck(id, { ...check, position }))),
  ];
}

const newCheck = (phaseId: string, { position, kind, text, wants = [] }: TemplateCheck & { readonly position: number }): CheckRow => ({
  // A template is checked against the words of the contract when it is saved.
  ...{ id: randomUUID(), phase_id: phaseId, position, kind: kind as CheckRow['kind'], text, wants },
  ...{ given_by_id: null, given_at: null },
});

/** A check somebody confirmed stays, whatever the template says now. */
export function changePhase(draft: Draft, { phase }: OperationOf<'change-phase'>): void {
  const { id, name, stateLine, roleId, rounds } = phase;
  draft.phases = draft.phases.map((row) => (row.id === id ? { ...row, name, state_line: stateLine, role_id: roleId, rounds } : row));
  const texts = new Set(phase.checks.map(({ text }) => text));
  const kept = draft.checks.filter((check) => check.phase_id !== id || check.given_at !== null || texts.has(check.text));
  const there = new Set(kept.filter((check) => check.phase_id === id).map(({ text }) => text));
  const fresh = phase.checks.flatMap((check, position) => (there.has(check.text) ? [] : [newCheck(id, { ...check, position })]));
  draft.checks = [...kept, ...fresh];
}

/** The gate becomes what somebody made of it. */
export function editPhase(draft: Draft, { phase, checks }: OperationOf<'edit-phase'>): void {
  const { id, name, stateLine, roleId } = phase;
  draft.phases = draft.phases.map((row) => (row.id === id ? { ...row, name, state_line: stateLine, role_id: roleId } : row));
  const before = new Map(draft.checks.filter((check) => check.phase_id === id).map((check) => [check.id, check]));
  const gate = checks.map(({ id: checkId, ...check }, position): CheckRow => {
    const kept = checkId === undefined ? undefined : before.get(checkId);
    // A check that now asks something else is not confirmed by what was said of the old one.
    const isSame = kept !== undefined && kept.kind === check.kind && kept.text === check.text;
    return { ...newCheck(id, { ...check, position }), ...(kept === undefined ? {} : { id: kept.id }), ...(isSame ? givenOf(kept) : {}) };
  });
  draft.checks = [...draft.checks.filter((check) => check.phase_id !== id), ...gate];
}

const givenOf = ({ given_by_id, given_at }: CheckRow): Pick<CheckRow, 'given_by_id' | 'given_at'> => ({ given_by_id, given_at });

/** With a phase that goes go its checks and handoffs; a handoff stays the same where it still leads out of the same phase. */
export function arrangePhases(draft: Draft, { row }: OperationOf<'arrange-phases'>): void {
  const byId = new Map(draft.phases.map((phase) => [phase.id, phase]));
  draft.phases = row.map(({ id, afterPhaseId, afterEdge, afterLag }, position) => ({
    ...(byId.get(id) as PhaseRow),
    ...{ position, after_phase_id: afterPhaseId, after_edge: afterEdge, after_lag: afterLag },
  }));
  const stays = new Set(row.map(({ id }) => id));
  draft.checks = draft.checks.filter((check) => stays.has(check.phase_id));
  draft.handoffs = handoffsBetween(row, draft);
}

interface Joint {
  readonly from: string;
  readonly to: string | null;
}

/** One joint for each pair of phases, and one that closes the engagement behind each last phase. */
export function jointsOf(row: readonly Pick<PhasePlace, 'id' | 'afterPhaseId'>[]): Joint[] {
  const followed = new Set(row.map(({ afterPhaseId }) => afterPhaseId));
  return [
    ...row.flatMap(({ id, afterPhaseId }) => (afterPhaseId === null ? [] : [{ from: afterPhaseId, to: id }])),
    ...row.filter(({ id }) => !followed.has(id)).map(({ id }) => ({ from: id, to: null })),
  ];
}

function handoffsBetween(row: readonly PhasePlace[], { handoffs, plan }: Draft): HandoffRow[] {
  const isOf = (handoff: HandoffRow, { from, to }: Joint): boolean => handoff.from_phase_id === from && handoff.to_phase_id === to;
  const wanted = jointsOf(row);
  const kept = handoffs.filter((handoff) => wanted.some((joint) => isOf(handoff, joint)));
  const spare = handoffs.filter((handoff) => !kept.includes(handoff));
  const others = wanted
    .filter((joint) => !kept.some((handoff) => isOf(handoff, joint)))
    .map((joint): HandoffRow => {
      const index = spare.findIndex((handoff) => handoff.from_phase_id === joint.from);
      if (index < 0) return newHandoff(plan.engagementId, joint);
      const [found] = spare.splice(index, 1) as [HandoffRow];
      return { ...found, to_phase_id: joint.to, version: found.version + 1 };
    });
  return [...kept, ...others];
}

const newHandoff = (engagementId: string, { from, to }: Joint): HandoffRow => ({
  ...{ id: randomUUID(), engagement_id: engagementId, from_phase_id: from, to_phase_id: to, state: 'getting-ready', version: 1 },
  ...{ giver_id: null, receiver_id: null, words: '', reason: null, question: null, since: null },
});

/** Phases end on a day without being handed off, as when the engagement is completed; their handoffs are through. */
export function endPhases(draft: Draft, { phaseIds, on, at, personId }: OperationOf<'end-phases'>): void {
  const ends = new Set(phaseIds);
  draft.phases = draft.phases.map((phase) =>
    ends.has(phase.id)
      ? { ...phase, state: 'over', started_on: phase.started_on ?? on, finished_on: laterOf(phase.started_on ?? on, on) }
      : phase,
  );
  draft.handoffs = draft.handoffs.map((handoff) =>
    ends.has(handoff.from_phase_id) && handoff.state !== 'picked-up'
      ? {
          ...{ ...handoff, state: 'picked-up', question: null, since: at, version: handoff.version + 1 },
          ...{ giver_id: handoff.giver_id ?? personId, receiver_id: handoff.receiver_id ?? personId },
        }
      : handoff,
  );
}

const laterOf = (one: string, other: string): string => (one > other ? one : other);

/** The phase goes into its next round; those that were over run again, and have not been handed off. */
export function startRound(draft: Draft, { phaseId, reruns }: OperationOf<'start-round'>): void {
  const rerun = new Set(reruns);
  draft.phases = draft.phases.map((phase) => ({
    ...phase,
    ...(phase.id === phaseId ? { round: phase.round + 1 } : {}),
    ...(rerun.has(phase.id) ? { state: 'running', finished_on: null } : {}),
  }));
  const again = {
    state: 'getting-ready',
    giver_id: null,
    receiver_id: null,
    words: '',
    reason: null,
    question: null,
    since: null,
  } as const;
  draft.handoffs = draft.handoffs.map((handoff) =>
    rerun.has(handoff.from_phase_id) ? { ...handoff, ...again, version: handoff.version + 1 } : handoff,
  );
}

/** Phases, gates and handoffs that a change touched are as they were; what others changed since stays. */
export function restorePhases(draft: Draft, { changed: { before, after } }: OperationOf<'restore-phases'>): void {
  const was = new Map(before.phases.map((phase) => [phase.id, phase]));
  const came = new Set(after.phases.map(({ id }) => id).filter((id) => !was.has(id)));
  const stayed = draft.phases.filter(({ id }) => !came.has(id)).map((phase) => restoredPhase(phase, was.get(phase.id)));
  const there = new Set(stayed.map(({ id }) => id));
  draft.phases = [...stayed, ...before.phases.filter(({ id }) => !there.has(id))]
    .sort((left, right) => left.position - right.position)
    .map((phase, position) => ({ ...phase, position }));
  draft.checks = restored(draft.checks, { before: before.checks, after: after.checks });
  const handoffs = new Map(before.handoffs.map((handoff) => [handoff.id, handoff]));
  draft.handoffs = restored(draft.handoffs, { before: before.handoffs, after: after.handoffs }).map((handoff) => {
    const was = handoffs.get(handoff.id);
    return was === undefined || was.version === handoff.version ? handoff : { ...was, version: handoff.version + 1 };
  });
  draft.templateVersion = before.templateVersion;
}

function restoredPhase(phase: PhaseRow, was: PhaseRow | undefined): PhaseRow {
  if (was === undefined) return phase;
  // Nobody passed anything since (`refusePassedSince`), so all of it goes back; a baseline kept since stays.
  const { baseline_start, baseline_finish } = phase;
  return { ...was, baseline_start, baseline_finish };
}

/** Without what a change added, and with what it removed. */
function restored<Row extends { readonly id: string }>(
  rows: readonly Row[],
  { before, after }: { readonly before: readonly Row[]; readonly after: readonly Row[] },
): Row[] {
  const was = new Set(before.map(({ id }) => id));
  const came = new Set(after.map(({ id }) => id).filter((id) => !was.has(id)));
  const stayed = rows.filter(({ id }) => !came.has(id));
  const there = new Set(stayed.map(({ id }) => id));
  return [...stayed, ...before.filter(({ id }) => !there.has(id))];
}
