import type { MigrationInterface, QueryRunner } from 'typeorm';

const NOTICE_KINDS = `'handed-off', 'sent-back', 'mail-received', 'handoff-ready', 'told', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status'`;
const OLD_NOTICE_KINDS = `'handed-off', 'sent-back', 'handoff-ready', 'told', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status'`;

const CHECK_KINDS = `'tasks-done', 'titled-done', 'steps-done', 'client-done', 'field-filled', 'files-there', 'word'`;
const OLD_CHECK_KINDS = `'tasks-done', 'client-done', 'word'`;

/** Puts other values into a check constraint. */
const recheck = (table: string, name: string, condition: string): string[] => [
  `ALTER TABLE "${table}" DROP CONSTRAINT "${name}"`,
  `ALTER TABLE "${table}" ADD CONSTRAINT "${name}" CHECK (${condition})`,
];

const UP = [
  `CREATE TABLE "mail" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "key" text NOT NULL, "kind" text NOT NULL, "person_id" uuid, "contact_id" uuid, "to_name" text NOT NULL, "to_address" text NOT NULL, "engagement_id" uuid, "handoff_id" uuid, "handoff_version" integer, "subject" text NOT NULL, "text" text NOT NULL, "html" text NOT NULL, "can_reply" boolean NOT NULL, "state" text NOT NULL DEFAULT 'waiting', "tries" integer NOT NULL DEFAULT '0', "trouble" text, "created_at" TIMESTAMP WITH TIME ZONE NOT NULL, "sent_at" TIMESTAMP WITH TIME ZONE, "opened_at" TIMESTAMP WITH TIME ZONE, CONSTRAINT "mail_state_known" CHECK ("state" IN ('waiting', 'sent', 'undeliverable')), CONSTRAINT "mail_kind_known" CHECK ("kind" IN ('handoff', 'notices', 'digest', 'message', 'client', 'answer', 'test')), CONSTRAINT "PK_5407da42b983ba54c6c62d462d3" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_0d723a93182cd3c9515da1f20b" ON "mail" ("person_id")`,
  `CREATE INDEX "IDX_d300387afa3a47c3331f791b5f" ON "mail" ("contact_id")`,
  `CREATE INDEX "IDX_d58109ee921cede77b4d3cd44a" ON "mail" ("engagement_id")`,
  `CREATE INDEX "IDX_9a68930b3c7592a0a2e8d65b78" ON "mail" ("handoff_id")`,
  `CREATE INDEX "mail_not_sent" ON "mail" ("agency_id") WHERE "state" <> 'sent'`,
  `CREATE INDEX "mail_of_agency" ON "mail" ("agency_id", "created_at")`,
  `CREATE UNIQUE INDEX "mail_once" ON "mail" ("agency_id", "key")`,
  `CREATE TABLE "mail_reply" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "mail_id" uuid NOT NULL, "message_id" text NOT NULL, "from_address" text NOT NULL, "from_name" text NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "state" text NOT NULL, "words" text NOT NULL, "remarks" jsonb NOT NULL, "said" text NOT NULL DEFAULT '', "is_pending" boolean NOT NULL DEFAULT false, CONSTRAINT "mail_reply_state_known" CHECK ("state" IN ('kept', 'acted', 'refused', 'dropped', 'bounce')), CONSTRAINT "PK_d0d08c80df8dc438416336ee25b" PRIMARY KEY ("id"))`,
  `CREATE UNIQUE INDEX "mail_reply_once" ON "mail_reply" ("mail_id", "message_id")`,
  `CREATE TABLE "mail_reply_file" ("reply_id" uuid NOT NULL, "file_id" uuid NOT NULL, "position" integer NOT NULL, CONSTRAINT "PK_3bc609b6c84f9571b7df0eb88cd" PRIMARY KEY ("reply_id", "file_id"))`,
  `CREATE INDEX "IDX_cb8dc19f1144fa53900414a2e1" ON "mail_reply_file" ("file_id")`,
  `CREATE TABLE "mail_fault" ("agency_id" uuid NOT NULL, "address" text NOT NULL, "why" text NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, CONSTRAINT "PK_5c5b4be5eef75d7e611d5264feb" PRIMARY KEY ("agency_id", "address"))`,
  `CREATE TABLE "mail_server" ("agency_id" uuid NOT NULL, "host" text NOT NULL, "port" integer NOT NULL, "security" text NOT NULL, "user_name" text NOT NULL, "sealed_password" text, "from_address" text NOT NULL, "reply_domain" text NOT NULL, CONSTRAINT "mail_server_security_known" CHECK ("security" IN ('none', 'starttls', 'tls')), CONSTRAINT "PK_9c8088d3524ada49bc724ad45f7" PRIMARY KEY ("agency_id"))`,
  `CREATE TABLE "caught_mail" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "address" text NOT NULL, "message_id" text NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "raw" bytea NOT NULL, CONSTRAINT "PK_34e75a576d5230ae1850e33e0bd" PRIMARY KEY ("id"))`,
  `CREATE INDEX "caught_mail_of_address" ON "caught_mail" ("address", "at")`,
  `CREATE UNIQUE INDEX "caught_mail_once" ON "caught_mail" ("address", "message_id")`,
  `CREATE TABLE "notice_mailing" ("person_id" uuid NOT NULL, "is_quiet" boolean NOT NULL DEFAULT true, "has_digest" boolean NOT NULL DEFAULT true, "digest_on" date, CONSTRAINT "PK_61157d8f823d62da341a9004f48" PRIMARY KEY ("person_id"))`,
  `ALTER TABLE "notice" ADD "on_screen" boolean NOT NULL DEFAULT true`,
  `ALTER TABLE "notice" ADD "mail_due_at" TIMESTAMP WITH TIME ZONE`,
  `ALTER TABLE "notice" ADD "in_digest" boolean NOT NULL DEFAULT false`,
  `ALTER TABLE "notice_choice" ADD "channel" text NOT NULL DEFAULT 'screen'`,
  `ALTER TABLE "notice_choice" ALTER COLUMN "channel" DROP DEFAULT`,
  `ALTER TABLE "notice_choice" DROP CONSTRAINT "PK_d97d3e281bbf8cd858a91560ac4"`,
  `ALTER TABLE "notice_choice" ADD CONSTRAINT "PK_574cd9401eda75fdacc10ad3f7d" PRIMARY KEY ("kind", "person_id", "channel")`,
  `CREATE INDEX "notice_to_digest" ON "notice" ("person_id") WHERE "in_digest"`,
  `CREATE INDEX "notice_to_mail" ON "notice" ("mail_due_at") WHERE "mail_due_at" IS NOT NULL`,
  `ALTER TABLE "notice_choice" ADD CONSTRAINT "notice_choice_channel_known" CHECK ("channel" IN ('screen', 'mail', 'digest'))`,
  `ALTER TABLE "mail" ADD CONSTRAINT "FK_b662f8a78cd5286e50192ba1340" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "mail" ADD CONSTRAINT "FK_0d723a93182cd3c9515da1f20bf" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "mail" ADD CONSTRAINT "FK_d300387afa3a47c3331f791b5f2" FOREIGN KEY ("contact_id") REFERENCES "contact"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "mail" ADD CONSTRAINT "FK_d58109ee921cede77b4d3cd44ab" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "mail" ADD CONSTRAINT "FK_9a68930b3c7592a0a2e8d65b78b" FOREIGN KEY ("handoff_id") REFERENCES "handoff"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "mail_reply" ADD CONSTRAINT "FK_bd1a42c42adafd67b16f601b629" FOREIGN KEY ("mail_id") REFERENCES "mail"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "mail_reply_file" ADD CONSTRAINT "FK_8548a150e792464ac7799925280" FOREIGN KEY ("reply_id") REFERENCES "mail_reply"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "mail_reply_file" ADD CONSTRAINT "FK_cb8dc19f1144fa53900414a2e18" FOREIGN KEY ("file_id") REFERENCES "file"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
  `ALTER TABLE "mail_fault" ADD CONSTRAINT "FK_502b669b10570d0c400f3689a86" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "mail_server" ADD CONSTRAINT "FK_9c8088d3524ada49bc724ad45f7" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "notice_mailing" ADD CONSTRAINT "FK_61157d8f823d62da341a9004f48" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "handoff" ADD "packet" jsonb`,
  `ALTER TABLE "gate_check" ADD "wants" text array NOT NULL DEFAULT '{}'`,
  `ALTER TABLE "template_check" ADD "wants" text array NOT NULL DEFAULT '{}'`,
  ...recheck('gate_check', 'gate_check_kind_known', `"kind" IN (${CHECK_KINDS})`),
  ...recheck('template_check', 'template_check_kind_known', `"kind" IN (${CHECK_KINDS})`),
  ...recheck('notice', 'notice_kind_known', `"kind" IN (${NOTICE_KINDS})`),
  ...recheck('notice_choice', 'notice_choice_kind_known', `"kind" IN (${NOTICE_KINDS})`),
];

const DOWN = [
  `DELETE FROM "gate_check" WHERE "kind" NOT IN (${OLD_CHECK_KINDS})`,
  `DELETE FROM "template_check" WHERE "kind" NOT IN (${OLD_CHECK_KINDS})`,
  ...recheck('template_check', 'template_check_kind_known', `"kind" IN (${OLD_CHECK_KINDS})`),
  ...recheck('gate_check', 'gate_check_kind_known', `"kind" IN (${OLD_CHECK_KINDS})`),
  'ALTER TABLE "template_check" DROP COLUMN "wants"',
  'ALTER TABLE "gate_check" DROP COLUMN "wants"',
  'ALTER TABLE "handoff" DROP COLUMN "packet"',
  `DELETE FROM "notice" WHERE "kind" = 'mail-received' OR NOT "on_screen"`,
  `DELETE FROM "notice_choice" WHERE "kind" = 'mail-received' OR "channel" <> 'screen'`,
  `DELETE FROM "event" WHERE "kind" IN ('mailed', 'mail-received')`,
  ...recheck('notice_choice', 'notice_choice_kind_known', `"kind" IN (${OLD_NOTICE_KINDS})`),
  ...recheck('notice', 'notice_kind_known', `"kind" IN (${OLD_NOTICE_KINDS})`),
  'ALTER TABLE "notice_choice" DROP CONSTRAINT "notice_choice_channel_known"',
  'ALTER TABLE "notice_choice" DROP CONSTRAINT "PK_574cd9401eda75fdacc10ad3f7d"',
  'ALTER TABLE "notice_choice" ADD CONSTRAINT "PK_d97d3e281bbf8cd858a91560ac4" PRIMARY KEY ("person_id", "kind")',
  'ALTER TABLE "notice_choice" DROP COLUMN "channel"',
  'ALTER TABLE "notice" DROP COLUMN "in_digest", DROP COLUMN "mail_due_at", DROP COLUMN "on_screen"',
  'DROP TABLE "notice_mailing"',
  'DROP TABLE "caught_mail"',
  'DROP TABLE "mail_server"',
  'DROP TABLE "mail_fault"',
  'DROP TABLE "mail_reply_file"',
  'DROP TABLE "mail_reply"',
  'DROP TABLE "mail"',
];

/** Mail, what is answered, notices by mail; gates that ask for more, and packets that are kept. */
export class Mail1764000000028 implements MigrationInterface {
  readonly name = 'Mail1764000000028';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of DOWN) await runner.query(sql);
  }
}
