import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The kinds before, by what they were about, and what each is called now. */
const KINDS: readonly (readonly [subject: string, before: string, now: string])[] = [
  ['agency', 'calendar-changed', 'calendar-changed'],
  ['engagement', 'started', 'engagement-started'],
  ['engagement', 'changed', 'engagement-changed'],
  ['engagement', 'accepted', 'engagement-accepted'],
  ['engagement', 'dropped', 'engagement-closed'],
  ['engagement', 'taken-up', 'engagement-reopened'],
  ['engagement', 'deliverable-added', 'deliverable-added'],
  ['engagement', 'deliverable-removed', 'deliverable-removed'],
  ['engagement', 'baseline-kept', 'baseline-saved'],
  ['engagement', 'library-taken', 'library-part-added'],
  ['engagement', 'template-brought', 'template-update-applied'],
  ['phase', 'word-given', 'gate-check-confirmed'],
  ['task', 'added', 'task-added'],
  ['task', 'changed', 'task-changed'],
  ['task', 'deleted', 'task-deleted'],
  ['task', 'put-back', 'task-restored'],
  ['task', 'step-added', 'step-added'],
  ['task', 'step-done', 'step-changed'],
  ['task', 'step-reopened', 'step-changed'],
  ['task', 'time-logged', 'time-logged'],
  ['task', 'time-corrected', 'time-corrected'],
  ['task', 'time-removed', 'time-removed'],
  ['time', 'time-closed', 'time-closed'],
  ['handoff', 'handed-off', 'handed-off'],
  ['handoff', 'picked-up', 'picked-up'],
  ['handoff', 'sent-back', 'sent-back'],
  ['handoff', 'given-on', 'given-on'],
  ['template', 'created', 'template-added'],
  ['template', 'saved', 'template-saved'],
  ['template', 'versioned', 'template-version-added'],
  ['template', 'archived', 'template-archived'],
  ['template', 'brought-back', 'template-restored'],
  ['series', 'started', 'series-started'],
  ['series', 'changed', 'series-changed'],
  ['own-field', 'added', 'field-added'],
  ['own-field', 'changed', 'field-changed'],
  ['own-field', 'retired', 'field-changed'],
  ['own-field', 'brought-back', 'field-changed'],
];

const KINDS_AS_ROWS = KINDS.map(([subject, before, now]) => `('${subject}', '${before}', '${now}')`).join(', ');

/** One stream of events is all the history there is: changes of plans and the turns of handoffs are read from it. */
export class Activity1764000000019 implements MigrationInterface {
  readonly name = 'Activity1764000000019';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "event"
      ADD "payload" jsonb NOT NULL DEFAULT '{}', ADD "facts" jsonb NOT NULL DEFAULT '{}', ADD "actor_kind" text, ADD "job" text,
      ADD "cause_id" bigint, ADD "batch_id" uuid, ADD "undoes_id" uuid, ADD "undone_by_id" uuid`);
    await runner.query(`UPDATE event SET actor_kind = CASE WHEN account_id IS NULL THEN 'job'
      WHEN EXISTS (SELECT 1 FROM account a WHERE a.id = account_id AND a.contact_id IS NOT NULL) THEN 'contact' ELSE 'person' END,
      job = CASE WHEN account_id IS NULL THEN 'repeat' END`);
    for (const sql of CARRY_OVER) await runner.query(sql);
    await runner.query(`UPDATE event SET kind = v.now, subject = CASE v.subject WHEN 'own-field' THEN 'field' WHEN 'time' THEN 'agency' ELSE v.subject END
      FROM (VALUES ${KINDS_AS_ROWS}) v(subject, before, now) WHERE event.subject = v.subject AND event.kind = v.before`);
    for (const sql of NAMED) await runner.query(sql);
    await runner.query('DROP TABLE "handoff_turn"');
    await runner.query('DROP TABLE "change_set"');
    for (const sql of SHAPE) await runner.query(sql);
    await runner.query(`ALTER TABLE "agency" ADD "history_months" int NOT NULL DEFAULT 24, ADD "time_closed_through" date`);
    await runner.query(
      `UPDATE agency SET time_closed_through = (SELECT k.through_day FROM time_closing k WHERE k.agency_id = agency.id ORDER BY k.at DESC LIMIT 1)`,
    );
    await runner.query('DROP TABLE "time_closing"');
    await runner.query(`ALTER TABLE "agency" ADD CONSTRAINT "agency_history_at_least_a_quarter" CHECK ("history_months" >= 3)`);
  }

  /** Changes of plans made since then can no longer be undone. */
  async down(runner: QueryRunner): Promise<void> {
    for (const sql of BACK) await runner.query(sql);
    await runner.query(`UPDATE event SET kind = v.before, subject = v.subject
      FROM (VALUES ${KINDS_AS_ROWS}) v(subject, before, now)
      WHERE event.kind = v.now AND event.subject = CASE v.subject WHEN 'own-field' THEN 'field' WHEN 'time' THEN 'agency' ELSE v.subject END`);
    await runner.query(`ALTER TABLE "agency" DROP COLUMN "history_months", DROP COLUMN "time_closed_through"`);
    await runner.query(`ALTER TABLE "event" DROP COLUMN "payload", DROP COLUMN "facts", DROP COLUMN "actor_kind", DROP COLUMN "job",
      DROP COLUMN "cause_id", DROP COLUMN "batch_id", DROP COLUMN "undoes_id", DROP COLUMN "undone_by_id"`);
  }
}

const LATE = `subject = 'time' AND kind <> 'time-closed'`;
const changed = (field: string): string => `jsonb_path_query_first(changes, '$[*] ? (@.field == "${field}").to')`;

/** What stood elsewhere goes into the events it belongs to. */
const CARRY_OVER = [
  `UPDATE event SET payload = jsonb_build_object('words', u.words, 'receiverId', NULL, 'reason', NULL)
   FROM handoff_turn u WHERE event.subject = 'handoff' AND u.handoff_id = event.subject_id AND u.kind = event.kind AND u.at = event.at`,
  // A change of closed time was kept twice; the one with the reason stays, on the task.
  `DELETE FROM event WHERE subject = 'task' AND EXISTS (SELECT 1 FROM event l WHERE l.subject = 'time' AND l.kind = event.kind
     AND l.engagement_id = event.engagement_id AND l.account_id = event.account_id AND abs(extract(epoch FROM l.at - event.at)) < 1)`,
  `UPDATE event SET payload = jsonb_build_object('entryId', subject_id, 'personId', ${changed('personId')}, 'day', ${changed('day')}, 'lateReason', ${changed('reason')},
       'minutesBefore', jsonb_path_query_first(changes, '$[*] ? (@.field == "minutes").from'), 'minutesAfter', ${changed('minutes')}),
     changes = jsonb_path_query_array(changes, '$[*] ? (@.field == "minutes")'), facts = jsonb_build_object('task', ${changed('task')})
   WHERE ${LATE}`,
  `UPDATE event SET subject = 'task', subject_id = x.task_id FROM time_entry x WHERE ${LATE} AND x.id = event.subject_id`,
  `UPDATE event SET subject = 'engagement', subject_id = engagement_id WHERE ${LATE}`,
];

/** Events from before say what they were about as it is called now. */
const NAMED = [
  `UPDATE event SET facts = facts || jsonb_build_object('engagement', e.id, 'engagementName', e.name) FROM engagement e WHERE e.id = event.engagement_id`,
  `UPDATE event SET facts = jsonb_build_object('task', t.title) || facts FROM task t WHERE subject = 'task' AND t.id = subject_id`,
  `UPDATE event SET facts = facts || jsonb_build_object('phase', p.name) FROM phase p WHERE subject = 'phase' AND p.id = subject_id`,
  `UPDATE event SET facts = facts || jsonb_build_object('phase', p.name) FROM handoff h JOIN phase p ON p.id = h.from_phase_id
   WHERE subject = 'handoff' AND h.id = subject_id`,
  `UPDATE event SET facts = facts || jsonb_build_object('name', x.name) FROM (SELECT id, name FROM template UNION ALL SELECT id, name FROM engagement_series
     UNION ALL SELECT id, name FROM own_field) x WHERE subject IN ('template', 'series', 'field') AND x.id = subject_id`,
];

const SHAPE = [
  `ALTER TABLE "event" ALTER "actor_kind" SET NOT NULL`,
  `ALTER TABLE "event" ADD CONSTRAINT "event_subject_known" CHECK ("subject" IN ('task', 'engagement', 'phase', 'handoff', 'template', 'series', 'person', 'client', 'field', 'agency'))`,
  `ALTER TABLE "event" ADD CONSTRAINT "event_actor_known" CHECK ("actor_kind" IN ('person', 'contact', 'job'))`,
  `CREATE INDEX "event_by_agency" ON "event" ("agency_id", "id")`,
  `CREATE INDEX "event_by_batch" ON "event" ("batch_id")`,
  `CREATE INDEX "event_of_handoffs" ON "event" ("agency_id", "at") WHERE "subject" = 'handoff'`,
];

const BACK = [
  `ALTER TABLE "event" DROP CONSTRAINT "event_subject_known"`,
  `ALTER TABLE "event" DROP CONSTRAINT "event_actor_known"`,
  `DROP INDEX "event_by_agency"`,
  `DROP INDEX "event_by_batch"`,
  `DROP INDEX "event_of_handoffs"`,
  `CREATE TABLE "handoff_turn" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "handoff_id" uuid NOT NULL, "kind" text NOT NULL, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "person_id" uuid NOT NULL, "words" text NOT NULL DEFAULT '', CONSTRAINT "handoff_turn_kind_known" CHECK ("kind" IN ('handed-off', 'picked-up', 'sent-back', 'given-on')), CONSTRAINT "PK_b638e933962460f4ba468b63306" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_3507056965df99f7be5c16867d" ON "handoff_turn" ("handoff_id")`,
  `ALTER TABLE "handoff_turn" ADD CONSTRAINT "FK_3507056965df99f7be5c16867d8" FOREIGN KEY ("handoff_id") REFERENCES "handoff"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "handoff_turn" ADD CONSTRAINT "FK_609bb3117ce705a7962be20e465" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
  `INSERT INTO handoff_turn (handoff_id, kind, at, person_id, words)
   SELECT v.subject_id, v.kind, v.at, a.person_id, coalesce(v.payload->>'words', '') FROM event v JOIN account a ON a.id = v.account_id JOIN handoff h ON h.id = v.subject_id
   WHERE v.subject = 'handoff' AND a.person_id IS NOT NULL`,
  `CREATE TABLE "change_set" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "engagement_id" uuid NOT NULL, "account_id" uuid, "at" TIMESTAMP WITH TIME ZONE NOT NULL, "before" jsonb NOT NULL, "after" jsonb NOT NULL, "undone_at" TIMESTAMP WITH TIME ZONE, "phases" jsonb, "joint_id" uuid, CONSTRAINT "PK_d5a247956d947b633a6303a7a61" PRIMARY KEY ("id"))`,
  `CREATE INDEX "change_set_by_engagement" ON "change_set" ("engagement_id", "at")`,
  `CREATE INDEX "change_set_joint" ON "change_set" ("joint_id") WHERE "joint_id" IS NOT NULL`,
  `ALTER TABLE "change_set" ADD CONSTRAINT "FK_12b1b1665159b8bbdd55c0772d4" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "change_set" ADD CONSTRAINT "FK_be6008deed6887940bf0b7d0921" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "change_set" ADD CONSTRAINT "FK_dfa9e0021411882ad96bbab6221" FOREIGN KEY ("account_id") REFERENCES "account"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `CREATE TABLE "time_closing" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "through_day" date, "account_id" uuid, "at" TIMESTAMP WITH TIME ZONE NOT NULL, CONSTRAINT "PK_0ae5bebb5a981eb82aa1c42b54c" PRIMARY KEY ("id"))`,
  `CREATE INDEX "time_closing_latest" ON "time_closing" ("agency_id", "at")`,
  `ALTER TABLE "time_closing" ADD CONSTRAINT "FK_06834f4cae0d5db75a9b8a727c0" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "time_closing" ADD CONSTRAINT "FK_5da21fc7db2bcecdefdd9c9574f" FOREIGN KEY ("account_id") REFERENCES "account"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `INSERT INTO time_closing (agency_id, through_day, at) SELECT id, time_closed_through, now() FROM agency WHERE time_closed_through IS NOT NULL`,
];
