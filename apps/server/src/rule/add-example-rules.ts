import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { exampleRules, firstRules } from './example-rules.ts';
import { KeepRules } from './keep-rules.ts';

/** Adds the rules a new agency begins with, and those that come with the example templates. */
@Injectable()
export class AddExampleRules {
  private readonly rules: KeepRules;
  constructor(rules: KeepRules) {
    this.rules = rules;
  }

  /** Those that suit any agency. */
  async addFirst(manager: EntityManager, who: Who): Promise<void> {
    for (const rule of firstRules) await this.rules.addIn(manager, who, rule);
  }

  /** All of them; the example templates are there already. */
  async run(manager: EntityManager, who: Who): Promise<void> {
    const idsIn = async (table: 'role' | 'template'): Promise<ReadonlyMap<string, string>> => {
      const rows = await rowsOf<{ name: string; id: string }>(manager, `SELECT name, id FROM ${table} WHERE agency_id = $1`, [
        who.agencyId,
      ]);
      return new Map(rows.map(({ name, id }) => [name, id]));
    };
    const ids = { roles: await idsIn('role'), templates: await idsIn('template') };
    for (const rule of exampleRules(ids)) await this.rules.addIn(manager, who, rule);
  }
}
