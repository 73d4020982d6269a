import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is open of somebody's work, kept on the assignment: a desk must not look through all they ever did. */
const OPEN_WORK: readonly string[] = [
  `ALTER TABLE "task_assignee" ADD "is_open" boolean NOT NULL DEFAULT true`,
  `UPDATE task_assignee SET is_open = false FROM task WHERE task.id = task_id AND task.status IN ('done', 'dropped')`,
  `CREATE INDEX "task_assignee_open" ON "task_assignee" ("person_id") WHERE "is_open"`,
  `CREATE FUNCTION task_closes_assignments() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
     UPDATE task_assignee SET is_open = new.status NOT IN ('done', 'dropped') WHERE task_id = new.id;
     RETURN NULL;
   END $$`,
  `CREATE TRIGGER task_closes_assignments AFTER UPDATE OF status ON task FOR EACH ROW
     WHEN ((old.status IN ('done', 'dropped')) <> (new.status IN ('done', 'dropped'))) EXECUTE FUNCTION task_closes_assignments()`,
  `CREATE FUNCTION assignment_is_open() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
     new.is_open := (SELECT status NOT IN ('done', 'dropped') FROM task WHERE id = new.task_id);
     RETURN new;
   END $$`,
  `CREATE TRIGGER assignment_is_open BEFORE INSERT ON task_assignee FOR EACH ROW EXECUTE FUNCTION assignment_is_open()`,
];

/** A status is written at once and the plan behind it a moment later: which tasks that is about, and a guard for the percent. */
export class Behind1764000000002 implements MigrationInterface {
  readonly name = 'Behind1764000000002';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "engagement_summary" ADD "revision" integer NOT NULL DEFAULT '0'`);
    await runner.query(`ALTER TABLE "engagement_summary" ADD "pending_task_ids" uuid array NOT NULL DEFAULT '{}'`);
    for (const statement of OPEN_WORK) await runner.query(statement);
    await runner.query(`CREATE INDEX "handoff_sent_back" ON "handoff" ("giver_id") WHERE "state" = 'sent-back'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "handoff_sent_back"`);
    await runner.query('DROP TRIGGER assignment_is_open ON task_assignee');
    await runner.query('DROP FUNCTION assignment_is_open');
    await runner.query('DROP TRIGGER task_closes_assignments ON task');
    await runner.query('DROP FUNCTION task_closes_assignments');
    await runner.query(`ALTER TABLE "task_assignee" DROP COLUMN "is_open"`);
    await runner.query(`ALTER TABLE "engagement_summary" DROP COLUMN "pending_task_ids"`);
    await runner.query(`ALTER TABLE "engagement_summary" DROP COLUMN "revision"`);
  }
}
