import { Injectable } from '@nestjs/common';
import type { ClientSheet, ClientSummary, ContactView } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Database, firstRow } from '../platform/database.ts';
import { isContactOf } from '../platform/sql-words.ts';
import type { Who } from '../platform/rights.ts';

const LIST = `
  SELECT c.id, c.name, c.hue, c.is_own AS "isOwn",
    (SELECT count(*)::int FROM engagement e WHERE e.client_id = c.id AND e.state IN ('proposal', 'open')) AS open,
    coalesce((SELECT json_agg(json_build_object('id', k.id, 'name', k.name) ORDER BY k.name) FROM contact k
      WHERE k.is_active AND ${isContactOf('k', 'c.id')}), '[]') AS contacts
  FROM client c WHERE c.agency_id = $1 ORDER BY c.is_own, c.name`;

/** A contact k as those see them who look after them. */
const CONTACT = `
  json_build_object('id', k.id, 'name', k.name, 'initials', k.initials, 'email', k.email, 'phone', k.phone, 'notes', k.notes,
    'clients', (SELECT json_agg(json_build_object('id', a.id, 'name', a.name) ORDER BY a.id <> k.client_id, a.name) FROM client a WHERE ${isContactOf('k', 'a.id')}),
    'hasSignIn', EXISTS (SELECT 1 FROM account y WHERE y.contact_id = k.id), 'isActive', k.is_active, 'version', k.version)`;

const SHEET = `
  SELECT c.id, c.name, c.hue, c.is_own AS "isOwn", c.version,
    coalesce((SELECT json_agg(${CONTACT} ORDER BY NOT k.is_active, k.name) FROM contact k WHERE ${isContactOf('k', 'c.id')}), '[]') AS contacts,
    coalesce((SELECT json_agg(json_build_object('id', e.id, 'name', e.name, 'state', e.state, 'promise', e.promised_day, 'closedOn', e.closed_on,
        'shownTasks', (SELECT count(*) FROM task t WHERE t.engagement_id = e.id AND t.is_shown_to_client AND t.status <> 'dropped'))
        ORDER BY e.closed_on DESC NULLS FIRST, e.start_day, e.name)
      FROM engagement e WHERE e.client_id = c.id), '[]') AS engagements
  FROM client c WHERE c.id = $1 AND c.agency_id = $2`;

/** A contact of the agency. */
const ONE_CONTACT = `
  SELECT ${CONTACT} AS contact FROM contact k JOIN client c ON c.id = k.client_id WHERE k.id = $1 AND c.agency_id = $2`;

@Injectable()
export class ClientRepository {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  list(who: Who): Promise<ClientSummary[]> {
    return this.database.rows(LIST, [who.agencyId]);
  }

  /** A client of the agency with its contacts and engagements, or null. */
  find(who: Who, id: string, manager: EntityManager = this.database.manager): Promise<ClientSheet | null> {
    return firstRow<ClientSheet>(manager, SHEET, [id, who.agencyId]);
  }

  async findContact(who: Who, id: string, manager: EntityManager = this.database.manager): Promise<ContactView | null> {
    return (await firstRow<{ contact: ContactView }>(manager, ONE_CONTACT, [id, who.agencyId]))?.contact ?? null;
  }
}
