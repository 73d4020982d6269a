import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The exact sums behind a percent are kept, so that a status is added to them without reading the other tasks. */
export class Progress1764000000004 implements MigrationInterface {
  readonly name = 'Progress1764000000004';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "engagement_summary" ADD "progress" jsonb`);
    await runner.query(`ALTER TABLE "phase" ADD "progress" jsonb`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "phase" DROP COLUMN "progress"`);
    await runner.query(`ALTER TABLE "engagement_summary" DROP COLUMN "progress"`);
  }
}
