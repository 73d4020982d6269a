import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Where a part of a template was taken from. */
export class Taken1764000000016 implements MigrationInterface {
  readonly name = 'Taken1764000000016';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "template_phase" ADD "taken_from_id" uuid`);
    await runner.query(`ALTER TABLE "template_task" ADD "taken_from_id" uuid`);
    await runner.query(`CREATE INDEX "IDX_47331b49326ecfc87a524ae0f0" ON "template_phase" ("taken_from_id")`);
    await runner.query(`CREATE INDEX "IDX_84f2962e1fa8c8a5e568cdaa6e" ON "template_task" ("taken_from_id")`);
    await runner.query(
      `ALTER TABLE "template_phase" ADD CONSTRAINT "FK_47331b49326ecfc87a524ae0f0d" FOREIGN KEY ("taken_from_id") REFERENCES "template"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "template_task" ADD CONSTRAINT "FK_84f2962e1fa8c8a5e568cdaa6e7" FOREIGN KEY ("taken_from_id") REFERENCES "template"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "template_task" DROP COLUMN "taken_from_id"`);
    await runner.query(`ALTER TABLE "template_phase" DROP COLUMN "taken_from_id"`);
  }
}
