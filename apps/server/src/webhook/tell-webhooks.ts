import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { Follower, PendingEvent } from '../platform/area.ts';
import { Clock } from '../platform/clock.ts';
import { rowsOf } from '../platform/database.ts';
import { queueDeliveries } from './queue-delivery.ts';

/** The webhooks that asked for events $1, with what each event says: ids, names and fields, as the history has them. */
const ASKED = `
  SELECT w.id AS "webhookId", 'event ' || v.id AS key, v.kind, json_build_object('event', v.id::text, 'at', v.at, 'subject', v.subject, 'subjectId', v.subject_id,
      'engagementId', v.engagement_id, 'facts', v.facts, 'changes', v.changes, 'by', v.actor_kind) AS data
  FROM event v JOIN webhook w ON w.agency_id = v.agency_id AND w.is_on AND w.removed_at IS NULL AND v.kind = ANY(w.kinds) WHERE v.id = ANY($1::bigint[]) ORDER BY v.id, w.id`;

interface Asked {
  readonly webhookId: string;
  readonly key: string;
  readonly kind: string;
  readonly data: object;
}

/** Follows what happens and calls the webhooks that asked for it. */
@Injectable()
export class TellWebhooks implements Follower {
  private readonly clock: Clock;
  constructor(clock: Clock) {
    this.clock = clock;
  }

  async follow(manager: EntityManager, events: readonly PendingEvent[]): Promise<void> {
    const asked = await rowsOf<Asked>(manager, ASKED, [events.map(({ id }) => id)]);
    await queueDeliveries(manager, asked, this.clock.now());
  }
}
