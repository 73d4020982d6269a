import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Requests that were carried out, wrong passwords by address, and which workers of the queue live. */
export class RequestsAndWorkers1764000000018 implements MigrationInterface {
  readonly name = 'RequestsAndWorkers1764000000018';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "idempotency_key" (
      "account_id" uuid NOT NULL,
      "key" text NOT NULL,
      "request" text NOT NULL,
      "value" jsonb NOT NULL DEFAULT '{}',
      "at" timestamptz NOT NULL DEFAULT now(),
      CONSTRAINT "PK_idempotency_key" PRIMARY KEY ("account_id", "key"),
      CONSTRAINT "FK_ca9dc4d77fbcc5305d851140072" FOREIGN KEY ("account_id") REFERENCES "account"("id") ON DELETE CASCADE)`);
    await runner.query(`CREATE INDEX "idempotency_key_by_age" ON "idempotency_key" ("at")`);
    await runner.query(`CREATE TABLE "sign_in_attempt" (
      "email" text NOT NULL,
      "wrong" int NOT NULL,
      "since" timestamptz NOT NULL,
      "until" timestamptz NOT NULL,
      CONSTRAINT "PK_sign_in_attempt" PRIMARY KEY ("email"))`);
    await runner.query(`CREATE TABLE "worker_heartbeat" (
      "worker_id" text NOT NULL,
      "at" timestamptz NOT NULL,
      CONSTRAINT "PK_worker_heartbeat" PRIMARY KEY ("worker_id"))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "worker_heartbeat"');
    await runner.query('DROP TABLE "sign_in_attempt"');
    await runner.query('DROP TABLE "idempotency_key"');
  }
}
