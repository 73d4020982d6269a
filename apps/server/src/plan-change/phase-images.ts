import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';

type Row = Readonly<Record<string, unknown>> & { readonly id: string };

/** The row of phases of an engagement as it stands in the tables, with gates, handoffs and the version it is of: enough to put it back. */
export interface PhaseImages {
  readonly templateVersion: number | null;
  readonly phases: readonly (Row & { readonly name: string })[];
  readonly checks: readonly Row[];
  readonly handoffs: readonly Row[];
}

/** As it was and as a change left it. */
export interface PhasesChanged {
  readonly before: PhaseImages;
  readonly after: PhaseImages;
}

/** Left out: what the planner computes anew with every change. */
const IMAGES = `
  SELECT (SELECT template_version FROM engagement WHERE id = $1) AS "templateVersion",
    coalesce((SELECT jsonb_agg(to_jsonb(p) - '{planned_start, planned_finish, percent, progress}'::text[] ORDER BY p.position)
      FROM phase p WHERE p.engagement_id = $1), '[]') AS phases,
    coalesce((SELECT jsonb_agg(to_jsonb(g) ORDER BY g.id) FROM gate_check g JOIN phase p ON p.id = g.phase_id WHERE p.engagement_id = $1), '[]') AS checks,
    coalesce((SELECT jsonb_agg(to_jsonb(h) ORDER BY h.id) FROM handoff h WHERE h.engagement_id = $1), '[]') AS handoffs`;

export const readPhaseImages = async (manager: EntityManager, engagementId: string): Promise<PhaseImages> =>
  (await firstRow<PhaseImages>(manager, IMAGES, [engagementId])) as PhaseImages;

/** What changed, or null when phases, gates and handoffs are as they were. */
export const phasesChanged = (before: PhaseImages, after: PhaseImages): PhasesChanged | null =>
  JSON.stringify(before) === JSON.stringify(after) ? null : { before, after };

/** Refuses to put phases back when anybody has handed one on, or given a word, since. */
export async function refusePassedSince(manager: EntityManager, engagementId: string, { after }: PhasesChanged): Promise<void> {
  const now = await readPhaseImages(manager, engagementId);
  const met = after.phases.find((phase) => {
    const there = now.phases.find(({ id }) => id === phase.id);
    const of = (images: PhaseImages, key: 'checks' | 'handoffs', field: string) => images[key].filter((row) => row[field] === phase.id);
    return (
      JSON.stringify(withoutBaseline(there)) !== JSON.stringify(withoutBaseline(phase)) ||
      JSON.stringify(of(now, 'checks', 'phase_id')) !== JSON.stringify(of(after, 'checks', 'phase_id')) ||
      JSON.stringify(of(now, 'handoffs', 'from_phase_id')) !== JSON.stringify(of(after, 'handoffs', 'from_phase_id'))
    );
  });
  if (met === undefined) return;
  throw new Refusal(
    'changed-meanwhile',
    `“${met.name}” was changed or handed on since. Undoing would take that back too, so nothing was undone.`,
  );
}

/** Keeping a baseline changes no phase. */
const withoutBaseline = (phase: Row | undefined): object =>
  Object.entries(phase ?? {}).filter(([column]) => column !== 'baseline_start' && column !== 'baseline_finish');

/** First half of putting back: phases that went are there again, so that tasks can return to them. */
export async function bringPhasesBack(manager: EntityManager, { before, after }: PhasesChanged): Promise<void> {
  const there = new Set(after.phases.map(({ id }) => id));
  const gone = before.phases.filter(({ id }) => !there.has(id));
  // No two phases may share a place, not even for a moment.
  await rowsOf(manager, 'UPDATE phase SET position = position + 100000 WHERE id = ANY($1)', [[...there]]);
  await rowsOf(
    manager,
    `INSERT INTO phase SELECT (jsonb_populate_record(NULL::phase, v || jsonb_build_object('planned_start', e.start_day, 'planned_finish', e.start_day, 'percent', 0))).*
     FROM jsonb_array_elements($1::jsonb) v JOIN engagement e ON e.id = (v->>'engagement_id')::uuid`,
    [JSON.stringify(gone)],
  );
}

/** Second half, once the tasks are back: what came goes, and every phase, gate and handoff is as it was. */
export async function restorePhases(manager: EntityManager, { before, after }: PhasesChanged): Promise<void> {
  const kept = new Set(before.phases.map(({ id }) => id));
  const came = after.phases.filter(({ id }) => !kept.has(id));
  await refuseLosingTasks(manager, came);
  await keepOnly(manager, 'handoff', { before: before.handoffs, after: after.handoffs });
  await keepOnly(manager, 'gate_check', { before: before.checks, after: after.checks });
  await rowsOf(
    manager,
    `UPDATE phase SET position = v.position, name = v.name, state_line = v.state_line, role_id = v.role_id, after_phase_id = v.after_phase_id,
       after_edge = v.after_edge, after_lag = v.after_lag, rounds = v.rounds
     FROM jsonb_populate_recordset(NULL::phase, $1) v WHERE phase.id = v.id`,
    [JSON.stringify(before.phases)],
  );
  // What stays keeps its identity: the turns a handoff took hang on it.
  await rowsOf(
    manager,
    `UPDATE handoff SET to_phase_id = v.to_phase_id, version = handoff.version + 1
     FROM jsonb_populate_recordset(NULL::handoff, $1) v WHERE handoff.id = v.id AND handoff.to_phase_id IS DISTINCT FROM v.to_phase_id`,
    [JSON.stringify(before.handoffs)],
  );
  await addMissing(manager, 'handoff', before.handoffs);
  await addMissing(manager, 'gate_check', before.checks);
  await rowsOf(manager, 'DELETE FROM phase WHERE id = ANY($1)', [came.map(({ id }) => id)]);
  await rowsOf(
    manager,
    'UPDATE engagement SET template_version = $2, version = version + 1 WHERE id = $1 AND template_version IS DISTINCT FROM $2',
    [before.phases[0]?.['engagement_id'], before.templateVersion],
  );
}

/** Takes out what a change had put in. */
async function keepOnly(
  manager: EntityManager,
  table: 'handoff' | 'gate_check',
  { before, after }: { readonly before: readonly Row[]; readonly after: readonly Row[] },
): Promise<void> {
  const kept = new Set(before.map(({ id }) => id));
  const came = after.map(({ id }) => id).filter((id) => !kept.has(id));
  await rowsOf(manager, `DELETE FROM ${table} WHERE id = ANY($1)`, [came]);
}

const addMissing = (manager: EntityManager, table: 'handoff' | 'gate_check', rows: readonly Row[]): Promise<unknown> =>
  rowsOf(manager, `INSERT INTO ${table} SELECT * FROM jsonb_populate_recordset(NULL::${table}, $1) ON CONFLICT (id) DO NOTHING`, [
    JSON.stringify(rows),
  ]);

async function refuseLosingTasks(manager: EntityManager, came: PhaseImages['phases']): Promise<void> {
  const found = await firstRow<{ phase: string; title: string }>(
    manager,
    'SELECT p.name AS phase, t.title FROM task t JOIN phase p ON p.id = t.phase_id WHERE p.id = ANY($1) LIMIT 1',
    [came.map(({ id }) => id)],
  );
  if (found !== null)
    throw new Refusal(
      'changed-meanwhile',
      `“${found.title}” was put into ${found.phase} since. Undoing would lose it, so nothing was undone; move it first.`,
    );
}
