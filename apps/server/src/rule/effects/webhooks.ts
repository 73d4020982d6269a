import { firstRow } from '../../platform/database.ts';
import { Refusal } from '../../platform/refusal.ts';
import { queueDeliveries } from '../../webhook/queue-delivery.ts';
import { nothing, slotOf, type CarryOutEffect } from './types.ts';

/** Calls a webhook with what the rule ran at. */
export const callWebhook: CarryOutEffect = async (asked) => {
  const { manager, who, by, event, runId, place } = asked;
  const webhookId = slotOf(asked, 'webhook', 'hook');
  const sql = 'SELECT name, is_on AS "isOn" FROM webhook WHERE id = $1 AND agency_id = $2 AND removed_at IS NULL';
  const webhook = await firstRow<{ name: string; isOn: boolean }>(manager, sql, [webhookId, who.agencyId]);
  if (webhook === null) throw new Refusal('wrong-moment', 'The webhook is gone. Choose another one in the rule.');
  if (!webhook.isOn) return nothing(`The webhook ${webhook.name} is switched off.`);
  const { engagementId, subject, subjectId, facts } = event;
  const data = { at: by.at.toISOString(), run: runId, engagementId, subject, subjectId, facts };
  await queueDeliveries(manager, [{ webhookId, key: `rule ${runId} ${place}`, kind: 'rule', data }], by.at);
  return { said: `Called ${webhook.name}.` };
};
