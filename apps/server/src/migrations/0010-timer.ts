import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Everybody's one timer. */
export class Timer1764000000010 implements MigrationInterface {
  readonly name = 'Timer1764000000010';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "timer" ("person_id" uuid NOT NULL, "task_id" uuid NOT NULL, "day" date NOT NULL, "banked_seconds" integer NOT NULL DEFAULT '0', "running_since" TIMESTAMP WITH TIME ZONE, CONSTRAINT "timer_banked_not_negative" CHECK ("banked_seconds" >= 0), CONSTRAINT "PK_99a31d3eb384e089a1974f42c46" PRIMARY KEY ("person_id"))`,
    );
    await runner.query(`CREATE INDEX "IDX_05c36f9cb4b017d4697477fda0" ON "timer" ("task_id")`);
    await runner.query(
      `ALTER TABLE "timer" ADD CONSTRAINT "FK_99a31d3eb384e089a1974f42c46" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "timer" ADD CONSTRAINT "FK_05c36f9cb4b017d4697477fda0d" FOREIGN KEY ("task_id") REFERENCES "task"("id") ON DELETE RESTRICT ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "timer"`);
  }
}
