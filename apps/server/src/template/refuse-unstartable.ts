import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

const TEMPLATE = `
  SELECT t.name, t.is_archived AS "isArchived", t.version + 1 AS next, t.is_changed AND jsonb_array_length(v.content->'tasks') = 0 AS "isUnkept"
  FROM template t JOIN template_version v ON v.template_id = t.id AND v.version = t.version WHERE t.id = $1 AND t.agency_id = $2`;

/** Refuses a template nothing can be started from: one that is archived, and a new one of which no version was kept. What repeats already goes on. */
export async function refuseUnstartable(manager: EntityManager, who: Who, templateId: string | undefined): Promise<void> {
  if (templateId === undefined) return;
  type Row = { name: string; next: number; isArchived: boolean; isUnkept: boolean };
  const template = await firstRow<Row>(manager, TEMPLATE, [templateId, who.agencyId]);
  if (template?.isArchived === true)
    throw new Refusal('wrong-moment', `“${template.name}” is archived. Restore it before you start from it.`, { field: 'templateId' });
  if (template?.isUnkept === true)
    throw new Refusal(
      'empty-template',
      `“${template.name}” has no saved version yet. Open it and press “Save as version ${template.next}…”, then start from it.`,
      {
        field: 'templateId',
      },
    );
}
