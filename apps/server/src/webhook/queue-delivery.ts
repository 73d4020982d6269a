import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { rowsOf } from '../platform/database.ts';

/** A call of a webhook that is to be made. */
export interface NewDelivery {
  readonly webhookId: string;
  /** Asked for twice under one key, it is made once. */
  readonly key: string;
  readonly kind: string;
  /** What is told, beside the id and kind of the delivery. */
  readonly data: object;
}

const INSERT = `
  WITH made AS (
    INSERT INTO webhook_delivery (webhook_id, key, kind, body, created_at)
    SELECT w.id, x.key, x.kind, x.body, $2 FROM jsonb_to_recordset($1) AS x("webhookId" uuid, key text, kind text, body text)
      JOIN webhook w ON w.id = x."webhookId" AND w.is_on AND w.removed_at IS NULL
    ON CONFLICT DO NOTHING RETURNING id, webhook_id)
  SELECT made.id, w.agency_id AS "agencyId", graphile_worker.add_job('call-webhook', payload := json_build_object('deliveryId', made.id), job_key := 'webhook ' || made.id) AS job
  FROM made JOIN webhook w ON w.id = made.webhook_id`;

/** Asks for calls in the transaction of what they tell of; answers how many were not asked for before. One that is off is not called. */
export async function queueDeliveries(manager: EntityManager, deliveries: readonly NewDelivery[], at: Date): Promise<number> {
  if (deliveries.length === 0) return 0;
  const rows = deliveries.map(({ webhookId, key, kind, data }) => ({ webhookId, key, kind, body: JSON.stringify({ kind, ...data }) }));
  const made = await rowsOf<{ agencyId: string }>(manager, INSERT, [JSON.stringify(rows), at]);
  for (const agencyId of new Set(made.map((one) => one.agencyId))) await announceChange(manager, { agencyId, topics: ['webhook'] });
  return made.length;
}
