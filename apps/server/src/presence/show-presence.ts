import { Injectable } from '@nestjs/common';
import { PRESENCE_GONE_AFTER_MS, type PeopleHere, type PersonRef, type PresenceKind, type ShowPresence as Input } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import { windowOfRequest } from '../platform/request-context.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy, taskSeenBy, type Condition } from '../platform/visible.ts';

/** One thing that people can be at. */
interface Thing {
  readonly kind: PresenceKind;
  readonly id: string;
}

/** Programs that use the API have no window. */
const NO_WINDOW = 'none';

/**
 * Who has what open. A window says what it shows whenever that changes, and again from time to time; one that
 * falls silent is gone after a while. Others are told only when somebody comes or leaves. It is no history: what
 * is over is deleted.
 */
@Injectable()
export class ShowPresence {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** What may not be seen, or is not there any more, is left out: a window may still show it. */
  show(who: Who, { shown }: Input): Promise<void> {
    const window = windowOfRequest() ?? NO_WINDOW;
    return this.database.transaction(async (manager) => {
      const things: Thing[] = [];
      for (const thing of shown) if (await isSeen(manager, who, thing)) things.push(thing);
      const now = this.clock.now();
      const left = await rowsOf<{ id: string }>(manager, LEAVE, [who.personId, window, things.map(({ id }) => id)]);
      const came = await rowsOf<{ id: string; isNew: boolean }>(manager, COME, [
        ...[who.personId, window, who.agencyId, now, JSON.stringify(things)],
        goneBefore(now),
      ]);
      await rowsOf(manager, FORGET, [who.agencyId, goneBefore(now)]);
      const news = [...left, ...came.filter(({ isNew }) => isNew)];
      await announceChange(manager, { agencyId: who.agencyId, topics: news.map(({ id }) => `presence:${id}` as const) });
    });
  }

  /** Everybody else at a thing. */
  async people(who: Who, thing: Thing): Promise<PeopleHere> {
    requireFound((await isSeen(this.database.manager, who, thing)) ? thing : null, thing.kind);
    return { people: await this.database.rows<PersonRef>(HERE, [thing.id, who.agencyId, who.personId, goneBefore(this.clock.now())]) };
  }
}

const goneBefore = (now: Date): Date => new Date(now.getTime() - PRESENCE_GONE_AFTER_MS);

async function isSeen(manager: EntityManager, who: Who, { kind, id }: Thing): Promise<boolean> {
  const { from, seen } = SEEN[kind];
  const { sql, values } = seen(who, 2);
  return (await firstRow(manager, `SELECT 1 FROM ${from}.id = $1 AND ${sql}`, [id, ...values])) !== null;
}

const SEEN: Readonly<Record<PresenceKind, { readonly from: string; readonly seen: (who: Who, first: number) => Condition }>> = {
  engagement: { from: 'engagement e WHERE e', seen: engagementSeenBy },
  task: { from: 'task t WHERE t', seen: taskSeenBy },
};

const LEAVE = `
  DELETE FROM presence WHERE person_id = $1 AND window_id = $2 AND subject_id <> ALL($3) RETURNING subject_id AS id`;

/** Somebody whose window counted as closed is reported as new. */
const COME = `
  WITH given AS (SELECT * FROM jsonb_to_recordset($5) AS v(kind text, id uuid)),
  before AS (SELECT p.subject_id FROM presence p WHERE p.person_id = $1 AND p.window_id = $2 AND p.seen_at >= $6)
  INSERT INTO presence (person_id, window_id, subject_id, kind, agency_id, seen_at) SELECT DISTINCT $1::uuid, $2, v.id, v.kind, $3::uuid, $4::timestamptz FROM given v
  ON CONFLICT (person_id, window_id, subject_id) DO UPDATE SET seen_at = excluded.seen_at
  RETURNING subject_id AS id, subject_id NOT IN (SELECT b.subject_id FROM before b) AS "isNew"`;

/** Two processes may delete the same old rows at once; rows the other holds are left alone. */
const FORGET = `
  DELETE FROM presence p USING (SELECT ctid FROM presence WHERE agency_id = $1 AND seen_at < $2 FOR UPDATE SKIP LOCKED) old WHERE p.ctid = old.ctid`;

const HERE = `
  SELECT q.id, q.name, q.initials FROM person q WHERE q.agency_id = $2 AND q.id <> $3
    AND EXISTS (SELECT 1 FROM presence p WHERE p.person_id = q.id AND p.subject_id = $1 AND p.seen_at >= $4) ORDER BY q.name`;
