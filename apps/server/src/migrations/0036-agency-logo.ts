import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The agency's logo, for what clients see. */
export class AgencyLogo1764000000036 implements MigrationInterface {
  readonly name = 'AgencyLogo1764000000036';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "agency_logo" ("agency_id" uuid NOT NULL, "type" text NOT NULL, "image" bytea NOT NULL, "digest" text NOT NULL, CONSTRAINT "PK_agency_logo" PRIMARY KEY ("agency_id"))`,
    );
    await runner.query(
      `ALTER TABLE "agency_logo" ADD CONSTRAINT "FK_7eb50cf53cc4c7b320599100fd9" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "agency_logo"');
  }
}
