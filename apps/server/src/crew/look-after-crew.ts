import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import type { CrewMember, EditPerson, FieldChange, InvitedPerson, PersonEdited } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { KeepSecurityLog } from '../account/security-log.ts';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import { CrewRepository } from './crew.repository.ts';

/**
 * Adds, edits and deactivates people. Nobody is deleted: what they did stays theirs. Only owners
 * decide who is an owner, and there is always one.
 */
@Injectable()
export class LookAfterCrew {
  private readonly database: Database;
  private readonly crew: CrewRepository;
  private readonly clock: Clock;
  private readonly log: KeepSecurityLog;
  constructor(database: Database, crew: CrewRepository, clock: Clock, log: KeepSecurityLog) {
    this.database = database;
    this.crew = crew;
    this.clock = clock;
    this.log = log;
  }

  /** A new colleague who has no password yet; without a week, the agency's. Answers their id. */
  async addIn(manager: EntityManager, who: Who, input: InvitedPerson): Promise<string> {
    const access = input.access ?? 'member';
    if (access === 'owner') requireOwner(who);
    const email = input.email.trim();
    await this.refuseTakenAddress(manager, email);
    const agency = await firstRow<{ week: number[] }>(manager, 'SELECT week FROM agency WHERE id = $1', [who.agencyId]);
    const week = input.week ?? agency?.week ?? [];
    const name = input.name.trim();
    const personId = await this.crew.addPerson(manager, who.agencyId, { name, email, access, week, password: null });
    await this.crew.setRoles(manager, who.agencyId, { personId, roles: input.roles ?? [] });
    await this.record(manager, who, { kind: 'person-added', personId, changes: [{ field: 'access', from: null, to: access }] });
    return personId;
  }

  /** Changes somebody; a stale version changes nothing and says how they are now. */
  edit(who: Who, personId: string, input: EditPerson): Promise<PersonEdited> {
    return this.database.transaction(async (manager) => {
      // Two owners cannot remove each other's access at once.
      await lockAgency(manager, who.agencyId);
      const person = await this.editIn(manager, who, { personId, input });
      return { person, changeId: changeIdOf(manager) };
    });
  }

  /** As `edit`, inside a transaction that has locked the agency. */
  async editIn(
    manager: EntityManager,
    who: Who,
    { personId, input }: { readonly personId: string; readonly input: EditPerson },
  ): Promise<CrewMember> {
    const person = requireFound(await this.crew.lockMember(manager, who.agencyId, personId), 'person');
    const next = {
      id: person.id,
      version: input.version,
      name: input.name?.trim() ?? person.name,
      access: input.access ?? (person.access as Exclude<CrewMember['access'], 'client'>),
      week: input.week ?? person.week,
      isActive: input.isActive ?? person.isActive,
      standInId: input.standInId === undefined ? person.standInId : input.standInId,
    };
    await this.refuseBreach(manager, who, { person, next });
    if (input.standInId !== undefined) await refuseStandIn(manager, who, { personId, standInId: input.standInId });
    if (!(await this.crew.writePerson(manager, next)))
      throw new Refusal('changed-meanwhile', 'Somebody changed this person since you opened it. Compare both versions and choose one.', {
        details: { current: person },
      });
    if (input.roles !== undefined) await this.crew.setRoles(manager, who.agencyId, { personId, roles: input.roles });
    const changed = requireFound(await this.crew.findMember(manager, who.agencyId, personId), 'person');
    const changes = (['name', 'access', 'week', 'isActive', 'roles', 'standInId'] as const)
      .filter((field) => !isDeepStrictEqual(person[field], changed[field]))
      .map((field): FieldChange => ({ field, from: person[field], to: changed[field] }));
    const names = await this.namesOf(manager, [person.standInId, changed.standInId]);
    if (changes.length > 0) await this.record(manager, who, { kind: 'person-changed', personId, changes, names });
    await this.logRights(manager, who, { before: person, after: changed });
    return changed;
  }

  private async logRights(manager: EntityManager, by: Who, { before, after }: { readonly before: CrewMember; readonly after: CrewMember }) {
    const sql = 'SELECT id FROM account WHERE person_id = $1';
    const accountId = (await firstRow<{ id: string }>(manager, sql, [after.id]))?.id ?? null;
    if (before.access !== after.access)
      await this.log.add({ kind: 'access-changed', accountId, by, note: `${before.access} → ${after.access}` }, manager);
    if (before.isActive !== after.isActive)
      await this.log.add({ kind: after.isActive ? 'reactivated' : 'deactivated', accountId, by }, manager);
  }

  private record(
    manager: EntityManager,
    who: Who,
    event: {
      readonly kind: 'person-added' | 'person-changed';
      readonly personId: string;
      readonly changes: readonly FieldChange[];
      readonly names?: Readonly<Record<string, string>>;
    },
  ): Promise<void> {
    const { kind, personId, changes, names = {} } = event;
    return record(manager, { actor: who, at: this.clock.now() }, [
      { kind, engagementId: null, subject: 'person', subjectId: personId, changes, names },
    ]);
  }

  private async refuseTakenAddress(manager: EntityManager, email: string): Promise<void> {
    if ((await firstRow(manager, 'SELECT 1 FROM account WHERE email = $1', [email.toLowerCase()])) !== null)
      throw new Refusal('already-there', 'Somebody signs in with this address already. Use another.', { field: 'email' });
  }

  private async namesOf(manager: EntityManager, ids: readonly (string | null)[]): Promise<Readonly<Record<string, string>>> {
    const people = await rowsOf<{ id: string; name: string }>(manager, 'SELECT id, name FROM person WHERE id = ANY($1::uuid[])', [ids]);
    return Object.fromEntries(people.map(({ id, name }) => [id, name]));
  }

  private async refuseBreach(
    manager: EntityManager,
    who: Who,
    { person, next }: { readonly person: CrewMember; readonly next: Pick<CrewMember, 'access' | 'isActive'> },
  ): Promise<void> {
    if (person.access === 'owner' || next.access === 'owner') requireOwner(who);
    if (!next.isActive && person.id === who.personId)
      throw new Refusal('not-allowed', 'You cannot end your own access. Ask another owner.', { field: 'isActive' });
    const stopsOwning = person.access === 'owner' && person.isActive && (next.access !== 'owner' || !next.isActive);
    if (stopsOwning && (await this.crew.countOtherOwners(manager, who.agencyId, person.id)) === 0)
      throw new Refusal('not-allowed', 'The agency needs an owner. Make somebody else owner first.', { field: 'access' });
  }
}

const requireOwner = (who: Who): void =>
  requireCan(who, 'crew.edit-owners', { words: 'Only an owner decides who owns the agency. Ask one of them.', field: 'access' });

/** A stand-in is another member of the crew who signs in and is no freelancer: they receive handoffs of the whole agency. */
async function refuseStandIn(
  manager: EntityManager,
  who: Who,
  { personId, standInId }: { readonly personId: string; readonly standInId: string | null },
): Promise<void> {
  if (standInId === null) return;
  const field = { field: 'standInId' } as const;
  if (standInId === personId) throw new Refusal('invalid-input', 'A person cannot be their own stand-in. Choose somebody else.', field);
  const sql = `SELECT is_active AND access <> 'freelancer' AS "canStandIn" FROM person WHERE id = $1 AND agency_id = $2`;
  const row = await firstRow<{ canStandIn: boolean }>(manager, sql, [standInId, who.agencyId]);
  if (row === null) throw new Refusal('unknown-id', 'The stand-in is not on your crew. Choose from the list.', field);
  if (!row.canStandIn) throw new Refusal('invalid-input', 'Freelancers and people who left cannot stand in. Choose somebody else.', field);
}
