import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';

/** Whether the agency's mail leaves this installation; without a server of its own it stays in the bundled mailboxes. */
export const hasMailServer = async (manager: EntityManager, agencyId: string): Promise<boolean> =>
  (await firstRow(manager, 'SELECT 1 FROM mail_server WHERE agency_id = $1', [agencyId])) !== null;
