import { Injectable } from '@nestjs/common';
import type { FieldChange, KeepRole, ListChanged, RoleLine } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { isOpen } from '../platform/sql-words.ts';

export interface KeptRole {
  readonly id: string;
  readonly name: string;
}

/** Where an id of a role stands inside a document: versions of templates, rules, and what repeats. */
const IN_DOCUMENT = (table: string, column: string): string =>
  `EXISTS (SELECT 1 FROM ${table} d WHERE d.${column}::text LIKE '%' || r.id::text || '%')`;

const IS_USED = [
  'EXISTS (SELECT 1 FROM person_role x WHERE x.role_id = r.id)',
  'EXISTS (SELECT 1 FROM task x WHERE x.role_id = r.id)',
  'EXISTS (SELECT 1 FROM phase x WHERE x.role_id = r.id)',
  'EXISTS (SELECT 1 FROM engagement_role x WHERE x.role_id = r.id)',
  'EXISTS (SELECT 1 FROM series_coming x WHERE x.role_id = r.id)',
  'EXISTS (SELECT 1 FROM template_phase x WHERE x.role_id = r.id)',
  'EXISTS (SELECT 1 FROM template_task x WHERE x.role_id = r.id OR r.id = ANY(x.helper_role_ids))',
  IN_DOCUMENT('template_version', 'content'),
  IN_DOCUMENT('rule', 'content'),
  IN_DOCUMENT('engagement_series', 'roles'),
  IN_DOCUMENT('task_series', 'pattern'),
].join(' OR ');

const ROLES = `
  SELECT r.id, r.name,
    (SELECT count(*)::int FROM person_role x JOIN person p ON p.id = x.person_id WHERE x.role_id = r.id AND p.is_active) AS people,
    (SELECT count(*)::int FROM task t JOIN engagement e ON e.id = t.engagement_id
      WHERE t.role_id = r.id AND e.state IN ('proposal', 'open') AND NOT t.is_group AND ${isOpen('t')}) AS "openTasks",
    (SELECT count(DISTINCT x.template_id)::int FROM (
      SELECT p.template_id FROM template_phase p WHERE p.role_id = r.id
      UNION SELECT p.template_id FROM template_task k JOIN template_phase p ON p.id = k.phase_id WHERE k.role_id = r.id OR r.id = ANY(k.helper_role_ids)) x) AS templates,
    ${IS_USED} AS "isUsed"
  FROM role r WHERE r.agency_id = $1 ORDER BY lower(r.name), r.id`;

/** The agency's roles: listing, adding, renaming, and deleting those that nothing names. */
@Injectable()
export class KeepRoles {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  list(who: Who): Promise<RoleLine[]> {
    return this.database.rows<RoleLine>(ROLES, [who.agencyId]);
  }

  add(who: Who, { name }: KeepRole): Promise<ListChanged> {
    return this.change(who, (manager) => this.addIn(manager, who, { name: name.trim() }));
  }

  /** People, tasks and templates keep the role: they refer to it by its id. */
  rename(who: Who, id: string, { name }: KeepRole): Promise<ListChanged> {
    return this.change(who, async (manager) => {
      const role = requireFound(await this.find(manager, who, id), 'role');
      await this.renameIn(manager, who, { role, name: name.trim() });
    });
  }

  delete(who: Who, id: string): Promise<ListChanged> {
    return this.change(who, async (manager) => {
      const role = requireFound(await this.find(manager, who, id), 'role');
      if (!(await this.deleteIn(manager, who, role)))
        throw new Refusal(
          'still-used',
          `“${role.name}” is still in use, or was used in work that is finished. Rename it, or give its people and tasks another role first.`,
        );
    });
  }

  find(manager: EntityManager, who: Who, id: string): Promise<KeptRole | null> {
    return firstRow<KeptRole>(manager, 'SELECT id, name FROM role WHERE id = $1 AND agency_id = $2', [id, who.agencyId]);
  }

  /** With an id it is one that was deleted and comes back. The agency is locked. */
  async addIn(manager: EntityManager, who: Who, { id, name }: { readonly id?: string; readonly name: string }): Promise<void> {
    await refuseTakenName(manager, who, { name, besides: null });
    const sql = 'INSERT INTO role (id, agency_id, name) VALUES (coalesce($1::uuid, gen_random_uuid()), $2, $3) RETURNING id';
    const made = await firstRow<{ id: string }>(manager, sql, [id ?? null, who.agencyId, name]);
    const role = { id: requireFound(made, 'role').id, name };
    await this.record(manager, who, { kind: 'role-added', role, changes: [{ field: 'name', from: null, to: name }] });
  }

  async renameIn(manager: EntityManager, who: Who, { role, name }: { readonly role: KeptRole; readonly name: string }): Promise<void> {
    if (role.name === name) return;
    await refuseTakenName(manager, who, { name, besides: role.id });
    await rowsOf(manager, 'UPDATE role SET name = $2 WHERE id = $1', [role.id, name]);
    await this.record(manager, who, { kind: 'role-renamed', role, changes: [{ field: 'name', from: role.name, to: name }] });
  }

  /** False, and nothing done, when something names it. */
  async deleteIn(manager: EntityManager, who: Who, role: KeptRole): Promise<boolean> {
    // Whoever gives somebody or a task this role at this moment is waited for, and then seen.
    await rowsOf(manager, 'SELECT 1 FROM role WHERE id = $1 FOR UPDATE', [role.id]);
    if ((await affectedRows(manager, `DELETE FROM role r WHERE r.id = $1 AND NOT (${IS_USED})`, [role.id])) === 0) return false;
    await this.record(manager, who, { kind: 'role-removed', role, changes: [{ field: 'name', from: role.name, to: null }] });
    return true;
  }

  private change(who: Who, work: (manager: EntityManager) => Promise<void>): Promise<ListChanged> {
    return this.database.transaction(async (manager) => {
      // Two people at once would both find a name free.
      await lockAgency(manager, who.agencyId);
      await work(manager);
      return { changeId: changeIdOf(manager) };
    });
  }

  private record(
    manager: EntityManager,
    who: Who,
    event: {
      readonly kind: 'role-added' | 'role-renamed' | 'role-removed';
      readonly role: KeptRole;
      readonly changes: readonly FieldChange[];
    },
  ): Promise<void> {
    const { kind, role, changes } = event;
    return record(manager, { actor: who, at: this.clock.now() }, [
      {
        ...{ kind, engagementId: null, subject: 'agency', subjectId: who.agencyId, changes },
        payload: { roleId: role.id, name: role.name },
      },
    ]);
  }
}

/** Names are told apart by eye: “writer” is “Writer”. */
async function refuseTakenName(
  manager: EntityManager,
  who: Who,
  { name, besides }: { readonly name: string; readonly besides: string | null },
): Promise<void> {
  const sql = 'SELECT name FROM role WHERE agency_id = $1 AND lower(name) = lower($2) AND id IS DISTINCT FROM $3::uuid';
  const taken = await firstRow<{ name: string }>(manager, sql, [who.agencyId, name, besides]);
  if (taken !== null)
    throw new Refusal('already-there', `There is a role “${taken.name}” already. Choose another name.`, { field: 'name' });
}
