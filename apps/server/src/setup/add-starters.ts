import { Injectable } from '@nestjs/common';
import { TRADE, STARTERS_OF_TRADE, type Starter, type StartersAdded, type StarterTemplate, type StarterTrade } from '@crew/contract';
import { CrewRepository } from '../crew/crew.repository.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import type { Who } from '../platform/rights.ts';
import { CreateTemplate, type TemplateDraft } from '../template/create-template.ts';
import { STARTERS, TRADE_WORDS } from './starters/index.ts';

/** The templates that come with the product, by trade, and adding some of them to the library. */
@Injectable()
export class AddStarters {
  private readonly database: Database;
  private readonly crew: CrewRepository;
  private readonly templates: CreateTemplate;
  constructor(database: Database, crew: CrewRepository, templates: CreateTemplate) {
    this.database = database;
    this.crew = crew;
    this.templates = templates;
  }

  async list(who: Who): Promise<StarterTrade[]> {
    const present = new Map(
      (await this.database.rows<{ id: string; name: string }>(PRESENT, [who.agencyId])).map(({ id, name }) => [name, id]),
    );
    return TRADE.map((trade) => ({
      trade,
      ...TRADE_WORDS[trade],
      templates: STARTERS_OF_TRADE[trade].map((key) => summaryOf(key, present)),
    }));
  }

  /** All of them or none; sent twice it adds nothing the second time. */
  run(who: Who, keys: readonly Starter[]): Promise<StartersAdded> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const rows = await rowsOf<{ name: string }>(manager, PRESENT, [who.agencyId]);
      const present = new Set(rows.map(({ name }) => name));
      const adding = [...new Set(keys)].filter((key) => !present.has(STARTERS[key].name));
      const roles = await this.crew.addRoles(manager, who.agencyId, [...new Set(adding.flatMap((key) => rolesOf(STARTERS[key])))]);
      const templates: StartersAdded['templates'][number][] = [];
      for (const key of adding) {
        const draft = STARTERS[key];
        templates.push({ key, id: await this.templates.write(manager, who, draft), name: draft.name });
      }
      return { templates, roles };
    });
  }
}

const PRESENT = `SELECT id, name FROM template WHERE agency_id = $1 AND kind = 'engagement'`;

/** The roles a draft names, each once. */
export function rolesOf({ phases }: TemplateDraft): string[] {
  const named = phases.flatMap((phase) => [phase.role, ...phase.tasks.flatMap((task) => [task.role, ...(task.helpers ?? [])])]);
  return [...new Set(named.filter((role) => role !== undefined))];
}

function summaryOf(key: Starter, present: ReadonlyMap<string, string>): StarterTemplate {
  const draft = STARTERS[key];
  const tasks = draft.phases.flatMap((phase) => phase.tasks);
  return {
    ...{ key, name: draft.name, description: draft.description },
    phases: draft.phases.map((phase) => phase.name),
    taskCount: tasks.length,
    effortMinutes: tasks.reduce((sum, task) => sum + Math.round((task.hours ?? 0) * 60), 0),
    roles: rolesOf(draft),
    templateId: present.get(draft.name) ?? null,
  };
}
