import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Own fields of the agency, files, and both on tasks and on tasks of templates. */
const UP: readonly string[] = [
  `CREATE TABLE "own_field" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "position" integer NOT NULL, "name" text NOT NULL, "kind" text NOT NULL, "choices" text array NOT NULL DEFAULT '{}', "is_retired" boolean NOT NULL DEFAULT false, CONSTRAINT "own_field_name_once" UNIQUE ("agency_id", "name"), CONSTRAINT "own_field_kind_known" CHECK ("kind" IN ('text', 'number', 'date', 'choice', 'person', 'link')), CONSTRAINT "PK_213af99ecefc524e55f5862ee2c" PRIMARY KEY ("id"))`,
  `CREATE TABLE "file" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "name" text NOT NULL, "type" text NOT NULL, "bytes" integer NOT NULL, "sha256" text NOT NULL, "added_at" TIMESTAMP WITH TIME ZONE NOT NULL, "added_by_id" uuid, CONSTRAINT "file_bytes_not_negative" CHECK ("bytes" >= 0), CONSTRAINT "PK_36b46d232307066b3a2c9ea3a1d" PRIMARY KEY ("id"))`,
  `CREATE INDEX "file_by_content" ON "file" ("sha256")`,
  `CREATE TABLE "task_file" ("task_id" uuid NOT NULL, "file_id" uuid NOT NULL, "position" integer NOT NULL, CONSTRAINT "PK_580aceee277a689925f5fb49de0" PRIMARY KEY ("task_id", "file_id"))`,
  `CREATE INDEX "IDX_40cb861fa7888a5181ff290636" ON "task_file" ("file_id")`,
  `CREATE TABLE "template_task_file" ("task_id" uuid NOT NULL, "file_id" uuid NOT NULL, "position" integer NOT NULL, CONSTRAINT "PK_68adbeff8a14a54301cc8856e43" PRIMARY KEY ("task_id", "file_id"))`,
  `CREATE INDEX "IDX_615cd2b1bbcf1763c3e6424569" ON "template_task_file" ("file_id")`,
  `ALTER TABLE "template_task" ADD "own_fields" jsonb NOT NULL DEFAULT '[]'`,
  `ALTER TABLE "task" ADD "own_fields" jsonb NOT NULL DEFAULT '[]'`,
  `ALTER TABLE "own_field" ADD CONSTRAINT "FK_364ebae4e07a71378c8ae69ca2f" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "file" ADD CONSTRAINT "FK_d81f52372c543e29f1b15f973fc" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "file" ADD CONSTRAINT "FK_5b99ad8682bf35df09d17f1b780" FOREIGN KEY ("added_by_id") REFERENCES "person"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "task_file" ADD CONSTRAINT "FK_04979f28411541dd6ce2942b051" FOREIGN KEY ("task_id") REFERENCES "task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "task_file" ADD CONSTRAINT "FK_40cb861fa7888a5181ff2906363" FOREIGN KEY ("file_id") REFERENCES "file"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
  `ALTER TABLE "template_task_file" ADD CONSTRAINT "FK_93290c6a4c2c0bde791c03829b1" FOREIGN KEY ("task_id") REFERENCES "template_task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "template_task_file" ADD CONSTRAINT "FK_615cd2b1bbcf1763c3e6424569c" FOREIGN KEY ("file_id") REFERENCES "file"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
  // Versions say of every task that it has neither: what reads them need not ask.
  `UPDATE template_version SET content = jsonb_set(content, '{tasks}', coalesce((SELECT jsonb_agg(
     task || '{"files": [], "ownFields": []}' ORDER BY place) FROM jsonb_array_elements(content->'tasks') WITH ORDINALITY AS e(task, place)), '[]'))`,
];

const DOWN: readonly string[] = [
  `UPDATE template_version SET content = jsonb_set(content, '{tasks}', coalesce((SELECT jsonb_agg(
     task - 'files' - 'ownFields' ORDER BY place) FROM jsonb_array_elements(content->'tasks') WITH ORDINALITY AS e(task, place)), '[]'))`,
  `DROP TABLE "template_task_file"`,
  `DROP TABLE "task_file"`,
  `DROP TABLE "file"`,
  `DROP TABLE "own_field"`,
  `ALTER TABLE "task" DROP COLUMN "own_fields"`,
  `ALTER TABLE "template_task" DROP COLUMN "own_fields"`,
];

export class OwnFieldsAndFiles1764000000008 implements MigrationInterface {
  readonly name = 'OwnFieldsAndFiles1764000000008';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of DOWN) await runner.query(statement);
  }
}
