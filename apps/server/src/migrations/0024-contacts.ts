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
      `CREATE TABLE "contact_client" ("contact_id" uuid NOT NULL, "client_id" uuid NOT NULL, CONSTRAINT "PK_contact_client" PRIMARY KEY ("contact_id", "client_id"))`,
    );
    await runner.query(`CREATE INDEX "IDX_52d1ebf9c8d552a9b921389779" ON "contact_client" ("client_id")`);
    await runner.query(
      `ALTER TABLE "contact_client" ADD CONSTRAINT "FK_a59bd1191bb40911e2c6729a8ee" FOREIGN KEY ("contact_id") REFERENCES "contact"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
    await runner.query(
      `ALTER TABLE "contact_client" ADD CONSTRAINT "FK_52d1ebf9c8d552a9b9213897796" FOREIGN KEY ("client_id") REFERENCES "client"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "contact_client"`);
    for (const column of ['version', 'is_active', 'notes', 'phone']) await runner.query(`ALTER TABLE "contact" DROP COLUMN "${column}"`);
    await runner.query(`ALTER TABLE "client" DROP COLUMN "version"`);
  }
}
