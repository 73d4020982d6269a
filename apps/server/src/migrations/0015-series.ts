import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Work that repeats: tasks by a rule, engagements by rhythms. */
export class Series1764000000015 implements MigrationInterface {
  readonly name = 'Series1764000000015';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "engagement_series" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "kind" text NOT NULL, "name" text NOT NULL, "unit_name" text NOT NULL, "client_id" uuid NOT NULL, "contact_id" uuid, "lead_id" uuid NOT NULL, "template_id" uuid NOT NULL, "roles" jsonb NOT NULL DEFAULT '[]', "places" text NOT NULL DEFAULT 'start', "on_closed" text NOT NULL DEFAULT 'after', "skipped" jsonb NOT NULL DEFAULT '[]', "extra" jsonb NOT NULL DEFAULT '[]', "retainer_minutes" integer, "carry" text NOT NULL DEFAULT 'none', "ahead_days" integer NOT NULL, "made_until" date, "settled_on" date, "stopped_on" date, "version" integer NOT NULL DEFAULT '1', CONSTRAINT "engagement_series_ahead_not_negative" CHECK ("ahead_days" >= 0), CONSTRAINT "engagement_series_retainer_not_negative" CHECK ("retainer_minutes" >= 0), CONSTRAINT "engagement_series_carry_known" CHECK ("carry" IN ('none', 'next', 'all')), CONSTRAINT "engagement_series_on_closed_known" CHECK ("on_closed" IN ('after', 'before', 'skip')), CONSTRAINT "engagement_series_places_known" CHECK ("places" IN ('start', 'promise')), CONSTRAINT "engagement_series_kind_known" CHECK ("kind" IN ('repeating', 'line')), CONSTRAINT "PK_f910ab246f690aa4fd57ecf106d" PRIMARY KEY ("id"))`,
    );
    await runner.query(`CREATE INDEX "IDX_25f922d23ffffc2efe59545a5b" ON "engagement_series" ("client_id")`);
    await runner.query(`CREATE INDEX "IDX_1145a0fb786e073666cc2df695" ON "engagement_series" ("lead_id")`);
    await runner.query(`CREATE INDEX "IDX_98d9359fc5a30289ac39148a60" ON "engagement_series" ("template_id")`);
    await runner.query(`CREATE INDEX "engagement_series_of_agency" ON "engagement_series" ("agency_id")`);
    await runner.query(
      `CREATE TABLE "series_rhythm" ("series_id" uuid NOT NULL, "from_day" date NOT NULL, "rule" text NOT NULL, "each" integer NOT NULL DEFAULT '1', CONSTRAINT "series_rhythm_each_positive" CHECK ("each" > 0), CONSTRAINT "PK_976e018e9a66a76025dae0f08f5" PRIMARY KEY ("series_id", "from_day"))`,
    );
    await runner.query(
      `CREATE TABLE "task_series" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "engagement_id" uuid NOT NULL, "phase_id" uuid, "pattern" jsonb NOT NULL, "rule" text NOT NULL, "first_day" date NOT NULL, "on_closed" text NOT NULL DEFAULT 'after', "when_missed" text NOT NULL DEFAULT 'keep', "skipped" jsonb NOT NULL DEFAULT '[]', "extra" jsonb NOT NULL DEFAULT '[]', "made_until" date, "settled_on" date, "stopped_on" date, "version" integer NOT NULL DEFAULT '1', CONSTRAINT "task_series_when_missed_known" CHECK ("when_missed" IN ('keep', 'drop')), CONSTRAINT "task_series_on_closed_known" CHECK ("on_closed" IN ('after', 'before', 'skip')), CONSTRAINT "PK_4b0cee29926405caa240029ae2a" PRIMARY KEY ("id"))`,
    );
    await runner.query(`CREATE INDEX "IDX_8fe600ea85cadf9c48a760a372" ON "task_series" ("engagement_id")`);
    await runner.query(`CREATE INDEX "task_series_running" ON "task_series" ("agency_id") WHERE "stopped_on" IS NULL`);
    await runner.query(`ALTER TABLE "engagement" ADD "series_id" uuid`);
    await runner.query(`ALTER TABLE "engagement" ADD "series_number" integer`);
    await runner.query(`ALTER TABLE "engagement" ADD "series_day" date`);
    await runner.query(`ALTER TABLE "engagement" ADD "series_place" integer`);
    await runner.query(`ALTER TABLE "engagement" ADD "agreed_minutes" integer`);
    await runner.query(`ALTER TABLE "task" ADD "series_id" uuid`);
    await runner.query(`ALTER TABLE "task" ADD "series_day" date`);
    await runner.query(`ALTER TABLE "task" ADD CONSTRAINT "task_series_has_day" CHECK (("series_id" IS NULL) = ("series_day" IS NULL))`);
    await runner.query(
      `ALTER TABLE "engagement" ADD CONSTRAINT "engagement_series_place_once" UNIQUE ("series_id", "series_day", "series_place")`,
    );
    await runner.query(`ALTER TABLE "task" ADD CONSTRAINT "task_series_day_once" UNIQUE ("series_id", "series_day")`);
    await runner.query(
      `ALTER TABLE "engagement_series" ADD CONSTRAINT "FK_c4e68ea15553d904c599411479f" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "engagement_series" ADD CONSTRAINT "FK_25f922d23ffffc2efe59545a5b8" FOREIGN KEY ("client_id") REFERENCES "client"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "engagement_series" ADD CONSTRAINT "FK_bbb2a9909b8990a41356c31b49f" FOREIGN KEY ("contact_id") REFERENCES "contact"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "engagement_series" ADD CONSTRAINT "FK_1145a0fb786e073666cc2df695d" FOREIGN KEY ("lead_id") REFERENCES "person"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "engagement_series" ADD CONSTRAINT "FK_98d9359fc5a30289ac39148a60d" FOREIGN KEY ("template_id") REFERENCES "template"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "series_rhythm" ADD CONSTRAINT "FK_a3856cd3cda13771ee67fa73886" FOREIGN KEY ("series_id") REFERENCES "engagement_series"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "engagement" ADD CONSTRAINT "FK_f910ab246f690aa4fd57ecf106d" FOREIGN KEY ("series_id") REFERENCES "engagement_series"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "task_series" ADD CONSTRAINT "FK_8ec5d4a0ca494c50125ed8aff97" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "task_series" ADD CONSTRAINT "FK_8fe600ea85cadf9c48a760a3722" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "task_series" ADD CONSTRAINT "FK_b336744e70d43c741316cc4a3d8" FOREIGN KEY ("phase_id") REFERENCES "phase"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "task" ADD CONSTRAINT "FK_4b0cee29926405caa240029ae2a" FOREIGN KEY ("series_id") REFERENCES "task_series"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "task" DROP CONSTRAINT "FK_4b0cee29926405caa240029ae2a"`);
    await runner.query(`ALTER TABLE "engagement" DROP CONSTRAINT "FK_f910ab246f690aa4fd57ecf106d"`);
    await runner.query(`ALTER TABLE "task" DROP CONSTRAINT "task_series_day_once"`);
    await runner.query(`ALTER TABLE "engagement" DROP CONSTRAINT "engagement_series_place_once"`);
    await runner.query(`ALTER TABLE "task" DROP CONSTRAINT "task_series_has_day"`);
    await runner.query(`ALTER TABLE "task" DROP COLUMN "series_day"`);
    await runner.query(`ALTER TABLE "task" DROP COLUMN "series_id"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "agreed_minutes"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "series_place"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "series_day"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "series_number"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "series_id"`);
    await runner.query(`DROP TABLE "task_series"`);
    await runner.query(`DROP TABLE "series_rhythm"`);
    await runner.query(`DROP TABLE "engagement_series"`);
  }
}
