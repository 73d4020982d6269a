import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import { can, type EditClient, type EditContact, type EditPerson, type EventKind } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { EventToUndo, WentBack } from '../activity/undoable.ts';
import { ClientRepository } from '../client/client.repository.ts';
import { factsOfContact, LookAfterClients } from '../client/look-after-clients.ts';
import { CrewRepository } from '../crew/crew.repository.ts';
import { LookAfterCrew } from '../crew/look-after-crew.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { mergeChanges } from './fields-to-undo.ts';

/** Events of people, clients and contacts: they concern no engagement, and go back through the edit that made them. */
export const RECORD_EVENTS: readonly EventKind[] = ['person-changed', 'client-changed', 'contact-changed'];

/** Somebody or a client as they are now, and the edit that sets fields of theirs. */
interface Present {
  readonly name: string;
  readonly version: number;
  readonly fields: Readonly<Record<string, unknown>>;
  readonly set: (values: Readonly<Record<string, unknown>>) => Promise<unknown>;
}

/** Takes back what a change did to people, clients and contacts, by field and by the rules of any edit of them. */
@Injectable()
export class UndoRecords {
  private readonly crew: CrewRepository;
  private readonly people: LookAfterCrew;
  private readonly clients: ClientRepository;
  private readonly lookingAfter: LookAfterClients;
  constructor(crew: CrewRepository, people: LookAfterCrew, clients: ClientRepository, lookingAfter: LookAfterClients) {
    this.crew = crew;
    this.people = people;
    this.clients = clients;
    this.lookingAfter = lookingAfter;
  }

  /** The agency is locked. Answers whether anything was left to go back, and what somebody has changed since. */
  async run(manager: EntityManager, who: Who, events: readonly EventToUndo[]): Promise<WentBack> {
    const kept: WentBack['kept'][number][] = [];
    let isAny = false;
    for (const event of oncePerContact(events)) {
      const now = await this.present(manager, who, event);
      if (now === null) continue;
      const changes = mergeChanges(event.changes);
      const back = changes.filter(({ field, to }) => isDeepStrictEqual(now.fields[field], to));
      const others = changes.filter(({ field, from, to }) => ![from, to].some((value) => isDeepStrictEqual(now.fields[field], value)));
      // The week of a task is the one it is planned in; somebody's is told as their hours.
      kept.push(...others.map(({ field }) => ({ subjectId: event.subjectId, title: now.name, field: field === 'week' ? 'hours' : field })));
      if (back.length === 0) continue;
      await now.set(Object.fromEntries(back.map(({ field, from }) => [field, from])));
      isAny = true;
    }
    return { isAny, kept };
  }

  private async present(manager: EntityManager, who: Who, { kind, subjectId, payload }: EventToUndo): Promise<Present | null> {
    if (!can(who, kind === 'person-changed' ? 'crew.edit' : 'client.edit'))
      throw new Refusal('not-allowed', 'Only a lead can undo this. Ask one of them.');
    if (kind === 'person-changed') return this.person(manager, who, subjectId);
    return kind === 'client-changed' ? this.client(manager, who, subjectId) : this.contact(manager, who, payload['contactId'] as string);
  }

  private async person(manager: EntityManager, who: Who, id: string): Promise<Present | null> {
    const now = await this.crew.lockMember(manager, who.agencyId, id);
    if (now === null) return null;
    const { name, version } = now;
    const set = (values: object) => this.people.editIn(manager, who, { personId: id, input: { version, ...values } as EditPerson });
    return { name, version, fields: { ...now }, set };
  }

  private async client(manager: EntityManager, who: Who, id: string): Promise<Present | null> {
    const now = await this.clients.find(who, id, manager);
    if (now === null) return null;
    const { name, version } = now;
    const set = (values: object) => this.lookingAfter.editIn(manager, who, { clientId: id, input: { version, ...values } as EditClient });
    return { name, version, fields: { ...now }, set };
  }

  private async contact(manager: EntityManager, who: Who, id: string): Promise<Present | null> {
    const now = await this.clients.findContact(who, id, manager);
    if (now === null) return null;
    const { name, version } = now;
    const set = ({ clients, ...values }: Readonly<Record<string, unknown>>) => {
      const input = { version, ...values, ...(clients === undefined ? {} : { clientIds: clients }) };
      return this.lookingAfter.editContactIn(manager, who, { contactId: id, input: input as EditContact });
    };
    return { name, version, fields: factsOfContact(now), set };
  }
}

/** A change of a contact is told at each of their clients, and goes back once. */
function oncePerContact(events: readonly EventToUndo[]): EventToUndo[] {
  const contacts = events.map(({ payload }) => payload['contactId']);
  return events.filter((_, index) => contacts[index] === undefined || contacts.indexOf(contacts[index]) === index);
}
