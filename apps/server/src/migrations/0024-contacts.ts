import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Contacts are looked after: phone, notes, further clients, and whether they are still there. */
export class Contacts1764000000024 implements MigrationInterface {
  readonly name = 'Contacts1764000000024';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "client" ADD "version" integer NOT NULL DEFAULT 1`);
    await runner.query(`ALTER TABLE "contact" ADD "phone" text NOT NULL DEFAULT ''`);
    await runner.query(`ALTER TABLE "contact" ADD "notes" text NOT NULL DEFAULT ''`);
    await runner.query(`ALTER TABLE "contact" ADD "is_active" boolean NOT NULL DEFAULT true`);
    await runner.query(`ALTER TABLE "contact" ADD "version" integer NOT NULL DEFAULT 1`);
    await runner.query(
      `CREATE TABLE "contact_client" ("contact_id" uuid NOT NULL REFERENCES "contact" ("id") ON DELETE CASCADE, "client_id" uuid NOT NULL REFERENCES "client" ("id") ON DELETE CASCADE, PRIMARY KEY ("contact_id", "client_id"))`,
    );
    await runner.query(`CREATE INDEX "contact_client_by_client" ON "contact_client" ("client_id")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "contact_client"`);
    for (const column of ['version', 'is_active', 'notes', 'phone']) await runner.query(`ALTER TABLE "contact" DROP COLUMN "${column}"`);
    await runner.query(`ALTER TABLE "client" DROP COLUMN "version"`);
  }
}
