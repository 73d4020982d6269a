import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import {
  CLIENT_HUE,
  type AddClient,
  type AddContact,
  type ClientEdited,
  type ClientSheet,
  type ContactEdited,
  type ContactView,
  type EditClient,
  type EditContact,
  type FieldChange,
  type Made,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { initialsOf } from '../crew/initials.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ClientRepository } from './client.repository.ts';

/** Adds, edits and archives clients and their contacts. Nobody is deleted: finished work names them. */
@Injectable()
export class LookAfterClients {
  private readonly database: Database;
  private readonly clients: ClientRepository;
  private readonly clock: Clock;
  constructor(database: Database, clients: ClientRepository, clock: Clock) {
    this.database = database;
    this.clients = clients;
    this.clock = clock;
  }

  /** A new client; without a hue it takes the one used least. */
  add(who: Who, input: AddClient): Promise<Made> {
    return this.database.transaction(async (manager) => {
      const made = await insertClient(manager, who, input);
      await record(manager, { actor: who, at: this.clock.now() }, [
        { kind: 'client-added', engagementId: null, subject: 'client', subjectId: made.id },
      ]);
      return made;
    });
  }

  /** Changes a client; a stale version changes nothing and says how it is now. */
  edit(who: Who, clientId: string, input: EditClient): Promise<ClientEdited> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const client = await this.editIn(manager, who, { clientId, input });
      return { client, changeId: changeIdOf(manager) };
    });
  }

  /** As `edit`, inside a transaction that has locked the agency. */
  async editIn(
    manager: EntityManager,
    who: Who,
    { clientId, input }: { readonly clientId: string; readonly input: EditClient },
  ): Promise<ClientSheet> {
    const before = requireFound(await this.clients.find(who, clientId, manager), 'client');
    if (before.version !== input.version)
      throw new Refusal('changed-meanwhile', 'Somebody changed this client since you opened it. Compare both versions and choose one.', {
        details: { current: before },
      });
    const changes = changesOf({ name: before.name, hue: before.hue }, { name: input.name?.trim(), hue: input.hue });
    if (changes.length === 0) return before;
    await rowsOf(manager, 'UPDATE client SET name = coalesce($2, name), hue = coalesce($3, hue), version = version + 1 WHERE id = $1', [
      ...[clientId, input.name?.trim() ?? null, input.hue ?? null],
    ]);
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind: 'client-changed', engagementId: null, subject: 'client', subjectId: clientId, changes },
    ]);
    return requireFound(await this.clients.find(who, clientId, manager), 'client');
  }

  /** A new contact; they can be named on the client's engagements at once. */
  addContact(who: Who, clientId: string, input: AddContact): Promise<ContactView> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      requireFound(await this.clients.find(who, clientId, manager), 'client');
      const email = input.email.trim().toLowerCase();
      await refuseKnown(manager, who, { email, contactId: null });
      const name = input.name.trim();
      const made = await firstRow<Made>(
        manager,
        'INSERT INTO contact (client_id, name, initials, email, phone, notes) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id',
        [clientId, name, initialsOf(name), email, input.phone?.trim() ?? '', input.notes?.trim() ?? ''],
      );
      const contactId = (made as Made).id;
      await record(manager, { actor: who, at: this.clock.now() }, [
        { kind: 'contact-added', engagementId: null, subject: 'client', subjectId: clientId, payload: { contactId, name } },
      ]);
      return requireFound(await this.clients.findContact(who, contactId, manager), 'contact');
    });
  }

  /**
   * Edits a contact; a stale version changes nothing and says how they are now. Their sign-in keeps
   * its address; former contacts cannot use it.
   */
  editContact(who: Who, contactId: string, input: EditContact): Promise<ContactEdited> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const contact = await this.editContactIn(manager, who, { contactId, input });
      return { contact, changeId: changeIdOf(manager) };
    });
  }

  /** As `editContact`, inside a transaction that has locked the agency. */
  async editContactIn(
    manager: EntityManager,
    who: Who,
    { contactId, input }: { readonly contactId: string; readonly input: EditContact },
  ): Promise<ContactView> {
    const before = requireFound(await this.clients.findContact(who, contactId, manager), 'contact');
    if (before.version !== input.version)
      throw new Refusal('changed-meanwhile', 'Somebody changed this contact since you opened it. Compare both versions and choose one.', {
        details: { current: before },
      });
    const wanted = asWritten(input);
    // Who saves what is there already changes nothing, not even the version others hold.
    if (isSame(before, wanted)) return before;
    const { name, email, phone, notes, isActive, clientIds } = wanted;
    if (email !== undefined && email !== before.email) await refuseKnown(manager, who, { email, contactId });
    if (clientIds !== undefined) await this.setClients(manager, who, { contactId, clientIds });
    await rowsOf(
      manager,
      `UPDATE contact SET name = coalesce($2, name), initials = coalesce($3, initials), email = coalesce($4, email), phone = coalesce($5, phone),
         notes = coalesce($6, notes), is_active = coalesce($7, is_active), version = version + 1 WHERE id = $1`,
      [
        contactId,
        name ?? null,
        name === undefined ? null : initialsOf(name),
        email ?? null,
        phone ?? null,
        notes ?? null,
        isActive ?? null,
      ],
    );
    const after = requireFound(await this.clients.findContact(who, contactId, manager), 'contact');
    await this.recordContact(manager, who, { before, after });
    return after;
  }

  /** Recorded at each client they are or were a contact of. */
  private recordContact(
    manager: EntityManager,
    who: Who,
    { before, after }: { readonly before: ContactView; readonly after: ContactView },
  ): Promise<void> {
    const names = Object.fromEntries([...before.clients, ...after.clients].map((client) => [client.id, client.name]));
    const changes = changesOf(factsOfContact(before), factsOfContact(after));
    return record(
      manager,
      { actor: who, at: this.clock.now() },
      Object.keys(names).map((subjectId) => ({
        ...({ kind: 'contact-changed', engagementId: null, subject: 'client', subjectId } as const),
        ...{ payload: { contactId: after.id, name: after.name }, changes, names },
      })),
    );
  }

  /** The first of the clients is the main one. Engagements with a client that is left go on without naming them. */
  private async setClients(
    manager: EntityManager,
    who: Who,
    { contactId, clientIds }: { readonly contactId: string; readonly clientIds: readonly string[] },
  ): Promise<void> {
    const ids = [...new Set(clientIds)];
    const known = await rowsOf(manager, 'SELECT 1 FROM client WHERE id = ANY($1) AND agency_id = $2', [ids, who.agencyId]);
    if (known.length < ids.length)
      throw new Refusal('unknown-id', 'This client is not one of yours. Choose from the list.', { field: 'clientIds' });
    const named = await firstRow<{ name: string }>(
      manager,
      `SELECT e.name FROM engagement e WHERE e.contact_id = $1 AND NOT e.client_id = ANY($2) AND e.state IN ('proposal', 'open') ORDER BY e.name LIMIT 1`,
      [contactId, ids],
    );
    if (named !== null)
      throw new Refusal('wrong-moment', `They are the contact of “${named.name}”. Choose another there first.`, { field: 'clientIds' });
    await rowsOf(manager, 'UPDATE contact SET client_id = $2 WHERE id = $1', [contactId, ids[0]]);
    await rowsOf(manager, 'DELETE FROM contact_client WHERE contact_id = $1', [contactId]);
    await rowsOf(manager, 'INSERT INTO contact_client (contact_id, client_id) SELECT $1, unnest($2::uuid[])', [contactId, ids.slice(1)]);
  }
}

/** What is given of a contact, as it is kept. */
const asWritten = ({ name, email, phone, notes, isActive, clientIds }: EditContact) => ({
  ...{ name: name?.trim(), email: email?.trim().toLowerCase(), phone: phone?.trim(), notes: notes?.trim() },
  ...{ isActive, clientIds },
});

/** Whether all that is given is as it is already. */
const isSame = (contact: ContactView, wanted: ReturnType<typeof asWritten>): boolean =>
  (['name', 'email', 'phone', 'notes', 'isActive'] as const).every(
    (field) => wanted[field] === undefined || wanted[field] === contact[field],
  ) &&
  (wanted.clientIds === undefined ||
    isDeepStrictEqual(
      wanted.clientIds,
      contact.clients.map(({ id }) => id),
    ));

/** The fields of a contact that are recorded when they change; clients by id, the main one first. */
export const factsOfContact = ({ name, email, phone, notes, isActive, clients }: ContactView) => ({
  ...{ name, email, phone, notes, isActive },
  clients: clients.map(({ id }) => id),
});

function changesOf(before: object, after: object): FieldChange[] {
  const values = new Map<string, unknown>(Object.entries(before));
  return Object.entries(after)
    .filter(([field, to]) => to !== undefined && !isDeepStrictEqual(values.get(field), to))
    .map(([field, to]): FieldChange => ({ field, from: values.get(field) ?? null, to: to as unknown }));
}

/** Two contacts with one mail address are one person. */
async function refuseKnown(
  manager: EntityManager,
  who: Who,
  { email, contactId }: { readonly email: string; readonly contactId: string | null },
): Promise<void> {
  const known = await firstRow<{ name: string; client: string }>(
    manager,
    `SELECT k.name, c.name AS client FROM contact k JOIN client c ON c.id = k.client_id
     WHERE c.agency_id = $1 AND k.email = $2 AND k.id IS DISTINCT FROM $3 LIMIT 1`,
    [who.agencyId, email, contactId],
  );
  if (known !== null)
    throw new Refusal('already-there', `“${known.name}” of ${known.client} has this address. Add this client to them instead.`, {
      field: 'email',
    });
}

async function insertClient(manager: EntityManager, who: Who, input: AddClient): Promise<Made> {
  const row = await firstRow<Made>(
    manager,
    `INSERT INTO client (agency_id, name, hue)
       VALUES ($1, $2, coalesce($3, (SELECT h.hue FROM unnest($4::text[]) WITH ORDINALITY AS h(hue, place)
         ORDER BY (SELECT count(*) FROM client c WHERE c.agency_id = $1 AND c.hue = h.hue), h.place LIMIT 1))) RETURNING id`,
    [who.agencyId, input.name.trim(), input.hue ?? null, CLIENT_HUE.filter((hue) => hue !== 'slate')],
  );
  return row as Made;
}
