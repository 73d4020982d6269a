import type { MigrationInterface, QueryRunner } from 'typeorm';

const UP = [
  `CREATE TABLE "presence" ("person_id" uuid NOT NULL, "window_id" text NOT NULL, "subject_id" uuid NOT NULL, "kind" text NOT NULL, "agency_id" uuid NOT NULL, "seen_at" TIMESTAMP WITH TIME ZONE NOT NULL, CONSTRAINT "presence_kind_known" CHECK ("kind" IN ('engagement', 'task')), CONSTRAINT "PK_9c82a7a83a1f9da8e8372ae935e" PRIMARY KEY ("person_id", "window_id", "subject_id"))`,
  `CREATE INDEX "IDX_90c1c18064a050de09a942a9c4" ON "presence" ("agency_id")`,
  `CREATE INDEX "presence_at" ON "presence" ("subject_id")`,
  `ALTER TABLE "presence" ADD CONSTRAINT "FK_8b31e2ad6c6f6ed75dd11763946" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "presence" ADD CONSTRAINT "FK_90c1c18064a050de09a942a9c4e" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
];

/** Who has which engagement or task open. */
export class Presence1764000000030 implements MigrationInterface {
  readonly name = 'Presence1764000000030';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "presence"');
  }
}
