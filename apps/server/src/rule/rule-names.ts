import type { RuleContent, RuleNames } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

const NAMES = `
  SELECT id, name FROM person WHERE agency_id = $1
  UNION ALL SELECT id, name FROM role WHERE agency_id = $1
  UNION ALL SELECT id, name FROM client WHERE agency_id = $1
  UNION ALL SELECT id, name FROM template WHERE agency_id = $1
  UNION ALL SELECT id, name FROM webhook WHERE agency_id = $1 AND removed_at IS NULL
  UNION ALL SELECT id, name FROM custom_field WHERE agency_id = $1`;

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/gi;

/** The ids that stand in rules or in parts of them. */
export const idsIn = (content: unknown): ReadonlySet<string> => new Set(JSON.stringify(content ?? null).match(ID) ?? []);

/** What the ids in some rules are called; one that is gone is missing. */
export async function readNames(manager: EntityManager, agencyId: string, contents: unknown): Promise<RuleNames> {
  const ids = idsIn(contents);
  if (ids.size === 0) return {};
  const rows = await rowsOf<{ id: string; name: string }>(manager, `SELECT id, name FROM (${NAMES}) named WHERE id = ANY($2::uuid[])`, [
    ...[agencyId, [...ids]],
  ]);
  return Object.fromEntries(rows.map(({ id, name }) => [id, name]));
}

/** Refuses a rule that names something that is not of the agency. */
export async function refuseUnknownIds(manager: EntityManager, agencyId: string, content: RuleContent): Promise<void> {
  const names = await readNames(manager, agencyId, content);
  const unknown = [...idsIn(content)].find((id) => !Object.hasOwn(names, id));
  if (unknown !== undefined)
    throw new Refusal('unknown-id', 'The rule names somebody or something that is not in your agency. Choose again.', { field: 'content' });
}

/** Refuses a rule that adds something from the library that is more than a task. */
export async function refuseMoreThanTasks(manager: EntityManager, content: RuleContent): Promise<void> {
  const ids = content.then.flatMap(({ do: kind, slots }) => (kind === 'add-saved-task' ? [slots['item'] as string] : []));
  const more = await firstRow<{ name: string }>(manager, `SELECT name FROM template WHERE id = ANY($1) AND kind <> 'task'`, [ids]);
  if (more !== null)
    throw new Refusal('invalid-input', `“${more.name}” is more than a task. Choose a saved task of the library.`, { field: 'content' });
}

/** Where a rule is to hold: a template or an open engagement of the agency, or nothing for all of it. */
export async function requirePlace(
  manager: EntityManager,
  { agencyId }: Who,
  { level, templateId, engagementId }: { readonly level: string; readonly templateId?: string; readonly engagementId?: string },
): Promise<{ readonly templateId: string | null; readonly engagementId: string | null }> {
  const isThere = async (sql: string, id: string | undefined): Promise<boolean> =>
    id !== undefined && (await firstRow(manager, sql, [id, agencyId])) !== null;
  const isTemplate = `SELECT 1 FROM template WHERE id = $1 AND agency_id = $2 AND kind = 'engagement'`;
  const isOpenOne = `SELECT 1 FROM engagement WHERE id = $1 AND agency_id = $2 AND state IN ('open', 'proposal')`;
  if ((level === 'template' || templateId !== undefined) && !(await isThere(isTemplate, templateId)))
    throw new Refusal('unknown-id', 'Choose a template of an engagement.', { field: 'templateId' });
  if ((level === 'engagement' || engagementId !== undefined) && !(await isThere(isOpenOne, engagementId)))
    throw new Refusal('unknown-id', 'Choose an engagement that is open.', { field: 'engagementId' });
  return {
    templateId: level === 'template' ? (templateId ?? null) : null,
    engagementId: level === 'engagement' ? (engagementId ?? null) : null,
  };
}
