import type { MigrationInterface, QueryRunner } from 'typeorm';

const NOTICE_KINDS = `'handed-off', 'sent-back', 'handoff-ready', 'told', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status'`;
const OLD_NOTICE_KINDS = `'handed-off', 'sent-back', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status'`;
const SUBJECTS = `'task', 'engagement', 'phase', 'handoff', 'template', 'series', 'person', 'client', 'field', 'rule', 'agency'`;
const OLD_SUBJECTS = `'task', 'engagement', 'phase', 'handoff', 'template', 'series', 'person', 'client', 'field', 'agency'`;

/** Puts other values into a check constraint. */
const recheck = (table: string, name: string, condition: string): string[] => [
  `ALTER TABLE "${table}" DROP CONSTRAINT "${name}"`,
  `ALTER TABLE "${table}" ADD CONSTRAINT "${name}" CHECK (${condition})`,
];

const UP = [
  `CREATE TABLE "rule" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "level" text NOT NULL, "template_id" uuid, "engagement_id" uuid, "position" integer NOT NULL, "is_on" boolean NOT NULL DEFAULT true, "on_since" TIMESTAMP WITH TIME ZONE NOT NULL, "content" jsonb NOT NULL, "replaces_id" uuid, "version" integer NOT NULL DEFAULT '1', "removed_at" TIMESTAMP WITH TIME ZONE, CONSTRAINT "rule_has_its_place" CHECK (("level" = 'template') = ("template_id" IS NOT NULL) AND ("level" = 'engagement') = ("engagement_id" IS NOT NULL)), CONSTRAINT "rule_level_known" CHECK ("level" IN ('agency', 'template', 'engagement')), CONSTRAINT "PK_a5577f464213af7ffbe866e3cb5" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_66f6d6614873bcb7f428b87cf7" ON "rule" ("template_id")`,
  `CREATE INDEX "IDX_74c751c9c0e8d052210fe0db1d" ON "rule" ("engagement_id")`,
  `CREATE INDEX "rule_of_agency" ON "rule" ("agency_id") WHERE "removed_at" IS NULL`,
  `CREATE TABLE "rule_exception" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "rule_id" uuid NOT NULL, "template_id" uuid, "engagement_id" uuid, CONSTRAINT "rule_exception_has_one_place" CHECK (("template_id" IS NULL) <> ("engagement_id" IS NULL)), CONSTRAINT "PK_33957bb7590ce626abb3463deeb" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_bcc988bc664d8c4447eb7f88dc" ON "rule_exception" ("template_id")`,
  `CREATE INDEX "IDX_4a9d0b1327a2f3c811500c8076" ON "rule_exception" ("engagement_id")`,
  `CREATE UNIQUE INDEX "rule_exception_once" ON "rule_exception" ("rule_id", "template_id", "engagement_id")`,
  `CREATE TABLE "rule_run" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "rule_id" uuid NOT NULL, "event_id" bigint NOT NULL, "engagement_id" uuid, "position" integer NOT NULL, "state" text NOT NULL, "why" text, "failed_at" integer, "depth" integer NOT NULL, "chain" jsonb NOT NULL, CONSTRAINT "rule_run_state_known" CHECK ("state" IN ('waiting', 'done', 'failed', 'held', 'undone')), CONSTRAINT "PK_feb861b6092c8d3ddc974efcaf4" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_07a2527566e6007950ba265908" ON "rule_run" ("engagement_id")`,
  `CREATE INDEX "rule_run_open" ON "rule_run" ("event_id") WHERE "state" = 'waiting'`,
  `CREATE INDEX "rule_run_of_agency" ON "rule_run" ("agency_id", "event_id")`,
  `CREATE INDEX "rule_run_of_rule" ON "rule_run" ("rule_id", "event_id")`,
  `CREATE UNIQUE INDEX "rule_run_once" ON "rule_run" ("event_id", "rule_id")`,
  `CREATE TABLE "rule_effect" ("run_id" uuid NOT NULL, "place" integer NOT NULL, "effect" jsonb NOT NULL, "state" text NOT NULL DEFAULT 'waiting', "said" text NOT NULL DEFAULT '', "tries" integer NOT NULL DEFAULT '0', "change_id" uuid, "done_at" TIMESTAMP WITH TIME ZONE, CONSTRAINT "rule_effect_state_known" CHECK ("state" IN ('waiting', 'done', 'nothing', 'failed', 'undone')), CONSTRAINT "PK_808e8c653e6f2946e7c3b59a25e" PRIMARY KEY ("run_id", "place"))`,
  `CREATE TABLE "rule_mark" ("subject_id" uuid NOT NULL, "what" text NOT NULL, "amount" integer NOT NULL, "reached" text NOT NULL, "engagement_id" uuid NOT NULL, CONSTRAINT "PK_e6d8015e42b7487c28b9e38f8ca" PRIMARY KEY ("subject_id", "what", "amount", "reached"))`,
  `CREATE INDEX "IDX_ebef67678f366e967cb8394345" ON "rule_mark" ("engagement_id")`,
  `ALTER TABLE "event" ADD "run_id" uuid`,
  `ALTER TABLE "handoff" ADD "clear_since" TIMESTAMP WITH TIME ZONE`,
  `ALTER TABLE "handoff" ADD "ready_for_ids" uuid array NOT NULL DEFAULT '{}'`,
  `CREATE INDEX "event_by_run" ON "event" ("run_id") WHERE "run_id" IS NOT NULL`,
  `ALTER TABLE "rule" ADD CONSTRAINT "FK_548cffd1fe4a592646c49e225ae" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule" ADD CONSTRAINT "FK_66f6d6614873bcb7f428b87cf7e" FOREIGN KEY ("template_id") REFERENCES "template"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule" ADD CONSTRAINT "FK_74c751c9c0e8d052210fe0db1d2" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule" ADD CONSTRAINT "FK_fc87696a276b6612ee4aca708fd" FOREIGN KEY ("replaces_id") REFERENCES "rule"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_exception" ADD CONSTRAINT "FK_df55e71ff4166659f9c8473900f" FOREIGN KEY ("rule_id") REFERENCES "rule"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_exception" ADD CONSTRAINT "FK_bcc988bc664d8c4447eb7f88dc6" FOREIGN KEY ("template_id") REFERENCES "template"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_exception" ADD CONSTRAINT "FK_4a9d0b1327a2f3c811500c80766" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_run" ADD CONSTRAINT "FK_9b47e8f1e627806a675d3593d5e" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_run" ADD CONSTRAINT "FK_bcb04f4b479c110383cc4e6cd3d" FOREIGN KEY ("rule_id") REFERENCES "rule"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_run" ADD CONSTRAINT "FK_374d3495b3d9bd8f1e0f1da47ec" FOREIGN KEY ("event_id") REFERENCES "event"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_run" ADD CONSTRAINT "FK_07a2527566e6007950ba2659080" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_effect" ADD CONSTRAINT "FK_6db2e5d2cd50ea4008faeed369c" FOREIGN KEY ("run_id") REFERENCES "rule_run"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "rule_mark" ADD CONSTRAINT "FK_ebef67678f366e967cb83943454" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  ...recheck('notice', 'notice_kind_known', `"kind" IN (${NOTICE_KINDS})`),
  ...recheck('notice_choice', 'notice_choice_kind_known', `"kind" IN (${NOTICE_KINDS})`),
  ...recheck('event', 'event_subject_known', `"subject" IN (${SUBJECTS})`),
  ...recheck('event', 'event_actor_known', `"actor_kind" IN ('person', 'contact', 'rule', 'job')`),
];

const DOWN = [
  `DELETE FROM "event" WHERE "subject" = 'rule' OR "actor_kind" = 'rule'`,
  `DELETE FROM "notice" WHERE "kind" IN ('handoff-ready', 'told')`,
  `DELETE FROM "notice_choice" WHERE "kind" IN ('handoff-ready', 'told')`,
  ...recheck('event', 'event_actor_known', `"actor_kind" IN ('person', 'contact', 'job')`),
  ...recheck('event', 'event_subject_known', `"subject" IN (${OLD_SUBJECTS})`),
  ...recheck('notice_choice', 'notice_choice_kind_known', `"kind" IN (${OLD_NOTICE_KINDS})`),
  ...recheck('notice', 'notice_kind_known', `"kind" IN (${OLD_NOTICE_KINDS})`),
  'DROP TABLE "rule_mark"',
  'DROP TABLE "rule_effect"',
  'DROP TABLE "rule_run"',
  'DROP TABLE "rule_exception"',
  'DROP TABLE "rule"',
  'ALTER TABLE "handoff" DROP COLUMN "ready_for_ids", DROP COLUMN "clear_since"',
  'DROP INDEX "event_by_run"',
  'ALTER TABLE "event" DROP COLUMN "run_id"',
];

/** Rules, what they did at which event, and what they wait for. */
export class Rules1764000000027 implements MigrationInterface {
  readonly name = 'Rules1764000000027';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of DOWN) await runner.query(sql);
  }
}
