import { Controller, Get } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { Crew, CrewPerson } from '@crew/contract';
import { Database } from '../platform/database.ts';
import { Allow, Caller, STAFF, type Who } from '../platform/rights.ts';

@ApiTags('crew')
@Controller('crew')
export class CrewController {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  /** The agency's people and roles. */
  @Get()
  @Allow(STAFF)
  async read(@Caller() who: Who): Promise<Crew> {
    const roles = await this.database.rows<Crew['roles'][number]>('SELECT id, name FROM role WHERE agency_id = $1 ORDER BY name', [
      who.agencyId,
    ]);
    const people = await this.database.rows<CrewPerson>(
      `SELECT p.id, p.name, p.initials, p.access, p.week,
         ARRAY(SELECT h.role_id FROM person_role h WHERE h.person_id = p.id ORDER BY h.position) AS "roleIds",
         ARRAY(SELECT r.name FROM person_role h JOIN role r ON r.id = h.role_id WHERE h.person_id = p.id ORDER BY h.position) AS roles
       FROM person p WHERE p.agency_id = $1 AND p.is_active ORDER BY p.name`,
      [who.agencyId],
    );
    return { roles, people };
  }
}
