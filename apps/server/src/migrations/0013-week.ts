import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Work put on days and into weeks, and work that may begin before its phase. */
export class Week1764000000013 implements MigrationInterface {
  readonly name = 'Week1764000000013';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "desk_place" ("person_id" uuid NOT NULL, "task_id" uuid NOT NULL, "day" date NOT NULL, "position" integer NOT NULL, "minutes" integer NOT NULL, CONSTRAINT "desk_place_minutes_of_a_day" CHECK ("minutes" BETWEEN 1 AND 1440), CONSTRAINT "PK_194344784341115372bb352bf62" PRIMARY KEY ("person_id", "task_id", "day"))`,
    );
    await runner.query(`CREATE INDEX "IDX_5ff43a0a4fdf4511e0bd32903a" ON "desk_place" ("task_id")`);
    await runner.query(`ALTER TABLE "task" ADD "may_start_early" boolean NOT NULL DEFAULT false`);
    await runner.query(`ALTER TABLE "task" ADD "planned_week" date`);
    await runner.query(`ALTER TABLE "task" ADD "carried" integer NOT NULL DEFAULT '0'`);
    await runner.query(`CREATE INDEX "task_by_planned_week" ON "task" ("agency_id", "planned_week") WHERE "planned_week" IS NOT NULL`);
    await runner.query(`ALTER TABLE "task" ADD CONSTRAINT "task_carried_not_negative" CHECK ("carried" >= 0)`);
    await runner.query(
      `ALTER TABLE "desk_place" ADD CONSTRAINT "FK_33cab49250bc76b7fc5d4299ba6" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "desk_place" ADD CONSTRAINT "FK_5ff43a0a4fdf4511e0bd32903aa" FOREIGN KEY ("task_id") REFERENCES "task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "task" DROP CONSTRAINT "task_carried_not_negative"`);
    await runner.query(`DROP INDEX "task_by_planned_week"`);
    await runner.query(`ALTER TABLE "task" DROP COLUMN "carried"`);
    await runner.query(`ALTER TABLE "task" DROP COLUMN "planned_week"`);
    await runner.query(`ALTER TABLE "task" DROP COLUMN "may_start_early"`);
    await runner.query(`DROP TABLE "desk_place"`);
  }
}
