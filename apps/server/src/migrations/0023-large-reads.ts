import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Indexes of what large agencies wait for: the newest finished tasks of a role, handoffs that are not over, changes of closed time. */
export class LargeReads1764000000023 implements MigrationInterface {
  readonly name = 'LargeReads1764000000023';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE INDEX "task_done_by_role" ON "task" ("agency_id", "role_id", "done_on") WHERE "status" = 'done'`);
    await runner.query(`CREATE INDEX "handoff_open" ON "handoff" ("engagement_id") WHERE "state" <> 'picked-up'`);
    await runner.query(`CREATE INDEX "event_changed_late" ON "event" ("agency_id", "id") WHERE "payload"->>'lateReason' IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "event_changed_late"`);
    await runner.query(`DROP INDEX "handoff_open"`);
    await runner.query(`DROP INDEX "task_done_by_role"`);
  }
}
