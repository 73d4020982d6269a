import type { MigrationInterface, QueryRunner } from 'typeorm';

/** People are edited on a screen now: a stale write must be told. */
export class Crew1764000000003 implements MigrationInterface {
  readonly name = 'Crew1764000000003';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "person" ADD "version" integer NOT NULL DEFAULT '1'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "person" DROP COLUMN "version"`);
  }
}
