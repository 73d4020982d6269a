import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { readExchange, toExchange, type ExchangedTemplate, type ReadExchange } from '@crew/core';
import type { TemplateImported } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { insertCustomField, readCustomFields } from '../field/keep-custom-fields.ts';
import { KeepFiles } from '../file/keep-files.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepTemplate } from './keep-template.ts';
import { TemplateRepository } from './template.repository.ts';

/** Templates out as files of the open format, and in again. */
@Injectable()
export class ExchangeTemplate {
  private readonly database: Database;
  private readonly templates: TemplateRepository;
  private readonly keeping: KeepTemplate;
  private readonly files: KeepFiles;
  constructor(database: Database, templates: TemplateRepository, keeping: KeepTemplate, files: KeepFiles) {
    this.database = database;
    this.templates = templates;
    this.keeping = keeping;
    this.files = files;
  }

  /** The newest version as a file. */
  async export(who: Who, templateId: string): Promise<ExchangedTemplate> {
    const { manager } = this.database;
    const facts = requireFound(await this.templates.facts(manager, who.agencyId, templateId), 'template');
    const content = requireFound(await this.templates.content(manager, who.agencyId, { templateId, which: 'newest' }), 'template');
    const roles = await this.templates.roleNames(manager, who.agencyId);
    const people = await this.people(manager, who);
    const fields = await readCustomFields(manager, who.agencyId);
    const ids = content.tasks.flatMap((task) => task.files.map((file) => file.fileId));
    const files = await this.files.contents(manager, who.agencyId, ids);
    return toExchange(content, {
      kind: facts.kind,
      roleName: (id) => roles.get(id) ?? '',
      personName: (id) => people.find((person) => person.id === id)?.name ?? null,
      fieldOf: (id) => fields.get(id) ?? null,
      fileOf: (id) => {
        const file = files.get(id);
        return file === undefined ? null : { name: file.name, type: file.type, content: file.content.toString('base64') };
      },
    });
  }

  /**
   * Keeps a file as a new template, or says everything that is wrong with it and keeps nothing.
   * With `isTrial` it only says what it would keep. A name that is taken gets a number.
   */
  import(who: Who, file: unknown, isTrial: boolean): Promise<TemplateImported> {
    return this.database.transaction(async (manager) => {
      const read = await this.read(manager, who, file);
      if (!read.ok) {
        const [first] = read.faults;
        throw new Refusal('faulty-file', `${first?.message ?? ''} Nothing was imported.`, {
          ...(first === undefined ? {} : { field: first.at }),
          details: { faults: read.faults },
        });
      }
      const name = await freeName(manager, who, { kind: read.kind, name: read.content.name });
      const content = { ...read.content, name };
      const id = isTrial ? null : await this.keep(manager, who, { ...read, content });
      return {
        ...{ id, kind: read.kind, name, phases: content.phases.length, tasks: content.tasks.length, missingRoles: read.missingRoles },
        missingPeople: read.missingPeople,
        newFields: read.newFields.map((field) => field.name),
        files: read.newFiles.length,
      };
    });
  }

  /** Fields and files first: what is kept refers to them. */
  private async keep(manager: EntityManager, who: Who, read: Extract<ReadExchange, { ok: true }>): Promise<string> {
    for (const field of read.newFields) await insertCustomField(manager, who, field);
    for (const { id, name, type, content } of read.newFiles)
      await this.files.keep(manager, who, { id, name, type, from: { content: Buffer.from(content, 'base64') } });
    return this.keeping.write(manager, who, { kind: read.kind, content: read.content, note: 'from a file' });
  }

  private people(manager: EntityManager, who: Who): Promise<{ readonly id: string; readonly name: string }[]> {
    return rowsOf(manager, 'SELECT id, name FROM person WHERE agency_id = $1 AND is_active ORDER BY name', [who.agencyId]);
  }

  private async read(manager: EntityManager, who: Who, file: unknown): Promise<ReadExchange> {
    const names = await this.templates.roleNames(manager, who.agencyId);
    const ids = new Map([...names].map(([id, name]) => [name.toLowerCase(), id]));
    const fields = new Map([...(await readCustomFields(manager, who.agencyId)).values()].map((field) => [field.name.toLowerCase(), field]));
    const people = await this.people(manager, who);
    const personId = (name: string): string | null => {
      const [one, another] = people.filter((person) => person.name.toLowerCase() === name.trim().toLowerCase());
      return another === undefined ? (one?.id ?? null) : null;
    };
    return readExchange(file, {
      personId,
      newId: randomUUID,
      roleId: (name) => ids.get(name.toLowerCase()) ?? null,
      customField: (name) => fields.get(name.toLowerCase()) ?? null,
    });
  }
}

async function freeName(
  manager: EntityManager,
  who: Who,
  { kind, name }: { readonly kind: string; readonly name: string },
): Promise<string> {
  for (let number = 1; ; number++) {
    const candidate = number === 1 ? name : `${name} ${number}`;
    const taken = await firstRow(manager, 'SELECT 1 FROM template WHERE agency_id = $1 AND kind = $2 AND name = $3', [
      who.agencyId,
      kind,
      candidate,
    ]);
    if (taken === null) return candidate;
  }
}
