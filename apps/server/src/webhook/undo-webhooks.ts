import { Injectable } from '@nestjs/common';
import { can, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { fieldsToSetBack, type EventToUndo, type UndoesOwn, type WentBack } from '../activity/undoable.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepWebhooks, type WebhookFields } from './keep-webhooks.ts';

export const WEBHOOK_KEPT_EVENTS: readonly EventKind[] = ['webhook-added', 'webhook-changed', 'webhook-removed'];

/** Takes back what a change did to webhooks, by field. */
@Injectable()
export class UndoWebhooks implements UndoesOwn {
  private readonly webhooks: KeepWebhooks;
  constructor(webhooks: KeepWebhooks) {
    this.webhooks = webhooks;
  }

  async run(manager: EntityManager, who: Who, events: readonly EventToUndo[]): Promise<WentBack> {
    if (!can(who, 'webhook.edit')) throw new Refusal('not-allowed', 'Only an owner can undo this. Ask one of them.');
    const kept: WentBack['kept'][number][] = [];
    let isAny = false;
    for (const { subjectId, changes } of events) {
      const now = await this.webhooks.now(manager, who, subjectId);
      if (now === null) continue;
      const back = fieldsToSetBack<WebhookFields>(now, changes);
      kept.push(...back.kept.map((field) => ({ subjectId, title: now.name, field })));
      isAny = isAny || Object.keys(back.fields).length > 0;
      await this.webhooks.set(manager, who, { now, fields: back.fields });
    }
    return { isAny, kept };
  }
}
