import { Injectable } from '@nestjs/common';
import {
  NOTICE_KIND,
  NOTICE_KINDS,
  type ChooseNotices,
  type MarkNotices,
  type NoticeChoices,
  type NoticeKind,
  type SnoozeNotices,
} from '@crew/contract';
import { addDays } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

/** Put off until tomorrow is until this time of the agency's day. */
const MORNING = '09:00';
/** What was read so long ago goes. */
const KEPT_DAYS = 60;

/** Looks after one's own notices: what is read, what is put off, and what one is told of. Doing any of it twice changes nothing. */
@Injectable()
export class KeepNotices {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  mark(who: Who, { noticeIds, isRead }: MarkNotices): Promise<void> {
    return this.write(who, noticeIds, (manager) =>
      affectedRows(
        manager,
        'UPDATE notice SET read_at = CASE WHEN $3 THEN coalesce(read_at, $4) END WHERE id = ANY($1) AND person_id = $2',
        [noticeIds, who.personId, isRead, this.clock.now()],
      ),
    );
  }

  snooze(who: Who, { noticeIds, isSnoozed }: SnoozeNotices): Promise<void> {
    return this.write(who, noticeIds, (manager) =>
      affectedRows(
        manager,
        `UPDATE notice SET snoozed_until = CASE WHEN $3 THEN ($4::date + $5::time) AT TIME ZONE $6 END WHERE id = ANY($1) AND person_id = $2`,
        [noticeIds, who.personId, isSnoozed, addDays(this.clock.today(), 1), MORNING, this.clock.zone],
      ),
    );
  }

  async choices(who: Who): Promise<NoticeChoices> {
    const chosen = await this.database.rows<{ kind: NoticeKind; isOn: boolean }>(
      'SELECT kind, is_on AS "isOn" FROM notice_choice WHERE person_id = $1',
      [who.personId],
    );
    const byKind = new Map(chosen.map(({ kind, isOn }) => [kind, isOn]));
    return { kinds: NOTICE_KIND.map((kind) => ({ kind, isOn: byKind.get(kind) ?? NOTICE_KINDS[kind].isOn })) };
  }

  async choose(who: Who, { kind, isOn }: ChooseNotices): Promise<NoticeChoices> {
    await this.database.transaction(async (manager) => {
      await rowsOf(
        manager,
        `INSERT INTO notice_choice (person_id, kind, is_on) VALUES ($1, $2, $3) ON CONFLICT (person_id, kind) DO UPDATE SET is_on = excluded.is_on`,
        [who.personId, kind, isOn],
      );
      await announceChange(manager, { agencyId: who.agencyId, topics: [`notice:${who.personId}`] });
    });
    return this.choices(who);
  }

  /** Removes what was read long ago. */
  async prune(): Promise<void> {
    await this.database.rows(`DELETE FROM notice WHERE read_at < $1::timestamptz - make_interval(days => $2)`, [
      this.clock.now(),
      KEPT_DAYS,
    ]);
  }

  /** All of them, or none: an id that is not one's own notice is refused. */
  private write(who: Who, ids: readonly string[], act: (manager: EntityManager) => Promise<number>): Promise<void> {
    return this.database.transaction(async (manager) => {
      if ((await act(manager)) < new Set(ids).size)
        throw new Refusal('unknown-id', 'One of these notices is gone. Reload them.', { field: 'noticeIds' });
      await announceChange(manager, { agencyId: who.agencyId, topics: [`notice:${who.personId}`] });
    });
  }
}
