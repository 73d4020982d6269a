import type { TemplatePhase } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import type { Placed } from './phase-shape.ts';

/** The row of phases as it is to be; those that come are given with all a template says of them. */
export interface NewShape {
  readonly engagementId: string;
  readonly row: readonly Placed[];
  readonly comes: ReadonlyMap<string, TemplatePhase>;
}

/**
 * Writes the row of phases: what comes and goes, what each follows, and the handoffs between
 * them. A handoff keeps its identity where it still leads out of the same phase. The tasks
 * of phases that go have gone before.
 */
export async function writeShape(manager: EntityManager, shape: NewShape): Promise<void> {
  const { engagementId, row, comes } = shape;
  // No two phases may share a place, not even for a moment.
  await rowsOf(manager, 'UPDATE phase SET position = position + 100000 WHERE engagement_id = $1', [engagementId]);
  await insertPhases(manager, shape);
  await rowsOf(
    manager,
    `UPDATE phase SET position = v.place, after_phase_id = v."afterPhaseId", after_edge = v."afterEdge", after_lag = v."afterLag"
     FROM jsonb_to_recordset($1) AS v(id uuid, place int, "afterPhaseId" uuid, "afterEdge" text, "afterLag" int) WHERE phase.id = v.id`,
    [JSON.stringify(row.map((placed, place) => ({ ...placed, place })))],
  );
  await writeJoints(manager, shape);
  await rowsOf(manager, 'DELETE FROM phase WHERE engagement_id = $1 AND id <> ALL($2)', [engagementId, row.map(({ id }) => id)]);
  const checks = [...comes].flatMap(([phaseId, phase]) => phase.checks.map((check, position) => ({ ...check, phaseId, position })));
  await rowsOf(
    manager,
    `INSERT INTO gate_check (phase_id, position, kind, text)
     SELECT v."phaseId", v.position, v.kind, v.text FROM jsonb_to_recordset($1) AS v("phaseId" uuid, position int, kind text, text text)`,
    [JSON.stringify(checks)],
  );
}

async function insertPhases(manager: EntityManager, { engagementId, comes }: NewShape): Promise<void> {
  const rows = [...comes].map(([id, { id: origin, name, stateLine, roleId, rounds }], place) => ({
    id,
    origin,
    name,
    stateLine,
    roleId,
    rounds,
    place,
  }));
  await rowsOf(
    manager,
    `INSERT INTO phase (id, engagement_id, template_phase_id, position, name, state_line, role_id, rounds, planned_start, planned_finish)
     SELECT v.id, e.id, v.origin, -1 - v.place, v.name, v."stateLine", v."roleId", v.rounds, e.start_day, e.start_day
     FROM jsonb_to_recordset($2) AS v(id uuid, origin uuid, name text, "stateLine" text, "roleId" uuid, rounds int, place int), engagement e
     WHERE e.id = $1`,
    [engagementId, JSON.stringify(rows)],
  );
}

interface Joint {
  readonly from: string;
  readonly to: string | null;
}

/** One joint for each pair of phases, and one that closes the engagement behind each last phase. */
export function jointsOf(row: readonly Pick<Placed, 'id' | 'afterPhaseId'>[]): Joint[] {
  const followed = new Set(row.map(({ afterPhaseId }) => afterPhaseId));
  return [
    ...row.flatMap(({ id, afterPhaseId }) => (afterPhaseId === null ? [] : [{ from: afterPhaseId, to: id }])),
    ...row.filter(({ id }) => !followed.has(id)).map(({ id }) => ({ from: id, to: null })),
  ];
}

async function writeJoints(manager: EntityManager, { engagementId, row }: NewShape): Promise<void> {
  const there = await rowsOf<Joint & { readonly id: string }>(
    manager,
    'SELECT id, from_phase_id AS "from", to_phase_id AS "to" FROM handoff WHERE engagement_id = $1 ORDER BY id',
    [engagementId],
  );
  const same = (left: Joint, right: Joint): boolean => left.from === right.from && left.to === right.to;
  const wanted = jointsOf(row);
  const missing = wanted.filter((joint) => !there.some((other) => same(joint, other)));
  let spare = there.filter((joint) => !wanted.some((other) => same(joint, other)));
  const fresh: Joint[] = [];
  for (const joint of missing) {
    const found = spare.find((other) => other.from === joint.from);
    if (found === undefined) {
      fresh.push(joint);
      continue;
    }
    spare = spare.filter((other) => other !== found);
    await rowsOf(manager, 'UPDATE handoff SET to_phase_id = $2, version = version + 1 WHERE id = $1', [found.id, joint.to]);
  }
  await rowsOf(manager, 'DELETE FROM handoff WHERE id = ANY($1)', [spare.map(({ id }) => id)]);
  await rowsOf(
    manager,
    `INSERT INTO handoff (engagement_id, from_phase_id, to_phase_id)
     SELECT $1, v."from", v."to" FROM jsonb_to_recordset($2) AS v("from" uuid, "to" uuid)`,
    [engagementId, JSON.stringify(fresh)],
  );
}

/** Puts the tasks of a phase into the order of the template; those of this engagement alone stay behind the one they stood behind. */
export function orderedLike(
  here: readonly { readonly id: string; readonly originId: string | null }[],
  wanted: readonly string[],
): string[] {
  const placeOf = new Map(wanted.map((id, place) => [id, place]));
  const groups: { readonly place: number; readonly ids: string[] }[] = [{ place: -1, ids: [] }];
  for (const { id, originId } of here) {
    const place = originId === null ? undefined : placeOf.get(originId);
    if (place === undefined) groups.at(-1)?.ids.push(id);
    else groups.push({ place, ids: [id] });
  }
  return groups.sort((left, right) => left.place - right.place).flatMap(({ ids }) => ids);
}
