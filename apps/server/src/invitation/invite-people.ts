import { Injectable } from '@nestjs/common';
import { can, type AccessLinkMade, type InvitedPerson, type PeopleInvited } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { LookAfterCrew } from '../crew/look-after-crew.ts';
import { Database, firstRow } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { LINK_READER, MakeAccessLink, type LinkReader } from './make-access-link.ts';

/** People join by a link they choose their own password with: nobody tells somebody else a password. */
@Injectable()
export class InvitePeople {
  private readonly database: Database;
  private readonly crew: LookAfterCrew;
  private readonly links: MakeAccessLink;
  constructor(database: Database, crew: LookAfterCrew, links: MakeAccessLink) {
    this.database = database;
    this.crew = crew;
    this.links = links;
  }

  /** Adds people and makes their links, all or none; a fault names the person by their place in the list. */
  run(who: Who, people: readonly InvitedPerson[]): Promise<PeopleInvited> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const links: AccessLinkMade[] = [];
      for (const [place, person] of people.entries()) {
        const personId = await this.add(manager, who, { person, place });
        links.push(await this.links.run(manager, await this.readerOf(manager, who, personId), { by: who }));
      }
      return { links };
    });
  }

  /** Another link for somebody: an invitation sent again, or help for who has forgotten the password. The one before stops working. */
  again(who: Who, personId: string): Promise<AccessLinkMade> {
    return this.database.transaction(async (manager) => this.links.run(manager, await this.readerOf(manager, who, personId), { by: who }));
  }

  /** The link somebody was given, to pass on by hand. */
  async read(who: Who, personId: string): Promise<AccessLinkMade> {
    const { manager } = this.database;
    return requireFound(await this.links.find(manager, await this.readerOf(manager, who, personId)), 'link');
  }

  withdraw(who: Who, personId: string): Promise<void> {
    return this.database.transaction(async (manager) => this.links.withdraw(manager, await this.readerOf(manager, who, personId), who));
  }

  private async add(manager: EntityManager, who: Who, { person, place }: { readonly person: InvitedPerson; readonly place: number }) {
    try {
      return await this.crew.addIn(manager, who, person);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      throw new Refusal(error.code, error.message, { field: `people.${place}.${error.field ?? 'name'}` });
    }
  }

  /** Somebody of the crew; an owner's link is for owners to make. */
  private async readerOf(manager: EntityManager, who: Who, personId: string): Promise<LinkReader> {
    const sql = `${LINK_READER} AND a.person_id = $1 AND a.agency_id = $2`;
    const reader = requireFound(await firstRow<LinkReader>(manager, sql, [personId, who.agencyId]), 'person');
    const person = await firstRow<{ access: string }>(manager, 'SELECT access FROM person WHERE id = $1', [personId]);
    if (person?.access === 'owner' && !can(who, 'crew.edit-owners'))
      throw new Refusal('not-allowed', 'Only an owner can make a link for an owner. Ask one of them.');
    return reader;
  }
}
