import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Changes of several engagements that were taken as one step. */
export class JointChanges1764000000011 implements MigrationInterface {
  readonly name = 'JointChanges1764000000011';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "change_set" ADD "joint_id" uuid`);
    await runner.query(`CREATE INDEX "change_set_joint" ON "change_set" ("joint_id") WHERE "joint_id" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "change_set_joint"`);
    await runner.query(`ALTER TABLE "change_set" DROP COLUMN "joint_id"`);
  }
}
