import type { MigrationInterface, QueryRunner } from 'typeorm';

type Renamed = readonly [before: string, after: string];

const TABLES: readonly Renamed[] = [
  ['task_link', 'task_dependency'],
  ['template_link', 'template_dependency'],
];
const COLUMNS: readonly (readonly [table: string, ...Renamed])[] = [
  ['template_phase', 'taken_from_id', 'source_template_id'],
  ['template_task', 'taken_from_id', 'source_template_id'],
  ['template_task', 'links', 'page_links'],
  ['task', 'links', 'page_links'],
];
/** Under the new name of their table. */
const CONSTRAINTS: readonly (readonly [table: string, ...Renamed])[] = [
  ['template_phase', 'FK_47331b49326ecfc87a524ae0f0d', 'FK_8c94edd980a8900c7696301f892'],
  ['template_task', 'FK_84f2962e1fa8c8a5e568cdaa6e7', 'FK_3f66e41c76d062bd0e9dad58727'],
  ['template_dependency', 'PK_c2c0ec94484d942616eb5459823', 'PK_702335fb941d91739c0335dcd9b'],
  ['template_dependency', 'FK_1a4c9709ffa426c3bcda98b040d', 'FK_b5409e758e0bfe4b10cd812bf5f'],
  ['template_dependency', 'FK_d7cb9ee7704d3004f8cb1775eb8', 'FK_7ec8ea201dfe6949ab5cbf5bd7f'],
  ['template_dependency', 'template_link_not_to_itself', 'template_dependency_not_to_itself'],
  ['template_dependency', 'template_link_type_known', 'template_dependency_type_known'],
  ['task_dependency', 'PK_fb1b065eb9de93bc3542ede932d', 'PK_0de76c400dbba34fa0dbb46f876'],
  ['task_dependency', 'FK_e3d46ac867a187950402bfc23cb', 'FK_3aa0b9f3a099e90e6d46e6c0e89'],
  ['task_dependency', 'FK_854ad83e53620cd62fa3dd64dcb', 'FK_cf198c0efb457f9de3a9a02a0a4'],
  ['task_dependency', 'task_link_not_to_itself', 'task_dependency_not_to_itself'],
  ['task_dependency', 'task_link_type_known', 'task_dependency_type_known'],
];
const INDEXES: readonly Renamed[] = [
  ['IDX_47331b49326ecfc87a524ae0f0', 'IDX_8c94edd980a8900c7696301f89'],
  ['IDX_84f2962e1fa8c8a5e568cdaa6e', 'IDX_3f66e41c76d062bd0e9dad5872'],
  ['IDX_d7cb9ee7704d3004f8cb1775eb', 'IDX_7ec8ea201dfe6949ab5cbf5bd7'],
  ['IDX_854ad83e53620cd62fa3dd64dc', 'IDX_cf198c0efb457f9de3a9a02a0a'],
];

/** History names fields as the code does. */
const renameField = (before: string, after: string): string =>
  `UPDATE event SET changes = (SELECT jsonb_agg(CASE WHEN c->>'field' = '${before}' THEN jsonb_set(c, '{field}', '"${after}"') ELSE c END ORDER BY n)
     FROM jsonb_array_elements(changes) WITH ORDINALITY AS e(c, n)) WHERE subject = 'task' AND changes @> '[{"field": "${before}"}]'`;

/** Dependencies, web links and the source of a template's part have the names in the database that they have in the code. */
export class Names1764000000020 implements MigrationInterface {
  readonly name = 'Names1764000000020';

  async up(runner: QueryRunner): Promise<void> {
    for (const [before, after] of TABLES) await runner.query(`ALTER TABLE "${before}" RENAME TO "${after}"`);
    for (const [table, before, after] of COLUMNS) await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${before}" TO "${after}"`);
    for (const [table, before, after] of CONSTRAINTS)
      await runner.query(`ALTER TABLE "${table}" RENAME CONSTRAINT "${before}" TO "${after}"`);
    for (const [before, after] of INDEXES) await runner.query(`ALTER INDEX "${before}" RENAME TO "${after}"`);
    await runner.query(renameField('links', 'pageLinks'));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(renameField('pageLinks', 'links'));
    for (const [before, after] of INDEXES) await runner.query(`ALTER INDEX "${after}" RENAME TO "${before}"`);
    for (const [table, before, after] of CONSTRAINTS)
      await runner.query(`ALTER TABLE "${table}" RENAME CONSTRAINT "${after}" TO "${before}"`);
    for (const [table, before, after] of COLUMNS) await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${after}" TO "${before}"`);
    for (const [before, after] of TABLES) await runner.query(`ALTER TABLE "${after}" RENAME TO "${before}"`);
  }
}
