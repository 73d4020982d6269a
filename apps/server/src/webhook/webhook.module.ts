import { WEBHOOK_EVENTS } from '@crew/contract';
import { job, type Area } from '../platform/area.ts';
import { CallWebhook } from './call-webhook.ts';
import { KeepWebhooks } from './keep-webhooks.ts';
import { TellWebhooks } from './tell-webhooks.ts';
import { WebhookController } from './webhook.controller.ts';
import { Webhook, WebhookDelivery } from './webhook.entity.ts';
import { UndoWebhooks, WEBHOOK_KEPT_EVENTS } from './undo-webhooks.ts';

export const webhook: Area = {
  controllers: [WebhookController],
  providers: [KeepWebhooks, TellWebhooks, CallWebhook, UndoWebhooks],
  entities: [Webhook, WebhookDelivery],
  jobs: [job({ name: 'call-webhook', by: CallWebhook, run: (calling, payload) => calling.run(payload) })],
  followers: [{ kinds: WEBHOOK_EVENTS, by: TellWebhooks }],
  undoing: [{ kinds: WEBHOOK_KEPT_EVENTS, by: UndoWebhooks }],
};
