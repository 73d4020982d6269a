import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A change of a plan may change its row of phases too, and is undone with it. */
export class PhasesUndone1764000000009 implements MigrationInterface {
  readonly name = 'PhasesUndone1764000000009';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "change_set" ADD "phases" jsonb`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "change_set" DROP COLUMN "phases"`);
  }
}
