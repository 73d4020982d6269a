import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What lists say of an engagement beyond its dates: how far it was when its forecast was computed, by how much fixed days are missed, and what is done with agreed hours that are left. */
export class Steer1764000000021 implements MigrationInterface {
  readonly name = 'Steer1764000000021';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "forecast" ADD "mark" text NOT NULL DEFAULT ''`);
    await runner.query(`ALTER TABLE "forecast" ALTER COLUMN "mark" DROP DEFAULT`);
    await runner.query(`ALTER TABLE "engagement_summary" ADD "missed_days" integer NOT NULL DEFAULT 0`);
    await runner.query(`ALTER TABLE "engagement" ADD "agreed_carry" text`);
    await runner.query(
      `UPDATE "engagement" e SET "agreed_carry" = s."carry" FROM "engagement_series" s WHERE s."id" = e."series_id" AND e."agreed_minutes" IS NOT NULL`,
    );
    await runner.query(`ALTER TABLE "engagement_series" ADD "coming_mark" text`);
    await runner.query(
      `CREATE TABLE "series_coming" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "series_id" uuid NOT NULL, "unit" text NOT NULL, "title" text NOT NULL, "role_id" uuid, "person_id" uuid, "estimate_minutes" integer, "start_day" date NOT NULL, "due_day" date NOT NULL, CONSTRAINT "PK_series_coming" PRIMARY KEY ("id"))`,
    );
    await runner.query(`CREATE INDEX "IDX_3a6fedbd5ec8faae4e767dc669" ON "series_coming" ("series_id")`);
    await runner.query(
      `ALTER TABLE "series_coming" ADD CONSTRAINT "FK_3a6fedbd5ec8faae4e767dc6698" FOREIGN KEY ("series_id") REFERENCES "engagement_series"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "series_coming" ADD CONSTRAINT "FK_187057435dc2ab5ec18662a3df5" FOREIGN KEY ("role_id") REFERENCES "role"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "series_coming" ADD CONSTRAINT "FK_4b96cbb931ddf1c659ffe40e613" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(`ALTER TABLE "time_off" ADD "file_key" text`);
    await runner.query(`ALTER TABLE "closed_day" ADD "file_key" text`);
    // What is not settled yet today is settled again, and writes its coming work.
    await runner.query(`UPDATE "engagement_series" SET "settled_on" = NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "closed_day" DROP COLUMN "file_key"`);
    await runner.query(`ALTER TABLE "time_off" DROP COLUMN "file_key"`);
    await runner.query(`DROP TABLE "series_coming"`);
    await runner.query(`ALTER TABLE "engagement_series" DROP COLUMN "coming_mark"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "agreed_carry"`);
    await runner.query(`ALTER TABLE "engagement_summary" DROP COLUMN "missed_days"`);
    await runner.query(`ALTER TABLE "forecast" DROP COLUMN "mark"`);
  }
}
