import type { MigrationInterface, QueryRunner } from 'typeorm';

/** In the text of a jsonb value a key or a whole string stands between bare quotes; inside a string they are escaped. */
const renameIn = (table: string, column: string, [from, to]: readonly [string, string]): string =>
  `UPDATE ${table} SET ${column} = replace(${column}::text, '${from}', '${to}')::jsonb WHERE ${column}::text LIKE '%${from}%'`;

type Names = readonly [from: string, to: string];
const back = ([from, to]: Names): Names => [to, from];

const KEY: Names = ['"ownFields": ', '"customFields": '];
const ROW_KEY: Names = ['"own_fields": ', '"custom_fields": '];
const FIELD: Names = ['"field": "ownFields"', '"field": "customFields"'];
const ARCHIVED: Names = ['"field": "isRetired"', '"field": "isArchived"'];

/** What is kept as JSON: contents of templates, patterns of repeating tasks, and the history. */
const kept = (turn: (names: Names) => Names): string[] => [
  renameIn('template_version', 'content', turn(KEY)),
  renameIn('task_series', 'pattern', turn(KEY)),
  renameIn('event', 'payload', turn(KEY)),
  renameIn('event', 'payload', turn(ROW_KEY)),
  renameIn('event', 'changes', turn(FIELD)),
  renameIn('event', 'changes', turn(ARCHIVED)),
];

const CONSTRAINTS: readonly Names[] = [
  ['own_field_name_once', 'custom_field_name_once'],
  ['own_field_kind_known', 'custom_field_kind_known'],
  ['FK_364ebae4e07a71378c8ae69ca2f', 'FK_5c21fc958e35fd56d49624af4b4'],
];

const rename = ([from, to]: Names): string => `ALTER TABLE "custom_field" RENAME CONSTRAINT "${from}" TO "${to}"`;

/** Custom fields are called that everywhere; one that is no longer offered is archived, as other things are. */
export class CustomFields1764000000035 implements MigrationInterface {
  readonly name = 'CustomFields1764000000035';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "own_field" RENAME TO "custom_field"');
    await runner.query('ALTER TABLE "custom_field" RENAME "is_retired" TO "is_archived"');
    for (const names of CONSTRAINTS) await runner.query(rename(names));
    for (const table of ['task', 'template_task']) await runner.query(`ALTER TABLE "${table}" RENAME "own_fields" TO "custom_fields"`);
    for (const sql of kept((names) => names)) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of kept(back)) await runner.query(sql);
    for (const table of ['task', 'template_task']) await runner.query(`ALTER TABLE "${table}" RENAME "custom_fields" TO "own_fields"`);
    for (const names of CONSTRAINTS) await runner.query(rename(back(names)));
    await runner.query('ALTER TABLE "custom_field" RENAME "is_archived" TO "is_retired"');
    await runner.query('ALTER TABLE "custom_field" RENAME TO "own_field"');
  }
}
