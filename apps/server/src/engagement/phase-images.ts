import { isDeepStrictEqual } from 'node:util';
import type { CheckKind, HandoffState, PhaseState, PhaseEdge } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';

export interface PhaseRow {
  readonly id: string;
  readonly engagement_id: string;
  readonly position: number;
  readonly name: string;
  readonly state_line: string;
  readonly template_phase_id: string | null;
  readonly role_id: string | null;
  readonly after_phase_id: string | null;
  readonly after_edge: PhaseEdge;
  readonly after_lag: number;
  readonly rounds: number | null;
  readonly round: number;
  readonly state: PhaseState;
  readonly started_on: string | null;
  readonly finished_on: string | null;
  readonly baseline_start: string | null;
  readonly baseline_finish: string | null;
}

export interface CheckRow {
  readonly id: string;
  readonly phase_id: string;
  readonly position: number;
  readonly kind: CheckKind;
  readonly text: string;
  /** Missing in what was kept before there were any. */
  readonly wants?: readonly string[];
  readonly given_by_id: string | null;
  readonly given_at: string | null;
}

export interface HandoffRow {
  readonly id: string;
  readonly engagement_id: string;
  readonly from_phase_id: string;
  readonly to_phase_id: string | null;
  readonly state: HandoffState;
  readonly giver_id: string | null;
  readonly receiver_id: string | null;
  readonly words: string;
  readonly reason: string | null;
  readonly question: string | null;
  readonly since: string | null;
  /** On whose desks it was put as ready; missing in what was kept before that was. */
  readonly ready_for_ids?: readonly string[];
  readonly version: number;
}

/** The row of phases of an engagement as it stands in the tables, with gates, handoffs and the version it is of. */
export interface PhaseImages {
  readonly templateVersion: number | null;
  /** In their order. */
  readonly phases: readonly PhaseRow[];
  readonly checks: readonly CheckRow[];
  readonly handoffs: readonly HandoffRow[];
}

/** Before and after a change. */
export interface PhasesChanged {
  readonly before: PhaseImages;
  readonly after: PhaseImages;
}

/** Left out: what the planner and the gates compute anew with every change. */
const IMAGES = `
  SELECT (SELECT template_version FROM engagement WHERE id = $1) AS "templateVersion",
    coalesce((SELECT jsonb_agg(to_jsonb(p) - '{planned_start, planned_finish, percent, progress}'::text[] ORDER BY p.position)
      FROM phase p WHERE p.engagement_id = $1), '[]') AS phases,
    coalesce((SELECT jsonb_agg(to_jsonb(g) ORDER BY g.id) FROM gate_check g JOIN phase p ON p.id = g.phase_id WHERE p.engagement_id = $1), '[]') AS checks,
    coalesce((SELECT jsonb_agg(to_jsonb(h) - '{clear_since, packet}'::text[] ORDER BY h.id) FROM handoff h WHERE h.engagement_id = $1), '[]') AS handoffs`;

export const readPhaseImages = async (manager: EntityManager, engagementId: string): Promise<PhaseImages> =>
  (await firstRow<PhaseImages>(manager, IMAGES, [engagementId])) as PhaseImages;

/** What changed, or null when phases, gates and handoffs are as they were. */
export function phasesChanged(before: PhaseImages, after: PhaseImages): PhasesChanged | null {
  const only = ({ templateVersion, phases, checks, handoffs }: PhaseImages): PhaseImages => ({
    templateVersion,
    phases,
    checks: byId(checks),
    handoffs: byId(handoffs),
  });
  const changed = { before: only(before), after: only(after) };
  return isDeepStrictEqual(changed.before, changed.after) ? null : changed;
}

const byId = <Row extends { readonly id: string }>(rows: readonly Row[]): Row[] =>
  [...rows].sort((left, right) => (left.id < right.id ? -1 : 1));

/** First half of writing the phases, before the tasks: every phase that tasks may be in exists. */
export async function writePhasesThatStay(manager: EntityManager, { before, after }: PhasesChanged): Promise<void> {
  const was = new Map(before.phases.map((phase) => [phase.id, phase]));
  const came = after.phases.filter(({ id }) => !was.has(id));
  const changed = after.phases.filter((phase) => was.has(phase.id) && !isDeepStrictEqual(was.get(phase.id), phase));
  if (came.length + changed.length === 0) return;
  // No two phases may share a place, not even for a moment.
  await rowsOf(manager, 'UPDATE phase SET position = position + 100000 WHERE id = ANY($1)', [[...was.keys()]]);
  await rowsOf(
    manager,
    `INSERT INTO phase SELECT (jsonb_populate_record(NULL::phase, v || jsonb_build_object('planned_start', e.start_day, 'planned_finish', e.start_day, 'percent', 0))).*
     FROM jsonb_array_elements($1::jsonb) v JOIN engagement e ON e.id = (v->>'engagement_id')::uuid`,
    [JSON.stringify(came)],
  );
  await rowsOf(
    manager,
    `UPDATE phase SET position = v.position, name = v.name, state_line = v.state_line, role_id = v.role_id, after_phase_id = v.after_phase_id,
       after_edge = v.after_edge, after_lag = v.after_lag, rounds = v.rounds, round = v.round,
       state = v.state, started_on = v.started_on, finished_on = v.finished_on
     FROM jsonb_populate_recordset(NULL::phase, $1) v WHERE phase.id = v.id`,
    [JSON.stringify(after.phases.filter(({ id }) => was.has(id)))],
  );
}

/** Second half, once no task is in them: deletions, gates, handoffs and the version of the template. */
export async function writePhasesThatGo(manager: EntityManager, { before, after }: PhasesChanged): Promise<void> {
  await removeGone(manager, 'handoff', { before: before.handoffs, after: after.handoffs });
  await removeGone(manager, 'gate_check', { before: before.checks, after: after.checks });
  // Rows that stay keep their ids: the history of a handoff refers to them.
  await rowsOf(
    manager,
    `UPDATE handoff SET to_phase_id = v.to_phase_id, state = v.state, giver_id = v.giver_id, receiver_id = v.receiver_id, words = v.words,
       reason = v.reason, question = v.question, since = v.since, version = v.version,
       ready_for_ids = coalesce(v.ready_for_ids, '{}')
     FROM jsonb_populate_recordset(NULL::handoff, $1) v WHERE handoff.id = v.id AND handoff.version <> v.version`,
    [JSON.stringify(after.handoffs)],
  );
  await addMissing(
    manager,
    'handoff',
    after.handoffs.map((handoff) => ({ ...handoff, ready_for_ids: [] })),
  );
  await writeChecks(manager, { before: before.checks, after: after.checks });
  const stays = new Set(after.phases.map(({ id }) => id));
  await rowsOf(manager, 'DELETE FROM phase WHERE id = ANY($1)', [before.phases.map(({ id }) => id).filter((id) => !stays.has(id))]);
  await rowsOf(
    manager,
    'UPDATE engagement SET template_version = $2, version = version + 1 WHERE id = $1 AND template_version IS DISTINCT FROM $2',
    [after.phases[0]?.engagement_id, after.templateVersion],
  );
}

/** Checks that came, and those that say something else now; what was kept before checks had wishes has none. */
async function writeChecks(
  manager: EntityManager,
  { before, after }: { readonly before: readonly CheckRow[]; readonly after: readonly CheckRow[] },
): Promise<void> {
  const rows = after.map((check) => ({ ...check, wants: check.wants ?? [] }));
  const was = new Map(before.map((check) => [check.id, check]));
  await addMissing(manager, 'gate_check', rows);
  await rowsOf(
    manager,
    `UPDATE gate_check SET position = v.position, kind = v.kind, text = v.text, wants = v.wants, given_by_id = v.given_by_id, given_at = v.given_at
     FROM jsonb_populate_recordset(NULL::gate_check, $1) v WHERE gate_check.id = v.id`,
    [JSON.stringify(rows.filter((check) => was.has(check.id) && !isDeepStrictEqual(was.get(check.id), check)))],
  );
}

interface Rows {
  readonly before: readonly { readonly id: string }[];
  readonly after: readonly { readonly id: string }[];
}

function removeGone(manager: EntityManager, table: 'handoff' | 'gate_check', { before, after }: Rows): Promise<unknown> {
  const stays = new Set(after.map(({ id }) => id));
  return rowsOf(manager, `DELETE FROM ${table} WHERE id = ANY($1)`, [before.map(({ id }) => id).filter((id) => !stays.has(id))]);
}

const addMissing = (manager: EntityManager, table: 'handoff' | 'gate_check', rows: Rows['after']): Promise<unknown> =>
  rowsOf(manager, `INSERT INTO ${table} SELECT * FROM jsonb_populate_recordset(NULL::${table}, $1) ON CONFLICT (id) DO NOTHING`, [
    JSON.stringify(rows),
  ]);
