import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The day somebody joined the crew. */
export class Joined1764000000017 implements MigrationInterface {
  readonly name = 'Joined1764000000017';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "person" ADD "joined_on" date`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "person" DROP COLUMN "joined_on"`);
  }
}
