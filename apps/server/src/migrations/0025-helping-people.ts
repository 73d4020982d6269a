import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Tasks of templates name people who help; versions kept before name none. */
export class HelpingPeople1764000000025 implements MigrationInterface {
  readonly name = 'HelpingPeople1764000000025';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "template_task" ADD "helper_person_ids" uuid array NOT NULL DEFAULT '{}'`);
    await runner.query(
      `UPDATE "template_version" v SET "content" = jsonb_set(v."content", '{tasks}', coalesce((
         SELECT jsonb_agg(k || '{"helperPersonIds": []}'::jsonb ORDER BY place)
         FROM jsonb_array_elements(v."content"->'tasks') WITH ORDINALITY AS e(k, place)), '[]'))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      `UPDATE "template_version" v SET "content" = jsonb_set(v."content", '{tasks}', coalesce((
         SELECT jsonb_agg(k - 'helperPersonIds' ORDER BY place)
         FROM jsonb_array_elements(v."content"->'tasks') WITH ORDINALITY AS e(k, place)), '[]'))`,
    );
    await runner.query(`ALTER TABLE "template_task" DROP COLUMN "helper_person_ids"`);
  }
}
