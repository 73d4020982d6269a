import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { SessionLine } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Database, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { deviceWords } from './device-words.ts';
import { KeepSecurityLog } from './security-log.ts';

interface Row {
  readonly sid: string;
  readonly beganAt: number | null;
  readonly renewedAt: number | null;
  readonly ip: string | null;
  readonly userAgent: string | null;
}

const READ = `
  SELECT sid, (sess->>'beganAt')::float8 AS "beganAt", (sess->>'renewedAt')::float8 AS "renewedAt", sess->'origin'->>'ip' AS ip,
    sess->'origin'->>'userAgent' AS "userAgent"
  FROM session WHERE sess->>'accountId' = $1 AND expire > now() ORDER BY coalesce(sess->>'renewedAt', sess->>'beganAt') DESC`;
const END_OTHERS = `DELETE FROM session WHERE sess->>'accountId' = $1 AND sid <> $2 RETURNING 1`;
const END_ONE = `DELETE FROM session WHERE sess->>'accountId' = $1 AND sid = $2 RETURNING 1`;

/** A session is named by a hash of its id: whoever knows the id could use the session. */
const nameOf = (sid: string): string => createHash('sha256').update(sid).digest('base64url').slice(0, 22);

/** Ends all sessions of an account. */
export async function endSessionsOf(manager: EntityManager, accountId: string): Promise<void> {
  await rowsOf(manager, `DELETE FROM session WHERE sess->>'accountId' = $1`, [accountId]);
}

/** One's own sessions, on whatever device, and ending them. */
@Injectable()
export class OwnSessions {
  private readonly database: Database;
  private readonly log: KeepSecurityLog;
  constructor(database: Database, log: KeepSecurityLog) {
    this.database = database;
    this.log = log;
  }

  async list(who: Who, present: string): Promise<SessionLine[]> {
    const rows = await this.database.rows<Row>(READ, [who.accountId]);
    return rows.map(({ sid, beganAt, renewedAt, ip, userAgent }) => ({
      id: nameOf(sid),
      device: deviceWords(userAgent ?? ''),
      ip: ip ?? '',
      beganAt: new Date(beganAt ?? 0).toISOString(),
      usedAt: new Date(renewedAt ?? beganAt ?? 0).toISOString(),
      isThis: sid === present,
    }));
  }

  /** Ends all but the present one; those who use them are signed out at their next request. */
  async endOthers(who: Who, present: string, manager: EntityManager = this.database.manager): Promise<void> {
    const ended = await rowsOf(manager, END_OTHERS, [who.accountId, present]);
    if (ended.length > 0) await this.log.add({ kind: 'sessions-ended', accountId: who.accountId, note: `${ended.length}` }, manager);
  }

  /** Ends one of them, which is not the present one. */
  async end(who: Who, { id, present }: { readonly id: string; readonly present: string }): Promise<void> {
    const rows = await this.database.rows<Row>(READ, [who.accountId]);
    const sid = rows.map((row) => row.sid).find((one) => nameOf(one) === id);
    if (sid === present) throw new Refusal('wrong-moment', 'This is the session you are using. Sign out instead.');
    // If it has ended meanwhile, that is what was asked for.
    if (sid === undefined) return;
    const ended = await this.database.rows(END_ONE, [who.accountId, sid]);
    if (ended.length > 0) await this.log.add({ kind: 'sessions-ended', accountId: who.accountId, note: '1' });
  }
}
