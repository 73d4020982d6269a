import type { EntityManager } from 'typeorm';
import type { NewEvent } from '../activity/record.ts';
import { phasesChanged, writePhasesThatGo, writePhasesThatStay } from '../engagement/phase-images.ts';
import type { By } from '../platform/actor.ts';
import { rowsOf } from '../platform/database.ts';
import { writeTaskImages } from '../task/write-task-images.ts';
import type { PlanImage } from './plan-image.ts';
import { taskEvents } from './task-events.ts';

/** A plan as it is and as it is to be; `isUndoing`: tasks that come are there again rather than new. */
export interface PlanToWrite {
  readonly before: PlanImage;
  readonly after: PlanImage;
  readonly isUndoing?: boolean;
}

/**
 * Writes what differs between two states of a plan, in a fixed number of statements however much
 * that is, and answers the events of it; whoever calls records them and refreshes the plan.
 */
export async function writePlan(manager: EntityManager, by: By, { before, after, isUndoing }: PlanToWrite): Promise<NewEvent[]> {
  const { engagementId } = after;
  const phases = phasesChanged(before, after);
  if (after.lastNumber !== before.lastNumber)
    await rowsOf(manager, 'UPDATE engagement SET last_number = $2 WHERE id = $1', [engagementId, after.lastNumber]);
  const there = new Set(before.deliverables.map(({ id }) => id));
  const deliverables = after.deliverables.filter(({ id }) => !there.has(id)).map((row) => ({ ...row, engagement_id: engagementId }));
  if (deliverables.length > 0)
    await rowsOf(manager, 'INSERT INTO deliverable SELECT * FROM jsonb_populate_recordset(NULL::deliverable, $1)', [
      JSON.stringify(deliverables),
    ]);
  if (phases !== null) await writePhasesThatStay(manager, phases);
  await writeTaskImages(manager, by, { before: before.tasks, after: after.tasks });
  if (phases !== null) await writePhasesThatGo(manager, phases);
  const events = await taskEvents(manager, { engagementId, before: before.tasks, after: after.tasks, isUndoing: isUndoing === true });
  if (phases === null) return events;
  return [...events, { kind: 'phases-changed', engagementId, subject: 'engagement', subjectId: engagementId, payload: phases }];
}
