import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Forecasts read the newest finished tasks of each role. */
export class RecentRecord1764000000023 implements MigrationInterface {
  readonly name = 'RecentRecord1764000000023';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE INDEX "task_done_by_role" ON "task" ("agency_id", "role_id", "done_on") WHERE "status" = 'done'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "task_done_by_role"`);
  }
}
