import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How engagements end and go round: why and when one was closed, ways out of a task beside the ordinary next ones, and the round a phase is in. */
export class Endings1764000000022 implements MigrationInterface {
  readonly name = 'Endings1764000000022';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "engagement" ADD "closed_on" date`);
    await runner.query(`ALTER TABLE "engagement" ADD "closed_reason" text`);
    await runner.query(`ALTER TABLE "engagement" ADD "closed_ending" text`);
    await runner.query(
      `UPDATE "engagement" e SET "closed_on" = v."on", "closed_reason" = v."reason" FROM (
         SELECT DISTINCT ON (x."engagement_id") x."engagement_id", (x."at" AT TIME ZONE y."zone")::date AS "on", x."payload"->>'reason' AS "reason"
         FROM "event" x JOIN "agency" y ON y."id" = x."agency_id" WHERE x."kind" IN ('engagement-closed', 'engagement-completed')
         ORDER BY x."engagement_id", x."id" DESC) v
       WHERE v."engagement_id" = e."id" AND e."state" IN ('finished', 'dropped')`,
    );
    await runner.query(
      `UPDATE "engagement" e SET "closed_on" = coalesce((SELECT max(p."finished_on") FROM "phase" p WHERE p."engagement_id" = e."id"), e."baseline_finish")
       WHERE e."state" IN ('finished', 'dropped') AND e."closed_on" IS NULL`,
    );
    await runner.query(
      `ALTER TABLE "engagement" ADD CONSTRAINT "engagement_closed_when_over" CHECK (("state" IN ('finished', 'dropped')) = ("closed_on" IS NOT NULL))`,
    );
    await runner.query(`ALTER TABLE "phase" ADD "round" integer NOT NULL DEFAULT 1`);
    await runner.query(`ALTER TABLE "phase" ADD CONSTRAINT "phase_round_positive" CHECK ("round" > 0)`);
    await runner.query(`ALTER TABLE "task" ADD "ways" jsonb NOT NULL DEFAULT '[]'`);
    await runner.query(
      `UPDATE "task" t SET "ways" = v."ways" FROM (
         SELECT own."id", jsonb_agg(jsonb_build_object('id', w->>'id', 'toId', other."id", 'ending', w->>'ending', 'reason', w->>'reason')) AS "ways"
         FROM "engagement" e JOIN "template_version" k ON k."template_id" = e."template_id" AND k."version" = e."template_version"
         CROSS JOIN LATERAL jsonb_array_elements(k."content"->'ways') w
         JOIN "task" own ON own."engagement_id" = e."id" AND own."template_task_id"::text = w->>'fromId'
         LEFT JOIN "task" other ON other."engagement_id" = e."id" AND other."template_task_id"::text = w->>'toId'
         WHERE other."id" IS NOT NULL OR w->>'ending' IS NOT NULL
         GROUP BY own."id") v WHERE v."id" = t."id"`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "task" DROP COLUMN "ways"`);
    await runner.query(`ALTER TABLE "phase" DROP CONSTRAINT "phase_round_positive"`);
    await runner.query(`ALTER TABLE "phase" DROP COLUMN "round"`);
    await runner.query(`ALTER TABLE "engagement" DROP CONSTRAINT "engagement_closed_when_over"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "closed_ending"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "closed_reason"`);
    await runner.query(`ALTER TABLE "engagement" DROP COLUMN "closed_on"`);
  }
}
