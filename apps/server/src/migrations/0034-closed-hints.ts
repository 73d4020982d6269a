import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The hints and lists of first steps that somebody has closed, by account. */
export class ClosedHints1764000000034 implements MigrationInterface {
  readonly name = 'ClosedHints1764000000034';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "account" ADD "closed_hints" text array NOT NULL DEFAULT '{}'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "account" DROP COLUMN "closed_hints"');
  }
}
