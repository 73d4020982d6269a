import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import type { MailTo } from './queue-mail.ts';

const CONTACT = `
  SELECT c.id AS "contactId", c.name, c.email AS address FROM engagement e JOIN contact c ON c.is_active AND c.email <> ''
    AND (c.id = e.contact_id OR (e.contact_id IS NULL AND c.client_id = e.client_id))
  WHERE e.id = $1 ORDER BY c.name LIMIT 1`;

/** Whom mail about an engagement goes to at the client: its contact, else the first of its client; null without an address. */
export const readContactOf = (
  manager: EntityManager,
  engagementId: string | null,
): Promise<(MailTo & { readonly contactId: string }) | null> => firstRow(manager, CONTACT, [engagementId]);
