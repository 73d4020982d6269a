import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import type { Follower, PendingEvent } from '../platform/area.ts';
import { rowsOf } from '../platform/database.ts';
import { WRITE_NOTICES } from './who-is-told.ts';

/** Follows what happens and tells whom it concerns. */
@Injectable()
export class TellPeople implements Follower {
  async follow(manager: EntityManager, events: readonly PendingEvent[]): Promise<void> {
    const told = await rowsOf<{ agencyId: string; personId: string }>(manager, WRITE_NOTICES, [events.map(({ id }) => id)]);
    for (const agencyId of new Set(told.map((one) => one.agencyId))) {
      const people = new Set(told.filter((one) => one.agencyId === agencyId).map(({ personId }) => personId));
      await announceChange(manager, { agencyId, topics: [...people].map((id) => `notice:${id}` as const) });
    }
  }
}
