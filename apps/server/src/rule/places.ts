import type { IsoDay } from '@crew/core';
import type { Somebody, WhichPhase } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { holdsRole, isOpen } from '../platform/sql-words.ts';
import type { EffectEvent } from './effects/types.ts';

/** A phase an effect speaks of. */
export interface PhaseFound {
  readonly id: string;
  readonly name: string;
  readonly roleId: string | null;
  /** As planned now. */
  readonly start: IsoDay;
  readonly finish: IsoDay;
}

/** The event's own phase: of its task or handoff, itself, or the first of an engagement that runs. */
const OWN_PHASE = `
  SELECT coalesce(
    (SELECT t.phase_id FROM task t WHERE $2 = 'task' AND t.id = $3),
    (SELECT h.from_phase_id FROM handoff h WHERE $2 = 'handoff' AND h.id = $3),
    (SELECT p.id FROM phase p WHERE $2 = 'phase' AND p.id = $3),
    (SELECT p.id FROM phase p WHERE p.engagement_id = $1 AND p.state = 'running' ORDER BY p.position LIMIT 1),
    (SELECT p.id FROM phase p WHERE p.engagement_id = $1 ORDER BY p.position LIMIT 1)) AS id`;

const ONE_PHASE = 'SELECT p.id, p.name, p.role_id AS "roleId", p.planned_start AS start, p.planned_finish AS finish FROM phase p';

/** The phase an effect means. Refuses when the engagement has none like it. */
export async function findPhase(
  manager: EntityManager,
  { engagementId, subject, subjectId }: EffectEvent,
  which: WhichPhase,
): Promise<PhaseFound> {
  if (which.by === 'name') {
    const sql = `${ONE_PHASE} WHERE p.engagement_id = $1 AND lower(p.name) = lower($2) ORDER BY p.position LIMIT 1`;
    const named = await firstRow<PhaseFound>(manager, sql, [engagementId, which.is]);
    if (named === null) throw new Refusal('wrong-moment', `This engagement has no phase “${which.is}”.`);
    return named;
  }
  const own = await firstRow<{ id: string | null }>(manager, OWN_PHASE, [engagementId, subject, subjectId]);
  const found =
    which.by === 'this'
      ? await firstRow<PhaseFound>(manager, `${ONE_PHASE} WHERE p.id = $1`, [own?.id])
      : await firstRow<PhaseFound>(
          manager,
          `${ONE_PHASE} WHERE p.id = coalesce((SELECT h.to_phase_id FROM handoff h WHERE h.from_phase_id = $1 AND h.to_phase_id IS NOT NULL ORDER BY h.id LIMIT 1),
             (SELECT n.id FROM phase n JOIN phase o ON o.id = $1 WHERE n.engagement_id = o.engagement_id AND n.position > o.position ORDER BY n.position LIMIT 1))`,
          [own?.id],
        );
  if (found === null) throw new Refusal('wrong-moment', which.by === 'next' ? 'There is no next phase.' : 'This engagement has no phases.');
  return found;
}

/** The handoff an event is about: itself, or the one that closes its phase. */
export async function findHandoff(manager: EntityManager, event: EffectEvent): Promise<{ readonly id: string; readonly version: number }> {
  const sql = `SELECT h.id, h.version FROM handoff h WHERE h.id = CASE WHEN $1 = 'handoff' THEN $2::uuid ELSE
    (SELECT o.id FROM handoff o WHERE o.from_phase_id = $3 ORDER BY o.id LIMIT 1) END`;
  const phase = event.subject === 'handoff' ? null : await findPhase(manager, event, { by: 'this' });
  const found = await firstRow<{ id: string; version: number }>(manager, sql, [event.subject, event.subjectId, phase?.id ?? null]);
  if (found === null) throw new Refusal('wrong-moment', 'There is no handoff here any more.');
  return found;
}

/** People by what they are for the event: $1 engagement, $2 subject, $3 its id. */
const PEOPLE: Readonly<Record<Exclude<Somebody['by'], 'role' | 'person'>, string>> = {
  lead: `SELECT e.lead_id AS id FROM engagement e WHERE e.id = $1
    UNION SELECT e.lead_id FROM task t JOIN task_assignee a ON a.task_id = t.id JOIN engagement e ON e.id = t.engagement_id AND e.state IN ('open', 'proposal')
      WHERE $2 = 'person' AND a.person_id = $3 AND ${isOpen('t')}`,
  giver: `SELECT coalesce(h.giver_id, (SELECT er.person_id FROM engagement_role er JOIN phase p ON p.id = h.from_phase_id
      WHERE er.engagement_id = h.engagement_id AND er.role_id = p.role_id AND ${holdsRole('er.person_id', 'er.role_id')}), e.lead_id) AS id
    FROM handoff h JOIN engagement e ON e.id = h.engagement_id WHERE ($2 = 'handoff' AND h.id = $3)
      OR ($2 <> 'handoff' AND h.from_phase_id = coalesce((SELECT t.phase_id FROM task t WHERE t.id = $3), $3))`,
  receiver: `SELECT coalesce(h.receiver_id, (SELECT er.person_id FROM engagement_role er JOIN phase p ON p.id = h.to_phase_id
      WHERE er.engagement_id = h.engagement_id AND er.role_id = p.role_id AND ${holdsRole('er.person_id', 'er.role_id')})) AS id
    FROM handoff h WHERE ($2 = 'handoff' AND h.id = $3) OR ($2 <> 'handoff' AND h.from_phase_id = coalesce((SELECT t.phase_id FROM task t WHERE t.id = $3), $3))`,
  assignees: `SELECT a.person_id AS id FROM task_assignee a WHERE $2 = 'task' AND a.task_id = $3`,
  owner: `SELECT er.person_id AS id FROM engagement_role er JOIN phase p ON p.role_id = er.role_id AND p.engagement_id = er.engagement_id
    WHERE er.engagement_id = $1 AND p.id = coalesce((SELECT t.phase_id FROM task t WHERE $2 = 'task' AND t.id = $3),
      (SELECT h.from_phase_id FROM handoff h WHERE $2 = 'handoff' AND h.id = $3), $3)`,
};

/** Whoever of the crew somebody in a rule stands for, by name. */
export async function findPeople(
  manager: EntityManager,
  { engagementId, subject, subjectId }: EffectEvent,
  { agencyId, somebody }: { readonly agencyId: string; readonly somebody: Somebody },
): Promise<readonly { readonly id: string; readonly name: string }[]> {
  const among = (ids: string, values: readonly unknown[]) =>
    rowsOf<{ id: string; name: string }>(
      manager,
      `SELECT w.id, w.name FROM person w WHERE w.agency_id = $${values.length + 1} AND w.is_active AND w.id IN (${ids}) ORDER BY w.name`,
      [...values, agencyId],
    );
  if (somebody.by === 'person') return among('SELECT $1::uuid', [somebody.id]);
  if (somebody.by === 'role') return among('SELECT held.person_id FROM person_role held WHERE held.role_id = $1', [somebody.id]);
  // Not each of them asks for all three; PostgreSQL wants to know what they are anyway.
  const asked = '(SELECT $1::uuid, $2::text, $3::uuid) asked(engagement, subject, subject_id)';
  return among(`SELECT x.id FROM ${asked}, LATERAL (${PEOPLE[somebody.by]}) x`, [engagementId, subject, subjectId]);
}
