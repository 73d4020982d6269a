import type { MigrationInterface, QueryRunner } from 'typeorm';

const UP = [
  `ALTER TABLE "agency" ADD "currency" text NOT NULL DEFAULT 'EUR'`,
  `ALTER TABLE "agency" ADD "colour" text NOT NULL DEFAULT '#0b5d57'`,
  'ALTER TABLE "agency" ADD "country" text',
  'ALTER TABLE "agency" ADD "region" text',
  `ALTER TABLE "agency" ADD CONSTRAINT "agency_currency_has_three_letters" CHECK ("currency" ~ '^[A-Z]{3}$')`,
  `ALTER TABLE "agency" ADD CONSTRAINT "agency_colour_is_hex" CHECK ("colour" ~ '^#[0-9a-f]{6}$')`,
];

const DOWN = [
  'ALTER TABLE "agency" DROP CONSTRAINT "agency_colour_is_hex"',
  'ALTER TABLE "agency" DROP CONSTRAINT "agency_currency_has_three_letters"',
  'ALTER TABLE "agency" DROP COLUMN "region"',
  'ALTER TABLE "agency" DROP COLUMN "country"',
  'ALTER TABLE "agency" DROP COLUMN "colour"',
  'ALTER TABLE "agency" DROP COLUMN "currency"',
];

/** The agency's currency, and its colour for what clients see. */
export class AgencyProfile1764000000033 implements MigrationInterface {
  readonly name = 'AgencyProfile1764000000033';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of DOWN) await runner.query(sql);
  }
}
