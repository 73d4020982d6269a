import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A phase knows which of the template's it was made from, as a task does: changes of the template find it. */
export class Origin1764000000007 implements MigrationInterface {
  readonly name = 'Origin1764000000007';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "phase" ADD "template_phase_id" uuid`);
    await runner.query(
      `UPDATE phase SET template_phase_id = k.phase_id FROM task t JOIN template_task k ON k.id = t.template_task_id WHERE t.phase_id = phase.id`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "phase" DROP COLUMN "template_phase_id"`);
  }
}
