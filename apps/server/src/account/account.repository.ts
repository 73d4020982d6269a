import { Injectable } from '@nestjs/common';
import type { DemoPerson } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { IsoDay } from '@crew/core';
import { Database, firstRow } from '../platform/database.ts';
import { handoffsWaitingFor } from '../platform/sql-words.ts';
import type { Accounts, Who } from '../platform/rights.ts';
import { DEMO_SHOWS } from './demo-shows.ts';

const WHO = `
  SELECT account.id AS "accountId", account.agency_id AS "agencyId", agency.name AS "agencyName",
         coalesce(person.access, 'client') AS access, coalesce(person.name, contact.name) AS name,
         coalesce(person.initials, contact.initials) AS initials,
         person.id AS "personId", client.id AS "clientId", client.name AS "clientName",
         agency.second_factor_for = 'leads' AND person.access IN ('owner', 'lead')
           AND NOT EXISTS (SELECT 1 FROM second_factor f WHERE f.account_id = account.id AND f.confirmed_at IS NOT NULL) AS "mustAddSecondFactor",
         CASE WHEN client.id IS NULL THEN '{}'::uuid[]
              ELSE client.id || ARRAY(SELECT x.client_id FROM contact_client x WHERE x.contact_id = contact.id ORDER BY x.client_id) END AS "clientIds"
  FROM account
  JOIN agency ON agency.id = account.agency_id
  LEFT JOIN person ON person.id = account.person_id
  LEFT JOIN contact ON contact.id = account.contact_id
  LEFT JOIN client ON client.id = contact.client_id
  WHERE account.id = $1 AND coalesce(person.is_active, contact.is_active)`;

@Injectable()
export class AccountRepository implements Accounts {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  /** The person or contact behind an account that may still sign in. */
  findWho(accountId: string, manager: EntityManager = this.database.manager): Promise<Who | null> {
    return firstRow<Who>(manager, WHO, [accountId]);
  }

  /** Whether a session is open and its account still has the access it began with. */
  async isStillIn(who: Pick<Who, 'accountId' | 'access'>, sessionId: string): Promise<boolean> {
    const open = await this.database.row('SELECT 1 FROM session WHERE sid = $1 AND expire > now()', [sessionId]);
    return open !== null && (await this.findWho(who.accountId))?.access === who.access;
  }

  findByEmail(email: string, manager: EntityManager = this.database.manager): Promise<{ id: string; passwordHash: string | null } | null> {
    return firstRow(manager, 'SELECT id, password_hash AS "passwordHash" FROM account WHERE email = $1', [email]);
  }

  /** The hints an account has closed. */
  async closedHints(accountId: string): Promise<string[]> {
    const sql = 'SELECT closed_hints AS hints FROM account WHERE id = $1';
    return (await this.database.row<{ hints: string[] }>(sql, [accountId]))?.hints ?? [];
  }

  /** Closes a hint for an account; one that is closed stays closed. */
  async closeHint(accountId: string, hint: string): Promise<void> {
    await this.database.rows(
      `UPDATE account SET closed_hints = array_append(closed_hints, $2)
       WHERE id = $1 AND NOT $2 = ANY(closed_hints) AND cardinality(closed_hints) < 100`,
      [accountId, hint],
    );
  }

  /** Shows all hints again. */
  async openHints(accountId: string): Promise<void> {
    await this.database.rows(`UPDATE account SET closed_hints = '{}' WHERE id = $1`, [accountId]);
  }

  /** The address an account signs in by. */
  async emailOf(accountId: string): Promise<string> {
    return (await this.database.row<{ email: string }>('SELECT email FROM account WHERE id = $1', [accountId]))?.email ?? '';
  }

  /** Everybody the demo's sign-in page offers. */
  async listDemoPeople(): Promise<DemoPerson[]> {
    const people = await this.database.rows<Omit<DemoPerson, 'shows'>>(`
      SELECT account.id AS "accountId", coalesce(person.name, contact.name) AS name, coalesce(person.initials, contact.initials) AS initials,
             coalesce(person.access, 'client') AS access,
             coalesce((SELECT string_agg(role.name, ', ' ORDER BY held.position) FROM person_role held JOIN role ON role.id = held.role_id
                       WHERE held.person_id = person.id), client.name) AS line
      FROM account
      LEFT JOIN person ON person.id = account.person_id
      LEFT JOIN contact ON contact.id = account.contact_id
      LEFT JOIN client ON client.id = contact.client_id
      WHERE coalesce(person.is_active, contact.is_active)
      ORDER BY person.id IS NULL, array_position(ARRAY['lead', 'member', 'owner', 'freelancer'], person.access), client.name, 2`);
    return people.map((person) => ({ ...person, shows: DEMO_SHOWS[person.name] ?? null }));
  }

  /** What waits for somebody: handoffs to pick up or answer, and work on the desk that is late or new. */
  countWaiting(who: Who, today: IsoDay): Promise<{ handoffs: number; desk: number } | null> {
    return this.database.row(
      `SELECT (SELECT count(*)::int FROM (${handoffsWaitingFor('$1', '$2::date')}) waiting) AS handoffs,
              (SELECT count(*)::int FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN phase p ON p.id = t.phase_id JOIN engagement e ON e.id = t.engagement_id AND e.state IN ('proposal', 'open')
               WHERE a.person_id = $1 AND a.is_open AND a.seen_at IS NULL AND p.state = 'running') AS desk`,
      [who.personId, today],
    );
  }
}
