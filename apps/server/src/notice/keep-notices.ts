import { Injectable } from '@nestjs/common';
import {
  NOTICE_CHANNEL,
  NOTICE_KIND,
  NOTICE_KINDS,
  type ChooseMailing,
  type ChooseNotices,
  type MarkNotices,
  type NoticeChannel,
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
/** Read notices are deleted after this time. */
const KEPT_DAYS = 60;

const MAILING = `
  SELECT coalesce(m.is_quiet, true) AS "isQuiet", coalesce(m.has_digest, true) AS "hasDigest", a.email AS address
  FROM person p LEFT JOIN notice_mailing m ON m.person_id = p.id LEFT JOIN account a ON a.person_id = p.id WHERE p.id = $1`;

/** One's own notices: which are read, which are snoozed, and which one gets. Doing any of it twice changes nothing. */
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
    const [chosen, mailing] = await Promise.all([
      this.database.rows<{ kind: NoticeKind; channel: NoticeChannel; isOn: boolean }>(
        'SELECT kind, channel, is_on AS "isOn" FROM notice_choice WHERE person_id = $1',
        [who.personId],
      ),
      this.database.row<{ isQuiet: boolean; hasDigest: boolean; address: string | null }>(MAILING, [who.personId]),
    ]);
    const isOn = (kind: NoticeKind, channel: NoticeChannel): boolean =>
      chosen.find((one) => one.kind === kind && one.channel === channel)?.isOn ?? NOTICE_KINDS[kind][channel];
    return {
      kinds: NOTICE_KIND.map((kind) => ({
        kind,
        ...(Object.fromEntries(NOTICE_CHANNEL.map((channel) => [channel, isOn(kind, channel)])) as Record<NoticeChannel, boolean>),
      })),
      ...(mailing ?? { isQuiet: true, hasDigest: true, address: null }),
    };
  }

  choose(who: Who, { kind, channel, isOn }: ChooseNotices): Promise<NoticeChoices> {
    return this.keep(
      who,
      `INSERT INTO notice_choice (person_id, kind, channel, is_on) VALUES ($1, $2, $3, $4)
       ON CONFLICT (person_id, kind, channel) DO UPDATE SET is_on = excluded.is_on`,
      [kind, channel, isOn],
    );
  }

  /** When one is mailed; what is left out stays as it is. */
  chooseMailing(who: Who, { isQuiet, hasDigest }: ChooseMailing): Promise<NoticeChoices> {
    return this.keep(
      who,
      `INSERT INTO notice_mailing (person_id, is_quiet, has_digest) VALUES ($1, coalesce($2, true), coalesce($3, true))
       ON CONFLICT (person_id) DO UPDATE SET is_quiet = coalesce($2, notice_mailing.is_quiet), has_digest = coalesce($3, notice_mailing.has_digest)`,
      [isQuiet ?? null, hasDigest ?? null],
    );
  }

  /** Ends somebody's digests, by the link in one; doing it twice changes nothing. */
  async endDigests(personId: string): Promise<void> {
    await this.database.rows(
      `INSERT INTO notice_mailing (person_id, has_digest) SELECT id, false FROM person WHERE id = $1 ON CONFLICT (person_id) DO UPDATE SET has_digest = false`,
      [personId],
    );
  }

  private async keep(who: Who, sql: string, values: readonly unknown[]): Promise<NoticeChoices> {
    await this.database.transaction(async (manager) => {
      await rowsOf(manager, sql, [who.personId, ...values]);
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
