import { Injectable } from '@nestjs/common';
import { customFieldFault, customValueFault, type CustomFieldDefinition, type CustomFieldEntry } from '@crew/core';
import type { AddCustomField, EditCustomField, FieldChange, CustomField } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency, lockKept } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';

const FIELDS = `
  SELECT f.id, f.name, f.kind, f.choices, f.is_archived AS "isArchived",
    (SELECT count(*)::int FROM task t WHERE t.agency_id = f.agency_id AND t.custom_fields @> jsonb_build_array(jsonb_build_object('fieldId', f.id)))
    + (SELECT count(*)::int FROM template_task k WHERE k.custom_fields @> jsonb_build_array(jsonb_build_object('fieldId', f.id))) AS "usedTimes"
  FROM custom_field f WHERE f.agency_id = $1 ORDER BY f.is_archived, f.position, f.name`;

/** The agency's custom fields: listing, adding, renaming, archiving. */
@Injectable()
export class KeepCustomFields {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  list(who: Who): Promise<CustomField[]> {
    return this.database.rows<CustomField>(FIELDS, [who.agencyId]);
  }

  add(who: Who, input: AddCustomField): Promise<string> {
    return this.database.transaction(async (manager) => {
      const choices = trimmed(input.choices ?? []);
      refuseFault({ kind: input.kind, choices });
      // Two at once would get the same place among the fields.
      await lockAgency(manager, who.agencyId);
      await refuseTakenName(manager, who, { name: input.name, besides: null });
      const id = await insertCustomField(manager, who, { name: input.name, kind: input.kind, choices });
      await this.record(manager, who, { id, kind: 'field-added', changes: [{ field: 'name', from: null, to: input.name.trim() }] });
      return id;
    });
  }

  /** Its kind cannot change: existing values would no longer fit. A removed choice stays where it was chosen. */
  edit(who: Who, id: string, input: EditCustomField): Promise<void> {
    return this.database.transaction(async (manager) => {
      await lockKept(manager, 'custom_field', id);
      const sql = 'SELECT name, kind, choices, is_archived AS "isArchived" FROM custom_field WHERE id = $1 AND agency_id = $2';
      const field = requireFound(
        await firstRow<CustomFieldDefinition & { readonly isArchived: boolean }>(manager, sql, [id, who.agencyId]),
        'custom field',
      );
      const choices = input.choices === undefined ? field.choices : trimmed(input.choices);
      refuseFault({ kind: field.kind, choices });
      if (input.name !== undefined) await refuseTakenName(manager, who, { name: input.name, besides: id });
      const next = { name: input.name?.trim() ?? field.name, choices, isArchived: input.isArchived ?? field.isArchived };
      await rowsOf(manager, 'UPDATE custom_field SET name = $2, choices = $3, is_archived = $4 WHERE id = $1', [
        ...[id, next.name, next.choices, next.isArchived],
      ]);
      const changes = (['name', 'choices', 'isArchived'] as const)
        .filter((name) => JSON.stringify(field[name]) !== JSON.stringify(next[name]))
        .map((name) => ({ field: name, from: field[name], to: next[name] }));
      if (changes.length > 0) await this.record(manager, who, { id, kind: 'field-changed', changes });
    });
  }

  private record(
    manager: EntityManager,
    who: Who,
    {
      id,
      kind,
      changes,
    }: { readonly id: string; readonly kind: 'field-added' | 'field-changed'; readonly changes: readonly FieldChange[] },
  ): Promise<void> {
    return record(manager, { actor: who, at: this.clock.now() }, [{ kind, engagementId: null, subject: 'field', subjectId: id, changes }]);
  }
}

/** Keeps a field whose definition was checked, behind those there are. */
export async function insertCustomField(
  manager: EntityManager,
  who: Who,
  { name, kind, choices, id }: CustomFieldDefinition & { readonly id?: string },
): Promise<string> {
  const row = await firstRow<{ id: string }>(
    manager,
    `INSERT INTO custom_field (id, agency_id, position, name, kind, choices)
     SELECT coalesce($5::uuid, gen_random_uuid()), $1, coalesce(max(position), -1) + 1, $2, $3, $4 FROM custom_field WHERE agency_id = $1 RETURNING id`,
    [who.agencyId, name.trim(), kind, choices, id ?? null],
  );
  return (row as { id: string }).id;
}

/** The agency's fields by id, for whoever checks or names values. */
export async function readCustomFields(
  manager: EntityManager,
  agencyId: string,
): Promise<ReadonlyMap<string, CustomFieldDefinition & { readonly id: string }>> {
  const rows = await rowsOf<CustomFieldDefinition & { readonly id: string }>(
    manager,
    'SELECT id, name, kind, choices FROM custom_field WHERE agency_id = $1',
    [agencyId],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** What is checked: entries as they are to be, and those that were there before, which may stay whatever the field says now. */
interface Entries {
  readonly entries: readonly CustomFieldEntry[];
  readonly before?: readonly CustomFieldEntry[];
  /** The field of the request to name. */
  readonly at: string;
}

/** Refuses fields of another agency, one named twice, values that do not fit, and people not of the crew. */
export async function requireCustomFields(manager: EntityManager, who: Who, { entries, before = [], at }: Entries): Promise<void> {
  if (entries.length === 0) return;
  const fields = await readCustomFields(manager, who.agencyId);
  const kept = new Set(before.map((entry) => `${entry.fieldId} ${JSON.stringify(entry.value)}`));
  const people: string[] = [];
  for (const { fieldId, value } of entries) {
    const field = fields.get(fieldId);
    if (field === undefined) throw new Refusal('unknown-id', 'A custom field is not one of yours. Choose from the list.', { field: at });
    if (kept.has(`${fieldId} ${JSON.stringify(value)}`)) continue;
    const fault = customValueFault(field, value);
    if (fault !== null) throw new Refusal('invalid-input', fault, { field: at });
    if (field.kind === 'person' && typeof value === 'string') people.push(value);
  }
  await requirePeople(manager, who, { people, at });
}

/** Refuses a task that names one field twice. */
export function refuseTwice(entries: readonly CustomFieldEntry[], at: string): void {
  if (new Set(entries.map((entry) => entry.fieldId)).size < entries.length)
    throw new Refusal('invalid-input', 'A custom field is there twice. Give each once.', { field: at });
}

async function requirePeople(
  manager: EntityManager,
  who: Who,
  { people, at }: { readonly people: readonly string[]; readonly at: string },
): Promise<void> {
  const ids = [...new Set(people)];
  if (ids.length === 0) return;
  const known = await rowsOf(manager, 'SELECT 1 FROM person WHERE agency_id = $1 AND id::text = ANY($2)', [who.agencyId, ids]);
  if (known.length < ids.length)
    throw new Refusal('unknown-id', 'Somebody in a custom field is not on your crew. Choose from the list.', { field: at });
}

const trimmed = (choices: readonly string[]): string[] => choices.map((choice) => choice.trim());

function refuseFault(definition: Pick<CustomFieldDefinition, 'kind' | 'choices'>): void {
  const fault = customFieldFault(definition);
  if (fault !== null) throw new Refusal('invalid-input', fault, { field: 'choices' });
}

async function refuseTakenName(
  manager: EntityManager,
  who: Who,
  { name, besides }: { readonly name: string; readonly besides: string | null },
): Promise<void> {
  const sql = 'SELECT 1 FROM custom_field WHERE agency_id = $1 AND lower(name) = lower($2) AND id IS DISTINCT FROM $3::uuid';
  if ((await firstRow(manager, sql, [who.agencyId, name.trim(), besides])) !== null)
    throw new Refusal('already-there', `There is a custom field “${name.trim()}” already. Use it, or choose another name.`, {
      field: 'name',
    });
}
