import { Injectable } from '@nestjs/common';
import type { AddDeliverable, EventPayloads } from '@crew/contract';
import { record } from '../activity/record.ts';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { lockEngagement } from './change-plan.ts';

/** The things a client gets: a second way to group the tasks of an engagement. */
@Injectable()
export class Deliverables {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** A new one at the end; a name is there once. */
  add(who: Who, engagementId: string, input: AddDeliverable): Promise<{ id: string }> {
    return this.database.transaction(async (manager) => {
      await lockEngagement(manager, who, engagementId);
      const made = await firstRow<{ id: string }>(
        manager,
        `INSERT INTO deliverable (engagement_id, name, position)
         SELECT $1, $2, coalesce(max(position), -1) + 1 FROM deliverable WHERE engagement_id = $1
         ON CONFLICT (engagement_id, name) DO NOTHING RETURNING id`,
        [engagementId, input.name.trim()],
      );
      if (made === null)
        throw new Refusal('already-there', `There is a deliverable “${input.name.trim()}” already. Choose it or give another name.`, {
          field: 'name',
        });
      await this.record(manager, who, {
        kind: 'deliverable-added',
        engagementId,
        payload: { deliverableId: made.id, name: input.name.trim() },
      });
      return made;
    });
  }

  /** Removes one; its tasks stay, without it. */
  remove(who: Who, deliverableId: string): Promise<void> {
    return this.database.transaction(async (manager) => {
      const sql = `SELECT d.engagement_id AS "engagementId", d.name FROM deliverable d JOIN engagement e ON e.id = d.engagement_id WHERE d.id = $1 AND e.agency_id = $2`;
      const found = requireFound(
        await firstRow<{ engagementId: string; name: string }>(manager, sql, [deliverableId, who.agencyId]),
        'deliverable',
      );
      await lockEngagement(manager, who, found.engagementId);
      await rowsOf(manager, 'DELETE FROM deliverable WHERE id = $1', [deliverableId]);
      const { engagementId, name } = found;
      await this.record(manager, who, { kind: 'deliverable-removed', engagementId, payload: { deliverableId, name } });
    });
  }

  private record(
    manager: EntityManager,
    who: Who,
    event: {
      readonly kind: 'deliverable-added' | 'deliverable-removed';
      readonly engagementId: string;
      readonly payload: EventPayloads['deliverable-added'];
    },
  ): Promise<void> {
    return record(manager, { actor: who, at: this.clock.now() }, [{ ...event, subject: 'engagement', subjectId: event.engagementId }]);
  }
}
