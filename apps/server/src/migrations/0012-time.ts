import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Entries of time that are put right, when they began, and periods that are closed. */
export class Time1764000000012 implements MigrationInterface {
  readonly name = 'Time1764000000012';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "time_closing" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "through_day" date, "account_id" uuid, "at" TIMESTAMP WITH TIME ZONE NOT NULL, CONSTRAINT "PK_0ae5bebb5a981eb82aa1c42b54c" PRIMARY KEY ("id"))`,
    );
    await runner.query(`CREATE INDEX "time_closing_latest" ON "time_closing" ("agency_id", "at")`);
    await runner.query(`ALTER TABLE "time_entry" ADD "start_minute" integer`);
    await runner.query(`ALTER TABLE "time_entry" ADD "version" integer NOT NULL DEFAULT '1'`);
    await runner.query(`ALTER TABLE "time_entry" ADD CONSTRAINT "time_entry_start_of_a_day" CHECK ("start_minute" BETWEEN 0 AND 1439)`);
    await runner.query(
      `ALTER TABLE "time_closing" ADD CONSTRAINT "FK_06834f4cae0d5db75a9b8a727c0" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "time_closing" ADD CONSTRAINT "FK_5da21fc7db2bcecdefdd9c9574f" FOREIGN KEY ("account_id") REFERENCES "account"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "time_entry" DROP CONSTRAINT "time_entry_start_of_a_day"`);
    await runner.query(`ALTER TABLE "time_entry" DROP COLUMN "version"`);
    await runner.query(`ALTER TABLE "time_entry" DROP COLUMN "start_minute"`);
    await runner.query(`DROP TABLE "time_closing"`);
  }
}
