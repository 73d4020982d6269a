import type { MigrationInterface, QueryRunner } from 'typeorm';

const OLD_NOTICE_KINDS = `'handed-off', 'sent-back', 'mail-received', 'handoff-ready', 'told', 'reminder', 'assigned', 'unassigned', 'ready', 'moved', 'promise', 'engagement', 'picked-up', 'status'`;
const NOTICE_KINDS = OLD_NOTICE_KINDS.replace(`'reminder'`, `'reminder', 'overdue', 'unlogged'`);
const OLD_SUBJECTS = `'task', 'engagement', 'phase', 'handoff', 'template', 'series', 'person', 'client', 'field', 'rule', 'agency'`;
const SUBJECTS = OLD_SUBJECTS.replace(`'rule'`, `'rule', 'webhook'`);

/** Puts other values into a check constraint. */
const recheck = (table: string, name: string, condition: string): string[] => [
  `ALTER TABLE "${table}" DROP CONSTRAINT "${name}"`,
  `ALTER TABLE "${table}" ADD CONSTRAINT "${name}" CHECK (${condition})`,
];

const HOURS = {
  remind_task_hours: 8,
  remind_task_lead_hours: 24,
  remind_client_hours: 0,
  remind_client_lead_hours: 16,
  remind_logging_hours: 8,
};

const UP = [
  ...Object.entries(HOURS).map(([column, hours]) => `ALTER TABLE "agency" ADD "${column}" integer NOT NULL DEFAULT '${hours}'`),
  `ALTER TABLE "agency" ADD CONSTRAINT "agency_reminds_of_work_after_hours" CHECK (least("remind_task_hours", "remind_task_lead_hours", "remind_client_hours", "remind_client_lead_hours", "remind_logging_hours") >= 0)`,
  ...recheck('notice', 'notice_kind_known', `"kind" IN (${NOTICE_KINDS})`),
  ...recheck('notice_choice', 'notice_choice_kind_known', `"kind" IN (${NOTICE_KINDS})`),
  ...recheck('event', 'event_subject_known', `"subject" IN (${SUBJECTS})`),
  'ALTER TABLE "webhook" ADD "removed_at" TIMESTAMP WITH TIME ZONE',
];

const DOWN = [
  'DELETE FROM "webhook" WHERE "removed_at" IS NOT NULL',
  'ALTER TABLE "webhook" DROP COLUMN "removed_at"',
  `DELETE FROM "event" WHERE "subject" = 'webhook'`,
  ...recheck('event', 'event_subject_known', `"subject" IN (${OLD_SUBJECTS})`),
  `DELETE FROM "notice_choice" WHERE "kind" IN ('overdue', 'unlogged')`,
  `DELETE FROM "notice" WHERE "kind" IN ('overdue', 'unlogged')`,
  ...recheck('notice_choice', 'notice_choice_kind_known', `"kind" IN (${OLD_NOTICE_KINDS})`),
  ...recheck('notice', 'notice_kind_known', `"kind" IN (${OLD_NOTICE_KINDS})`),
  'ALTER TABLE "agency" DROP CONSTRAINT "agency_reminds_of_work_after_hours"',
  ...Object.keys(HOURS).map((column) => `ALTER TABLE "agency" DROP COLUMN "${column}"`),
];

/** People are reminded of tasks too, and of what the client owes; webhooks have a history and come back. */
export class Reminders1764000000031 implements MigrationInterface {
  readonly name = 'Reminders1764000000031';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of DOWN) await runner.query(sql);
  }
}
