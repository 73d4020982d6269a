import { Injectable } from '@nestjs/common';
import type { EngagementRoleLine, GiveRole as Input, PlanChanged, PlanEffect } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { readRoleHolder, setRoleHolder } from '../engagement/role-holder.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { holdsRole, isOpen, PERSON_OR_NULL } from '../platform/sql-words.ts';
import { tryOut } from '../platform/try-out.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import type { TaskImage } from '../task/task-images.ts';
import { ChangePlan, type OpenPlan } from './change-plan.ts';
import type { PlanOperation } from './plan-edit.ts';

/** The roles an engagement needs, or has somebody for, with the open work of each. */
const ROLES = `
  SELECT json_build_object('id', r.id, 'name', r.name) AS role, ${PERSON_OR_NULL('q')} AS person, coalesce(w.tasks, 0) AS tasks, coalesce(w.minutes, 0) AS minutes
  FROM engagement e JOIN agency g ON g.id = e.agency_id JOIN role r ON r.agency_id = e.agency_id
  LEFT JOIN engagement_role er ON er.engagement_id = e.id AND er.role_id = r.id LEFT JOIN person q ON q.id = er.person_id
  LEFT JOIN LATERAL (
    SELECT count(*)::int AS tasks, sum(greatest(0, coalesce(t.estimate_minutes, g.default_minutes) - t.logged_minutes))::int AS minutes FROM task t
    WHERE t.engagement_id = e.id AND t.role_id = r.id AND NOT t.is_group AND t.kind <> 'client' AND ${isOpen('t')}) w ON true
  WHERE e.id = $1 AND (er.person_id IS NOT NULL OR w.tasks > 0 OR EXISTS (SELECT 1 FROM phase p WHERE p.engagement_id = e.id AND p.role_id = r.id))`;

/**
 * Reassigns a role of an engagement as a whole: the open tasks of that role move from its present
 * holder, and unassigned ones in phases that run are assigned too. Tasks assigned to others on purpose
 * stay theirs.
 */
@Injectable()
export class GiveRole {
  private readonly database: Database;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.plans = plans;
    this.clock = clock;
  }

  async list(who: Who, engagementId: string): Promise<readonly EngagementRoleLine[]> {
    const seen = engagementSeenBy(who, 2);
    const values = [engagementId, ...seen.values];
    requireFound(await this.database.row(`SELECT 1 FROM engagement e WHERE e.id = $1 AND ${seen.sql}`, values), 'engagement');
    return this.database.rows<EngagementRoleLine>(`${ROLES} ORDER BY r.name`, [engagementId]);
  }

  /** One transaction, undone as one. */
  run(who: Who, engagementId: string, input: Input): Promise<PlanChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { engagementId, input }));
  }

  /** What it would do to everybody's load; nothing stays. */
  async preview(who: Who, engagementId: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { engagementId, input }))).effect;
  }

  private async apply(
    manager: EntityManager,
    who: Who,
    { engagementId, input: { roleId, personId, seen } }: { readonly engagementId: string; readonly input: Input },
  ): Promise<PlanChanged> {
    const open = await this.plans.open(manager, who, engagementId);
    const role = await findRole(manager, who, roleId);
    if (personId !== null) await requireHolds(manager, who, { personId, roleId, role });
    const former = await readRoleHolder(manager, { engagementId, roleId });
    if (former !== seen)
      throw new Refusal('changed-meanwhile', `Somebody gave the role “${role}” to somebody else since you looked. Reload and check.`);
    if (former === personId)
      throw new Refusal('invalid-input', 'They have this role already. Choose somebody else.', { field: 'personId' });
    const done = await this.plans.apply(manager, who, {
      open,
      edit: { operations: handingOver(open, { roleId, former, next: personId }) },
    });
    await setRoleHolder(manager, { engagementId, roleId, personId });
    await record(manager, { actor: who, at: this.clock.now() }, [
      {
        ...{ kind: 'role-given', engagementId, subject: 'engagement', subjectId: engagementId, payload: { roleId, name: role } },
        ...{ changes: [{ field: 'roleHolder', from: former, to: personId }], names: await namesOf(manager, [former, personId]) },
      },
    ]);
    return { ...done, changeId: changeIdOf(manager) };
  }
}

/** The tasks that go along, each with its people as they are to be. */
function handingOver(
  { plan }: OpenPlan,
  { roleId, former, next }: { readonly roleId: string; readonly former: string | null; readonly next: string | null },
): PlanOperation[] {
  const running = new Set(plan.phases.filter(({ state }) => state === 'running').map(({ id }) => id));
  return plan.tasks.flatMap(({ id, row, assignees }): PlanOperation[] => {
    if (row['role_id'] !== roleId || row.is_group || row['kind'] === 'client' || row['status'] === 'done' || row['status'] === 'dropped')
      return [];
    const isTheirs = former !== null && assignees.some(({ personId }) => personId === former);
    const isNobodys = assignees.length === 0 && running.has(String(row['phase_id']));
    if (!isTheirs && !isNobodys) return [];
    const people = isNobodys ? (next === null ? [] : [{ personId: next, share: 1 }]) : inPlaceOf(assignees, former, next);
    return [{ kind: 'change-task', id, change: { values: {}, parts: { assignees: people } } }];
  });
}

/** One person in the place of another, with their share; somebody who is on it already takes that on too. */
function inPlaceOf(assignees: TaskImage['assignees'], former: string | null, next: string | null): TaskImage['assignees'] {
  const given = assignees.find(({ personId }) => personId === former)?.share ?? 0;
  if (next === null) return assignees.filter(({ personId }) => personId !== former);
  if (!assignees.some(({ personId }) => personId === next))
    return assignees.map((one) => (one.personId === former ? { ...one, personId: next } : one));
  return assignees.flatMap((one) => {
    if (one.personId === former) return [];
    return [one.personId === next ? { ...one, share: one.share + given } : one];
  });
}

async function findRole(manager: EntityManager, who: Who, roleId: string): Promise<string> {
  const role = await firstRow<{ name: string }>(manager, 'SELECT name FROM role WHERE id = $1 AND agency_id = $2', [roleId, who.agencyId]);
  if (role === null) throw new Refusal('unknown-id', 'This role is not one of your agency. Choose from the list.', { field: 'roleId' });
  return role.name;
}

/** Work is given by role to those alone who hold it. */
async function requireHolds(
  manager: EntityManager,
  who: Who,
  { personId, roleId, role }: { readonly personId: string; readonly roleId: string; readonly role: string },
): Promise<void> {
  const sql = `SELECT p.name, ${holdsRole('p.id', '$3::uuid')} AS holds FROM person p WHERE p.id = $1 AND p.agency_id = $2`;
  const person = await firstRow<{ name: string; holds: boolean }>(manager, sql, [personId, who.agencyId, roleId]);
  if (person === null) throw new Refusal('unknown-id', 'This person is not on your crew. Choose from the list.', { field: 'personId' });
  if (!person.holds)
    throw new Refusal(
      'invalid-input',
      `“${person.name}” does not have the role “${role}”. Add it on their page, or choose somebody else.`,
      {
        field: 'personId',
      },
    );
}

/** What people are called, by their ids, for the history; nobody has no name. */
export async function namesOf(manager: EntityManager, ids: readonly (string | null)[]): Promise<Readonly<Record<string, string>>> {
  const sql = `SELECT coalesce(json_object_agg(id, name), '{}') AS names FROM person WHERE id = ANY($1)`;
  return (await firstRow<{ names: Record<string, string> }>(manager, sql, [ids.filter((id) => id !== null)]))?.names ?? {};
}
