import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The last forecast of each engagement. */
export class Forecast1764000000014 implements MigrationInterface {
  readonly name = 'Forecast1764000000014';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "forecast" ("engagement_id" uuid NOT NULL, "facts_key" text NOT NULL, "computed_at" TIMESTAMP WITH TIME ZONE NOT NULL, "answer" jsonb NOT NULL, CONSTRAINT "PK_89eaf6ab74a9618342c3cd322ff" PRIMARY KEY ("engagement_id"))`,
    );
    await runner.query(
      `ALTER TABLE "forecast" ADD CONSTRAINT "FK_89eaf6ab74a9618342c3cd322ff" FOREIGN KEY ("engagement_id") REFERENCES "engagement"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "forecast"`);
  }
}
