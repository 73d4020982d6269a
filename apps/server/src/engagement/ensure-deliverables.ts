import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';

/** The deliverables of an engagement by name; those of these names that are not there yet are made, behind the others. */
export async function ensureDeliverables(
  manager: EntityManager,
  engagementId: string,
  names: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const wanted = [...new Set(names)];
  if (wanted.length === 0) return new Map();
  await rowsOf(
    manager,
    `INSERT INTO deliverable (engagement_id, position, name)
     SELECT $1, (SELECT coalesce(max(position), -1) FROM deliverable WHERE engagement_id = $1) + v.place, v.name
     FROM unnest($2::text[]) WITH ORDINALITY AS v(name, place) ON CONFLICT (engagement_id, name) DO NOTHING`,
    [engagementId, wanted],
  );
  const rows = await rowsOf<{ id: string; name: string }>(
    manager,
    'SELECT id, name FROM deliverable WHERE engagement_id = $1 AND name = ANY($2)',
    [engagementId, wanted],
  );
  return new Map(rows.map(({ name, id }) => [name, id]));
}
