import type { MigrationInterface, QueryRunner } from 'typeorm';

const UP = [
  `CREATE TABLE "webhook" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "agency_id" uuid NOT NULL, "name" text NOT NULL, "url" text NOT NULL, "kinds" text array NOT NULL, "sealed_secret" text NOT NULL, "is_on" boolean NOT NULL DEFAULT true, "version" integer NOT NULL DEFAULT '1', CONSTRAINT "PK_e6765510c2d078db49632b59020" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_bf41852c437587d018eb6cdd43" ON "webhook" ("agency_id")`,
  `CREATE TABLE "webhook_delivery" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "webhook_id" uuid NOT NULL, "key" text NOT NULL, "kind" text NOT NULL, "body" text NOT NULL, "state" text NOT NULL DEFAULT 'waiting', "tries" integer NOT NULL DEFAULT '0', "status" integer, "trouble" text, "created_at" TIMESTAMP WITH TIME ZONE NOT NULL, "sent_at" TIMESTAMP WITH TIME ZONE, CONSTRAINT "webhook_delivery_state_known" CHECK ("state" IN ('waiting', 'sent', 'undeliverable')), CONSTRAINT "PK_b1ae290239a778f12399db91354" PRIMARY KEY ("id"))`,
  `CREATE INDEX "webhook_delivery_by_time" ON "webhook_delivery" ("webhook_id", "created_at")`,
  `CREATE UNIQUE INDEX "webhook_delivery_once" ON "webhook_delivery" ("webhook_id", "key")`,
  `ALTER TABLE "webhook" ADD CONSTRAINT "FK_bf41852c437587d018eb6cdd436" FOREIGN KEY ("agency_id") REFERENCES "agency"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "webhook_delivery" ADD CONSTRAINT "FK_ef25cc28dcf88ea3dd81f39af2d" FOREIGN KEY ("webhook_id") REFERENCES "webhook"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
];

const DOWN = ['DROP TABLE "webhook_delivery"', 'DROP TABLE "webhook"'];

/** Programs that are told of events, and what they were told. */
export class Webhooks1764000000029 implements MigrationInterface {
  readonly name = 'Webhooks1764000000029';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of UP) await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const sql of DOWN) await runner.query(sql);
  }
}
