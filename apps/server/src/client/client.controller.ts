import { Body, Controller, Get, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { AddClient, CLIENT_HUE, type ClientSummary, type Made } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('clients')
@Controller('clients')
export class ClientController {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** Clients with their contacts; our own agency last. */
  @Get()
  @Answers('ClientSummary', { isList: true })
  @Allow('client.read')
  list(@Caller() who: Who): Promise<ClientSummary[]> {
    return this.database.rows(
      `SELECT c.id, c.name, c.hue, c.is_own AS "isOwn",
         coalesce((SELECT json_agg(json_build_object('id', k.id, 'name', k.name) ORDER BY k.name) FROM contact k WHERE k.client_id = c.id), '[]') AS contacts
       FROM client c WHERE c.agency_id = $1 ORDER BY c.is_own, c.name`,
      [who.agencyId],
    );
  }

  /** A new client; without a hue it takes the one used least. */
  @Post()
  @Answers('Made')
  @Allow('client.edit')
  add(@Caller() who: Who, @Body() input: AddClient): Promise<Made> {
    return this.database.transaction(async (manager) => {
      const made = await insertClient(manager, who, input);
      await record(manager, { actor: who, at: this.clock.now() }, [
        { kind: 'client-added', engagementId: null, subject: 'client', subjectId: made.id },
      ]);
      return made;
    });
  }
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
