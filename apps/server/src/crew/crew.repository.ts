import { Injectable } from '@nestjs/common';
import type { Crew, CrewAccess, CrewMember, CrewPerson } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { hashPassword } from '../account/password.ts';
import { affectedRows, Database, firstRow, rowsOf } from '../platform/database.ts';
import { Clock } from '../platform/clock.ts';
import { lockPeople } from '../platform/locks.ts';
import { Person } from './crew.entity.ts';
import { initialsOf } from './initials.ts';

const PERSON = `
  p.id, p.name, p.initials, p.access, p.week,
  ARRAY(SELECT h.role_id FROM person_role h WHERE h.person_id = p.id ORDER BY h.position) AS "roleIds",
  ARRAY(SELECT r.name FROM person_role h JOIN role r ON r.id = h.role_id WHERE h.person_id = p.id ORDER BY h.position) AS roles`;

const MEMBER = `
  SELECT ${PERSON}, p.is_active AS "isActive", p.stand_in_id AS "standInId", p.version, account.email, account.password_hash IS NOT NULL AS "hasPassword",
    (SELECT max(l.expires_at) FROM access_link l WHERE l.account_id = account.id AND l.kind = 'invitation' AND l.used_at IS NULL AND l.withdrawn_at IS NULL AND l.expires_at > now()) AS "invitedUntil",
    (SELECT count(*)::int FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN engagement e ON e.id = t.engagement_id
     WHERE a.person_id = p.id AND a.is_open AND e.state IN ('proposal', 'open')) AS "openTasks"
  FROM person p JOIN account ON account.person_id = p.id`;

/** Somebody as they begin here. */
export interface NewPerson {
  readonly name: string;
  readonly email: string;
  /** Null for somebody who chooses it by a link. */
  readonly password: string | null;
  readonly access: string;
  readonly week: readonly number[];
  readonly reserve?: number;
}

/** People, the roles they hold and how they sign in. */
@Injectable()
export class CrewRepository {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Those who are with us, and all roles. */
  async read(agencyId: string): Promise<Crew> {
    const [roles, people] = await Promise.all([
      this.database.rows<Crew['roles'][number]>('SELECT id, name FROM role WHERE agency_id = $1 ORDER BY name', [agencyId]),
      this.database.rows<CrewPerson>(`SELECT ${PERSON} FROM person p WHERE p.agency_id = $1 AND p.is_active ORDER BY p.name`, [agencyId]),
    ]);
    return { roles, people };
  }

  /** Everybody, those who left last. */
  listMembers(agencyId: string): Promise<CrewMember[]> {
    return this.database.rows(`${MEMBER} WHERE p.agency_id = $1 ORDER BY NOT p.is_active, p.name`, [agencyId]);
  }

  /** One of them, locked until the transaction ends; null when not of this agency. */
  async lockMember(manager: EntityManager, agencyId: string, personId: string): Promise<CrewMember | null> {
    await lockPeople(manager, [personId]);
    return this.findMember(manager, agencyId, personId);
  }

  findMember(manager: EntityManager, agencyId: string, personId: string): Promise<CrewMember | null> {
    return firstRow(manager, `${MEMBER} WHERE p.id = $1 AND p.agency_id = $2`, [personId, agencyId]);
  }

  /** Makes a person with an account to sign in by, who is there from today. */
  async addPerson(manager: EntityManager, agencyId: string, person: NewPerson): Promise<string> {
    const { name, access, week, reserve = 0 } = person;
    const joinedOn = this.clock.today();
    const made = await manager.insert(Person, { agencyId, name, initials: initialsOf(name), access, week: [...week], reserve, joinedOn });
    const personId = (made.identifiers[0] as { id: string }).id;
    await manager.insert(Account, {
      agencyId,
      email: person.email.toLowerCase(),
      passwordHash: person.password === null ? null : await hashPassword(person.password),
      personId,
    });
    return personId;
  }

  /** Adds the roles that are not there yet; answers their names. */
  async addRoles(manager: EntityManager, agencyId: string, names: readonly string[]): Promise<string[]> {
    const sql = 'INSERT INTO role (agency_id, name) SELECT $1, unnest($2::text[]) ON CONFLICT DO NOTHING RETURNING name';
    return (await rowsOf<{ name: string }>(manager, sql, [agencyId, names])).map((role) => role.name);
  }

  /** Gives somebody exactly these roles, the main one first; names that are new become roles. */
  async setRoles(manager: EntityManager, agencyId: string, held: { readonly personId: string; readonly roles: readonly string[] }) {
    const names = [...new Set(held.roles.map((name) => name.trim()))];
    await this.addRoles(manager, agencyId, names);
    await rowsOf(manager, 'DELETE FROM person_role WHERE person_id = $1', [held.personId]);
    await rowsOf(
      manager,
      `INSERT INTO person_role (person_id, role_id, position)
       SELECT $2, r.id, v.place - 1 FROM unnest($3::text[]) WITH ORDINALITY AS v(name, place) JOIN role r ON r.agency_id = $1 AND r.name = v.name`,
      [agencyId, held.personId, names],
    );
  }

  /** Writes the fields of somebody as they were read; false when somebody was faster. */
  async writePerson(
    manager: EntityManager,
    person: {
      readonly id: string;
      readonly version: number;
      readonly name: string;
      readonly access: CrewAccess;
      readonly week: readonly number[];
      readonly isActive: boolean;
      readonly standInId: string | null;
    },
  ): Promise<boolean> {
    const count = await affectedRows(
      manager,
      `UPDATE person SET name = $3, initials = $4, access = $5, week = $6, is_active = $7, stand_in_id = $8, version = version + 1 WHERE id = $1 AND version = $2`,
      [person.id, person.version, person.name, initialsOf(person.name), person.access, person.week, person.isActive, person.standInId],
    );
    return count > 0;
  }

  /** Owners who can sign in, other than one. */
  async countOtherOwners(manager: EntityManager, agencyId: string, personId: string): Promise<number> {
    const row = await firstRow<{ owners: number }>(
      manager,
      `SELECT count(*)::int AS owners FROM person WHERE agency_id = $1 AND access = 'owner' AND is_active AND id <> $2`,
      [agencyId, personId],
    );
    return row?.owners ?? 0;
  }
}
