import { Injectable } from '@nestjs/common';
import type { SecurityKind, SecurityLine, SecurityLog } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { originOfRequest, type RequestOrigin } from '../platform/request-context.ts';
import type { Who } from '../platform/rights.ts';
import { deviceWords } from './device-words.ts';

/** A line for the log; time and origin are those of the request. */
export interface Logged {
  readonly kind: SecurityKind;
  /** The account it concerns, by its name; `whom` is for addresses without an account. */
  readonly accountId: string | null;
  readonly whom?: string;
  /** Who did it, where it was somebody else. */
  readonly by?: Who;
  readonly note?: string;
  /** Of the request that asked for it, where a job does it; left out, of the present request. */
  readonly origin?: RequestOrigin;
}

const PAGE = 50;
const INSERT = `
  INSERT INTO security_event (agency_id, account_id, kind, whom, by, at, ip, device, note)
  SELECT g.id, x.id, $2, coalesce($3, p.name, c.name, x.email, ''), $4, $5, $6, $7, $8
  FROM (SELECT id FROM agency LIMIT 1) g LEFT JOIN account x ON x.id = $1
  LEFT JOIN person p ON p.id = x.person_id LEFT JOIN contact c ON c.id = x.contact_id`;
const READ = `
  SELECT e.id::text, kind, whom, by, at, ip, device, note FROM security_event e
  WHERE agency_id = $1 AND ($2::bigint IS NULL OR e.id < $2) ORDER BY e.id DESC LIMIT ${PAGE + 1}`;

/** Who signed in, who was refused, and whose rights were changed; owners read it. */
@Injectable()
export class KeepSecurityLog {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Adds a line, in the transaction of what it tells of; a refusal stands by itself. */
  async add(logged: Logged, manager: EntityManager = this.database.manager): Promise<void> {
    const { accountId, kind, whom = null, by, note = '', origin = originOfRequest() } = logged;
    const { ip, userAgent } = origin;
    const other = by === undefined || by.accountId === accountId ? null : by.name;
    await rowsOf(manager, INSERT, [accountId, kind, whom, other, this.clock.now(), ip, deviceWords(userAgent), note]);
  }

  /** The newest lines before one, newest first. */
  async read(who: Who, before: string | null): Promise<SecurityLog> {
    const rows = await this.database.rows<SecurityLine>(READ, [who.agencyId, before]);
    const lines = rows.slice(0, PAGE);
    return { lines, before: rows.length > PAGE ? (lines.at(-1)?.id ?? null) : null };
  }
}
