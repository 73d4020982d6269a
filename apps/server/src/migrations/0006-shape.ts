import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What shaping work needs: versions that never change, depth, ways out, and all that a task can preset. */
const UP: readonly string[] = [
  `CREATE TABLE "template_version" ("template_id" uuid NOT NULL, "version" integer NOT NULL, "content" jsonb NOT NULL, "note" text NOT NULL DEFAULT '', "made_at" TIMESTAMP WITH TIME ZONE NOT NULL, "made_by_id" uuid, CONSTRAINT "template_version_positive" CHECK ("version" > 0), CONSTRAINT "PK_cfb629f3cf6205a13e580e990cb" PRIMARY KEY ("template_id", "version"))`,
  `CREATE TABLE "template_way" ("id" uuid NOT NULL DEFAULT gen_random_uuid(), "template_id" uuid NOT NULL, "position" integer NOT NULL, "from_id" uuid NOT NULL, "to_id" uuid, "ending" text, "reason" text NOT NULL, CONSTRAINT "template_way_leads_somewhere" CHECK (("to_id" IS NULL) <> ("ending" IS NULL)), CONSTRAINT "PK_3eeb4c43a7fd66535932d5959ef" PRIMARY KEY ("id"))`,
  `CREATE INDEX "IDX_cfe5438f2ee52bd74825acf910" ON "template_way" ("template_id")`,
  `CREATE INDEX "IDX_582bc6e7eff466bbc99e38e8b9" ON "template_way" ("from_id")`,
  `CREATE INDEX "IDX_4bedee21a28f874d73c09fe05e" ON "template_way" ("to_id")`,
  `ALTER TABLE "template" ADD "revision" integer NOT NULL DEFAULT '1'`,
  `ALTER TABLE "template" ADD "is_changed" boolean NOT NULL DEFAULT false`,
  `ALTER TABLE "template" ADD "is_archived" boolean NOT NULL DEFAULT false`,
  `ALTER TABLE "template_task" ADD "parent_id" uuid`,
  `ALTER TABLE "template_task" ADD "person_id" uuid`,
  `ALTER TABLE "template_task" ADD "helper_role_ids" uuid array NOT NULL DEFAULT '{}'`,
  `ALTER TABLE "template_task" ADD "labels" text array NOT NULL DEFAULT '{}'`,
  `ALTER TABLE "template_task" ADD "deliverable" text`,
  `ALTER TABLE "template_task" ADD "links" jsonb NOT NULL DEFAULT '[]'`,
  `ALTER TABLE "template_task" ADD "outside" jsonb`,
  `ALTER TABLE "task" ADD "links" jsonb NOT NULL DEFAULT '[]'`,
  `ALTER TABLE "template_task" ADD CONSTRAINT "template_task_not_its_own_part" CHECK ("parent_id" <> "id")`,
  `ALTER TABLE "template_version" ADD CONSTRAINT "FK_cef79f12ada2f9cb42a3f490f79" FOREIGN KEY ("template_id") REFERENCES "template"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "template_version" ADD CONSTRAINT "FK_be2acfe433e7478258245e1a3d8" FOREIGN KEY ("made_by_id") REFERENCES "account"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "template_task" ADD CONSTRAINT "FK_359bbc67afe7abecfe00e73fc2c" FOREIGN KEY ("parent_id") REFERENCES "template_task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "template_task" ADD CONSTRAINT "FK_29c3221247ca4846066bec4381b" FOREIGN KEY ("person_id") REFERENCES "person"("id") ON DELETE SET NULL ON UPDATE NO ACTION`,
  `ALTER TABLE "template_way" ADD CONSTRAINT "FK_cfe5438f2ee52bd74825acf910c" FOREIGN KEY ("template_id") REFERENCES "template"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "template_way" ADD CONSTRAINT "FK_582bc6e7eff466bbc99e38e8b9b" FOREIGN KEY ("from_id") REFERENCES "template_task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
  `ALTER TABLE "template_way" ADD CONSTRAINT "FK_4bedee21a28f874d73c09fe05ea" FOREIGN KEY ("to_id") REFERENCES "template_task"("id") ON DELETE CASCADE ON UPDATE NO ACTION`,
];

/** What is there becomes the version it has. */
const BACKFILL = `
  INSERT INTO template_version (template_id, version, content, made_at)
  SELECT t.id, t.version, to_jsonb(x) - 'template_id', now() FROM template t JOIN (
  SELECT t.id AS template_id, t.name, t.description,
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'roleId', p.role_id, 'stateLine', p.state_line, 'rounds', p.rounds,
        'afterPhaseId', p.after_phase_id, 'afterEdge', p.after_edge, 'afterLag', p.after_lag,
        'checks', coalesce((SELECT json_agg(json_build_object('kind', c.kind, 'text', c.text) ORDER BY c.position)
          FROM template_check c WHERE c.phase_id = p.id), '[]')) ORDER BY p.position)
      FROM template_phase p WHERE p.template_id = t.id), '[]') AS phases,
    coalesce((SELECT json_agg(json_build_object('id', k.id, 'phaseId', k.phase_id, 'parentId', k.parent_id, 'title', k.title,
        'description', k.description, 'kind', k.kind, 'roleId', k.role_id, 'personId', k.person_id, 'helperRoleIds', k.helper_role_ids,
        'estimateMinutes', k.estimate_minutes, 'days', k.days, 'anchor', json_build_object('at', k.anchor_at, 'offset', k.anchor_offset),
        'after', coalesce((SELECT json_agg(json_build_object('taskId', l.predecessor_id, 'type', l.type, 'lag', l.lag) ORDER BY o.position, o.id)
          FROM template_link l JOIN template_task o ON o.id = l.predecessor_id WHERE l.successor_id = k.id), '[]'),
        'steps', coalesce((SELECT json_agg(s.title ORDER BY s.position) FROM template_step s WHERE s.task_id = k.id), '[]'),
        'priority', k.priority, 'labels', k.labels, 'deliverable', k.deliverable, 'links', k.links, 'outside', k.outside,
        'isShownToClient', k.is_shown_to_client, 'isChargeable', k.is_chargeable) ORDER BY k.position, k.id)
      FROM template_task k JOIN template_phase p ON p.id = k.phase_id WHERE p.template_id = t.id), '[]') AS tasks,
    coalesce((SELECT json_agg(json_build_object('id', w.id, 'fromId', w.from_id, 'toId', w.to_id, 'ending', w.ending, 'reason', w.reason)
        ORDER BY w.position) FROM template_way w WHERE w.template_id = t.id), '[]') AS ways
  FROM template t
  ) x ON x.template_id = t.id`;

const DOWN: readonly string[] = [
  `DROP TABLE "template_way"`,
  `DROP TABLE "template_version"`,
  `ALTER TABLE "task" DROP COLUMN "links"`,
  `ALTER TABLE "template_task" DROP COLUMN "outside", DROP COLUMN "links", DROP COLUMN "deliverable", DROP COLUMN "labels",
     DROP COLUMN "helper_role_ids", DROP COLUMN "person_id", DROP COLUMN "parent_id"`,
  `ALTER TABLE "template" DROP COLUMN "is_archived", DROP COLUMN "is_changed", DROP COLUMN "revision"`,
];

export class Shape1764000000006 implements MigrationInterface {
  readonly name = 'Shape1764000000006';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of [...UP, BACKFILL]) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of DOWN) await runner.query(statement);
  }
}
