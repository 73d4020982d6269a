import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';

/** Who does the work of a role in an engagement. */
interface RoleIn {
  readonly engagementId: string;
  readonly roleId: string;
}

/** Null for nobody. */
export async function readRoleHolder(manager: EntityManager, { engagementId, roleId }: RoleIn): Promise<string | null> {
  const sql = 'SELECT person_id AS id FROM engagement_role WHERE engagement_id = $1 AND role_id = $2';
  return (await firstRow<{ id: string }>(manager, sql, [engagementId, roleId]))?.id ?? null;
}

/** The engagement is locked. */
export async function setRoleHolder(
  manager: EntityManager,
  { engagementId, roleId, personId }: RoleIn & { readonly personId: string | null },
): Promise<void> {
  if (personId === null)
    await rowsOf(manager, 'DELETE FROM engagement_role WHERE engagement_id = $1 AND role_id = $2', [engagementId, roleId]);
  else
    await rowsOf(
      manager,
      `INSERT INTO engagement_role (engagement_id, role_id, person_id) VALUES ($1, $2, $3)
       ON CONFLICT (engagement_id, role_id) DO UPDATE SET person_id = excluded.person_id`,
      [engagementId, roleId, personId],
    );
}
