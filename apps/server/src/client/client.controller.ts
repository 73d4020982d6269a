import { Controller, Get } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { ClientSummary } from '@crew/contract';
import { Database } from '../platform/database.ts';
import { Allow, Caller, STAFF, type Who } from '../platform/rights.ts';

@ApiTags('clients')
@Controller('clients')
export class ClientController {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  /** Clients with their contacts; our own agency last. */
  @Get()
  @Allow(STAFF)
  list(@Caller() who: Who): Promise<ClientSummary[]> {
    return this.database.rows(
      `SELECT c.id, c.name, c.hue, c.is_own AS "isOwn",
         coalesce((SELECT json_agg(json_build_object('id', k.id, 'name', k.name) ORDER BY k.name) FROM contact k WHERE k.client_id = c.id), '[]') AS contacts
       FROM client c WHERE c.agency_id = $1 ORDER BY c.is_own, c.name`,
      [who.agencyId],
    );
  }
}
