import type { IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import type { Access, ClientHue } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Account } from '../account/account.entity.ts';
import { hashPassword } from '../account/password.ts';
import { Client, Contact } from '../client/client.entity.ts';
import { Role, TimeOff } from '../crew/crew.entity.ts';
import { CrewRepository } from '../crew/crew.repository.ts';
import { initialsOf } from '../crew/initials.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import { Agency, ClosedDay } from './agency.entity.ts';

/** An agency as it begins: its calendar, its crew with roles, its clients. */
export interface AgencyDraft {
  readonly name: string;
  readonly zone: string;
  readonly country?: string;
  readonly currency?: string;
  readonly week: readonly number[];
  readonly closed: readonly { readonly day: IsoDay; readonly name: string }[];
  readonly roles: readonly string[];
  readonly people: readonly PersonDraft[];
  readonly clients: readonly ClientDraft[];
}

export interface PersonDraft {
  readonly name: string;
  readonly email: string;
  readonly password: string;
  readonly access: Access;
  readonly roles: readonly string[];
  readonly week: readonly number[];
  readonly reserve?: number;
  readonly off?: readonly { readonly from: IsoDay; readonly to: IsoDay; readonly minutes?: number; readonly note: string }[];
}

export interface ClientDraft {
  readonly name: string;
  readonly hue: ClientHue;
  readonly isOwn?: boolean;
  readonly contacts: readonly {
    readonly name: string;
    readonly email: string;
    readonly password: string;
    readonly phone?: string;
    readonly notes?: string;
  }[];
}

/** Sets up the agency of this installation, once, all of it or nothing. */
@Injectable()
export class CreateAgency {
  private readonly database: Database;
  private readonly crew: CrewRepository;
  private readonly clock: Clock;
  constructor(database: Database, crew: CrewRepository, clock: Clock) {
    this.database = database;
    this.crew = crew;
    this.clock = clock;
  }

  /** Sets the clock to the agency's time zone, once there is an agency. */
  async setClock(): Promise<void> {
    const agency = await firstRow<{ zone: string }>(this.database.manager, 'SELECT zone FROM agency LIMIT 1', []);
    if (agency !== null) this.clock.useZone(agency.zone);
  }

  /** `furnish` runs in the same transaction, so that it is all or nothing; its answer is passed on. */
  async run<Answer = void>(draft: AgencyDraft, furnish?: (manager: EntityManager) => Promise<Answer>): Promise<Answer> {
    // Asking again and again costs no more than this.
    await refuseSecond(this.database.manager);
    const answer = await this.database.transaction(async (manager) => {
      // Two first visitors at once: the second waits here and then finds an agency.
      await rowsOf(manager, 'SELECT pg_advisory_xact_lock($1)', [SET_UP_LOCK]);
      await refuseSecond(manager);
      const { name, zone, week, country = null, currency } = draft;
      const about = { name, zone, week: [...week], country, ...(currency === undefined ? {} : { currency }) };
      const { identifiers } = await manager.insert(Agency, about);
      const agencyId = (identifiers[0] as { id: string }).id;
      if (draft.closed.length > 0)
        await manager.insert(
          ClosedDay,
          draft.closed.map((closed) => ({ agencyId, ...closed })),
        );
      if (draft.roles.length > 0)
        await manager.insert(
          Role,
          draft.roles.map((role) => ({ agencyId, name: role })),
        );
      for (const person of draft.people) await this.addPerson(manager, agencyId, person);
      for (const client of draft.clients) await writeClient(manager, agencyId, client);
      return (await furnish?.(manager)) as Answer;
    });
    await this.setClock();
    return answer;
  }

  private async addPerson(manager: EntityManager, agencyId: string, person: PersonDraft): Promise<void> {
    const personId = await this.crew.addPerson(manager, agencyId, person);
    await this.crew.setRoles(manager, agencyId, { personId, roles: person.roles });
    const off = (person.off ?? []).map(({ from, to, minutes, note }) => ({
      personId,
      fromDay: from,
      toDay: to,
      minutes: minutes ?? null,
      note,
    }));
    if (off.length > 0) await manager.insert(TimeOff, off);
  }
}

const SET_UP_LOCK = 724_102;

async function refuseSecond(manager: EntityManager): Promise<void> {
  if ((await firstRow(manager, 'SELECT 1 FROM agency LIMIT 1', [])) !== null)
    throw new Refusal('already-there', 'This installation has its agency already. Sign in instead.');
}

async function writeClient(manager: EntityManager, agencyId: string, client: ClientDraft): Promise<void> {
  const { identifiers } = await manager.insert(Client, { agencyId, name: client.name, hue: client.hue, isOwn: client.isOwn ?? false });
  const clientId = (identifiers[0] as { id: string }).id;
  for (const contact of client.contacts) {
    const { name, email, phone = '', notes = '' } = contact;
    const made = await manager.insert(Contact, { clientId, name, email: email.toLowerCase(), initials: initialsOf(name), phone, notes });
    const contactId = (made.identifiers[0] as { id: string }).id;
    await manager.insert(Account, { agencyId, email: email.toLowerCase(), passwordHash: await hashPassword(contact.password), contactId });
  }
}
