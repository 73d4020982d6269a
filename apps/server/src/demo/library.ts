import type { INestApplicationContext } from '@nestjs/common';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { AddFromLibrary } from '../template/add-from-library.ts';

/** What an engagement gets besides its own template: a saved task in one of its phases, and a phase of the library after another. */
const TAKEN = [
  { template: 'Site survey', phase: 'Kickoff' },
  { template: 'Accessibility check', phase: 'Detail design' },
] as const;

/** The looms stand close and the mill is old: its lead takes a survey and a check along from the library. */
export async function addForTheMill(app: INestApplicationContext, who: Who): Promise<void> {
  for (const { template, phase } of TAKEN) {
    const found = await app.get(Database).row<{ engagementId: string; phaseId: string; templateId: string; phaseIds: string[] | null }>(
      `SELECT e.id AS "engagementId", p.id AS "phaseId", t.id AS "templateId",
         CASE t.kind WHEN 'phase' THEN ARRAY(SELECT q.id FROM template_phase q WHERE q.template_id = t.id) END AS "phaseIds"
       FROM engagement e JOIN phase p ON p.engagement_id = e.id JOIN template t ON t.agency_id = e.agency_id
       WHERE e.name = 'Loom floor interpretation' AND p.name = $1 AND t.name = $2 AND t.kind <> 'engagement'`,
      [phase, template],
    );
    if (found === null) throw new Error(`the demo has no ${template} to take`);
    const { engagementId, phaseIds, ...taken } = found;
    await app.get(AddFromLibrary).run(who, engagementId, { ...taken, ...(phaseIds === null ? {} : { phaseIds }) });
  }
}
