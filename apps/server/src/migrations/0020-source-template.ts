import type { MigrationInterface, QueryRunner } from 'typeorm';

const BEFORE = 'taken_from_id';
const AFTER = 'source_template_id';
const TABLES = [
  {
    table: 'template_phase',
    index: ['IDX_47331b49326ecfc87a524ae0f0', 'IDX_8c94edd980a8900c7696301f89'],
    key: ['FK_47331b49326ecfc87a524ae0f0d', 'FK_8c94edd980a8900c7696301f892'],
  },
  {
    table: 'template_task',
    index: ['IDX_84f2962e1fa8c8a5e568cdaa6e', 'IDX_3f66e41c76d062bd0e9dad5872'],
    key: ['FK_84f2962e1fa8c8a5e568cdaa6e7', 'FK_3f66e41c76d062bd0e9dad58727'],
  },
] as const;

/** Where a part of a template came from has the name in the database that it has in the code. */
export class SourceTemplate1764000000020 implements MigrationInterface {
  readonly name = 'SourceTemplate1764000000020';

  async up(runner: QueryRunner): Promise<void> {
    for (const { table, index, key } of TABLES) {
      await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${BEFORE}" TO "${AFTER}"`);
      await runner.query(`ALTER INDEX "${index[0]}" RENAME TO "${index[1]}"`);
      await runner.query(`ALTER TABLE "${table}" RENAME CONSTRAINT "${key[0]}" TO "${key[1]}"`);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const { table, index, key } of TABLES) {
      await runner.query(`ALTER TABLE "${table}" RENAME CONSTRAINT "${key[1]}" TO "${key[0]}"`);
      await runner.query(`ALTER INDEX "${index[1]}" RENAME TO "${index[0]}"`);
      await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${AFTER}" TO "${BEFORE}"`);
    }
  }
}
