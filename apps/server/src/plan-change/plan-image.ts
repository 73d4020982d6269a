import type { IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { readPhaseImages, type PhaseImages } from '../engagement/phase-images.ts';
import { readTaskImages, type TaskImage } from '../task/task-images.ts';

/** The plan of one engagement as it stands in the tables: what changes of it are computed from. */
export interface PlanImage extends PhaseImages {
  readonly engagementId: string;
  readonly agencyId: string;
  readonly startDay: IsoDay;
  /** The number of the task that was made last. */
  readonly lastNumber: number;
  readonly deliverables: readonly DeliverableRow[];
  /** By number. */
  readonly tasks: readonly TaskImage[];
}

export interface DeliverableRow {
  readonly id: string;
  readonly name: string;
  readonly position: number;
}

const ENGAGEMENT = `
  SELECT e.id AS "engagementId", e.agency_id AS "agencyId", e.start_day AS "startDay", e.last_number AS "lastNumber",
    coalesce((SELECT json_agg(json_build_object('id', d.id, 'name', d.name, 'position', d.position) ORDER BY d.position, d.id)
      FROM deliverable d WHERE d.engagement_id = e.id), '[]') AS deliverables
  FROM engagement e WHERE e.id = $1`;

/** Reads a plan whose engagement is there and locked. */
export async function readPlanImage(manager: EntityManager, engagementId: string): Promise<PlanImage> {
  const engagement = await firstRow<Omit<PlanImage, 'tasks' | keyof PhaseImages>>(manager, ENGAGEMENT, [engagementId]);
  if (engagement === null) throw new Error(`engagement ${engagementId} vanished`);
  return { ...engagement, ...(await readPhaseImages(manager, engagementId)), tasks: await readTaskImages(manager, engagementId) };
}
