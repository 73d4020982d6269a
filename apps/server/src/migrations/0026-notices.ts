import type { MigrationInterface, QueryRunner } from 'typeorm';

const UP = [
  `CREATE TABLE "notice" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "person_id" uuid NOT NULL, "event_id" bigint NOT NULL, "kind" text NOT NULL, "engagement_id" uuid, "task_id" uuid, "handoff_id" uuid, "read_at" TIMESTAMP WITH TIME ZONE, "snoozed_until" TIMESTAMP WITH TIME ZONE, CONSTRAINT "notice_kind_known" CHECK ("kind" IN ('handed-off', 'sent-back', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status')), CONSTRAINT "PK_705062b14410ff1a04998f86d72" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_7062b962f077a0093575254c37" ON "notice" ("engagement_id")`,
  `CREATE INDEX "IDX_b6b7bb4ac99d77b889b76a3581" ON "notice" ("task_id")`,
  `CREATE INDEX "IDX_3eaaddb702d4d5c99eccf64706" ON "notice" ("handoff_id")`,
  `CREATE INDEX "notice_unread" ON "notice" ("person_id") WHERE "read_at" IS NULL`,
  `CREATE INDEX "notice_of_person" ON "notice" ("person_id", "event_id")`,
  `CREATE UNIQUE INDEX "notice_once" ON "notice" ("event_id", "person_id", "task_id")`,
  `CREATE TABLE "notice_choice" ("person_id" uuid NOT NULL, "kind" text NOT NULL, "is_on" boolean NOT NULL, CONSTRAINT "notice_choice_kind_known" CHECK ("kind" IN ('handed-off', 'sent-back', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status')), CONSTRAINT "PK_d97d3e281bbf8cd858a91560ac4" PRIMARY KEY ("person_id", "kind"))`,
  `ALTER TABLE "event" ADD "is_pending" boolean NOT NULL DEFAULT false`,
  `CREATE INDEX "event_pending" ON "event" ("id") WHERE "is_pending"`,
  `ALTER TABLE "notice" ADD CONSTRAINT "FK_2edcb5ac9a7a594bd0f812644c6" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice" ADD CONSTRAINT "FK_6ca4d1340d19ba946cb58565012" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice" ADD CONSTRAINT "FK_1693b4b7d5635ea2289d52dc98f" FOREIGN KEY ("event_id") REFERENCES "event"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice" ADD CONSTRAINT "FK_7062b962f077a0093575254c377" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice" ADD CONSTRAINT "FK_b6b7bb4ac99d77b889b76a35811" FOREIGN KEY ("task_id") REFERENCES "task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice" ADD CONSTRAINT "FK_3eaaddb702d4d5c99eccf647062" FOREIGN KEY ("handoff_id") REFERENCES "handoff"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice_choice" ADD CONSTRAINT "FK_2c1c25dd6ae1a1a277a07ea67be" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "agency" ADD "remind_hours" integer NOT NULL DEFAULT '8'`,
  `ALTER TABLE "agency" ADD "remind_lead_hours" integer NOT NULL DEFAULT '16'`,
  `ALTER TABLE "agency" ADD CONSTRAINT "agency_reminds_after_hours" CHECK ("remind_hours" >= 0 AND "remind_lead_hours" >= 0)`,
  `ALTER TABLE "person" ADD "stand_in_id" uuid`,
  `ALTER TABLE "person" ADD CONSTRAINT "FK_8c035ee3aa7aff213c0ed06c0ef" FOREIGN KEY ("stand_in_id") REFERENCES "person"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
];

const DOWN = [
  'ALTER TABLE "person" DROP COLUMN "stand_in_id"',
  'ALTER TABLE "agency" DROP COLUMN "remind_lead_hours", DROP COLUMN "remind_hours"',
  'DROP TABLE "notice_choice"',
  'DROP TABLE "notice"',
  'DROP INDEX "event_pending"',
  'ALTER TABLE "event" DROP COLUMN "is_pending"',
];

/** Events wait for their followers, people are told of what concerns them and reminded of what they hold. */
export class Notices1764000000026 implements MigrationInterface {
  readonly name = 'Notices1764000000026';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of DOWN) await runner.query(sql);
  }
}
