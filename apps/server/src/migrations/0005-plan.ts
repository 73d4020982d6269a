import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a plan that is worked on needs: depth, deliverables, labels, work done outside, the plan as promised, and changes that can be undone. */
const UP: readonly string[] = [
  `ALTER TABLE "task" DROP CONSTRAINT "FK_8ebc1cbf561c55f4359e183440f"`,
  `DROP INDEX "IDX_8ebc1cbf561c55f4359e183440"`,
  `CREATE TABLE "deliverable" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "engagement_id" uuid NOT NULL, "position" integer NOT NULL, "name" text NOT NULL, CONSTRAINT "deliverable_name_once" UNIQUE ("engagement_id", "name"), CONSTRAINT "PK_fbed21e1ad3464d9fb7729ad51d" PRIMARY KEY ("id"))`,
  `CREATE TABLE "change_set" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "engagement_id" uuid NOT NULL, "account_id" uuid, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "before" jsonb NOT NULL, "after" jsonb NOT NULL, "undone_at" TIMESTAMP WITH TIME ZONE, CONSTRAINT "PK_d5a247956d947b633a6303a7a61" PRIMARY KEY ("id"))`,
  `CREATE INDEX "change_set_by_engagement" ON "change_set" ("engagement_id", "at")`,
  `ALTER TABLE "phase" ADD "baseline_start" date`,
  `ALTER TABLE "phase" ADD "baseline_finish" date`,
  `ALTER TABLE "task" ADD "parent_id" uuid`,
  `ALTER TABLE "task" ADD "is_group" boolean NOT NULL DEFAULT false`,
  `ALTER TABLE "task" ADD "deliverable_id" uuid`,
  `ALTER TABLE "task" ADD "labels" text array NOT NULL DEFAULT '{}'`,
  `ALTER TABLE "task" ADD "not_before" date`,
  `ALTER TABLE "task" ADD "baseline_start" date`,
  `ALTER TABLE "task" ADD "baseline_due" date`,
  `ALTER TABLE "task" ADD "outside_maker" text`,
  `ALTER TABLE "task" ADD "outside_turnaround" integer`,
  `ALTER TABLE "task" ADD "outside_buffer" integer`,
  `ALTER TABLE "task" ADD "outside_needed_on" date`,
  `ALTER TABLE "task" ADD "outside_state" text`,
  `ALTER TABLE "task" ADD "brief_by" date`,
  `CREATE INDEX "IDX_3868b9d85285eaab2d9a36f96d" ON "task" ("deliverable_id")`,
  `CREATE INDEX "task_by_template_task" ON "task" ("template_task_id")`,
  `CREATE INDEX "task_parts" ON "task" ("parent_id") WHERE "parent_id" IS NOT NULL`,
  `ALTER TABLE "task" ADD CONSTRAINT "task_outside_days_not_negative" CHECK ("outside_turnaround" >= 0 AND "outside_buffer" >= 0)`,
  `ALTER TABLE "task" ADD CONSTRAINT "task_outside_whole_or_not" CHECK (num_nonnulls("outside_maker", "outside_turnaround", "outside_buffer", "outside_state", "brief_by") IN (0, 5) AND ("outside_maker" IS NOT NULL OR "outside_needed_on" IS NULL))`,
  `ALTER TABLE "task" ADD CONSTRAINT "task_outside_state_known" CHECK ("outside_state" IS NULL OR "outside_state" IN ('to-brief', 'briefed', 'making', 'back'))`,
  `ALTER TABLE "task" ADD CONSTRAINT "task_not_its_own_part" CHECK ("parent_id" <> "id")`,
  `ALTER TABLE "deliverable" ADD CONSTRAINT "FK_74f8a00b9b3fea47c3dff3f4d8c" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "change_set" ADD CONSTRAINT "FK_12b1b1665159b8bbdd55c0772d4" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "change_set" ADD CONSTRAINT "FK_be6008deed6887940bf0b7d0921" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "change_set" ADD CONSTRAINT "FK_dfa9e0021411882ad96bbab6221" FOREIGN KEY ("account_id") REFERENCES "account"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "task" ADD CONSTRAINT "FK_5b12d07794e1d6428696b35fd7e" FOREIGN KEY ("parent_id") REFERENCES "task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "task" ADD CONSTRAINT "FK_3868b9d85285eaab2d9a36f96d1" FOREIGN KEY ("deliverable_id") REFERENCES "deliverable"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
];

/** For plans that began before: as promised is as they stand now. */
const BACKFILL: readonly string[] = [
  `ALTER TABLE "engagement" ADD "baseline_on" date, ADD "baseline_finish" date, ADD "baseline_promise" date`,
  `UPDATE engagement e SET baseline_on = e.start_day, baseline_promise = e.promised_day,
     baseline_finish = coalesce((SELECT s.finish_day FROM engagement_summary s WHERE s.engagement_id = e.id), e.start_day)`,
  `ALTER TABLE "engagement" ALTER "baseline_on" SET NOT NULL, ALTER "baseline_finish" SET NOT NULL`,
  `UPDATE task SET baseline_start = start_day, baseline_due = due_day`,
  `UPDATE phase SET baseline_start = coalesce(started_on, planned_start), baseline_finish = coalesce(finished_on, planned_finish)`,
];

const DOWN: readonly string[] = [
  `DROP TABLE "change_set"`,
  `ALTER TABLE "task" DROP COLUMN "brief_by", DROP COLUMN "outside_state", DROP COLUMN "outside_needed_on", DROP COLUMN "outside_buffer",
     DROP COLUMN "outside_turnaround", DROP COLUMN "outside_maker", DROP COLUMN "baseline_due", DROP COLUMN "baseline_start", DROP COLUMN "not_before",
     DROP COLUMN "labels", DROP COLUMN "deliverable_id", DROP COLUMN "is_group", DROP COLUMN "parent_id"`,
  `ALTER TABLE "phase" DROP COLUMN "baseline_finish", DROP COLUMN "baseline_start"`,
  `ALTER TABLE "engagement" DROP COLUMN "baseline_promise", DROP COLUMN "baseline_finish", DROP COLUMN "baseline_on"`,
  `DROP TABLE "deliverable"`,
  `DROP INDEX "task_by_template_task"`,
  `UPDATE task SET template_task_id = NULL WHERE NOT EXISTS (SELECT 1 FROM template_task k WHERE k.id = template_task_id)`,
  `CREATE INDEX "IDX_8ebc1cbf561c55f4359e183440" ON "task" ("template_task_id")`,
  `ALTER TABLE "task" ADD CONSTRAINT "FK_8ebc1cbf561c55f4359e183440f" FOREIGN KEY ("template_task_id") REFERENCES "template_task"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
];

export class Plan1764000000005 implements MigrationInterface {
  readonly name = 'Plan1764000000005';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...UP, ...BACKFILL]) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of DOWN) await runner.query(statement);
  }
}
