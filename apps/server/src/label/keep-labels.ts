import { Injectable } from '@nestjs/common';
import type { EditLabel, LabelLine, ListChanged } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockAgency, lockEngagements, lockTasks } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { isOpen } from '../platform/sql-words.ts';

const LABELS = `
  SELECT coalesce(t.name, k.name) AS name, coalesce(t.open, 0) AS "openTasks", coalesce(t.tasks, 0) AS tasks, coalesce(k.templates, 0) AS templates
  FROM (SELECT x.name, count(*)::int AS tasks, count(*) FILTER (WHERE ${isOpen('t')} AND e.state IN ('proposal', 'open'))::int AS open
      FROM task t JOIN engagement e ON e.id = t.engagement_id, unnest(t.labels) AS x(name) WHERE t.agency_id = $1 GROUP BY x.name) t
    FULL JOIN (SELECT x.name, count(DISTINCT p.template_id)::int AS templates
      FROM template_task k JOIN template_phase p ON p.id = k.phase_id JOIN template m ON m.id = p.template_id, unnest(k.labels) AS x(name)
      WHERE m.agency_id = $1 GROUP BY x.name) k ON k.name = t.name
  ORDER BY lower(coalesce(t.name, k.name)), 1`;

/** Which tasks a change of a label is about, and how their labels become. */
export interface LabelChange {
  readonly from: string | null;
  readonly to: string | null;
  readonly taskIds: readonly string[];
}

/** Tasks that were changed, and those of them that had both labels before. */
export interface LabelsWritten {
  readonly taskIds: readonly string[];
  readonly merged: readonly string[];
}

/** The labels of the agency's tasks: listed, renamed, merged and removed. */
@Injectable()
export class KeepLabels {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  list(who: Who): Promise<LabelLine[]> {
    return this.database.rows<LabelLine>(LABELS, [who.agencyId]);
  }

  /** On every task that carries it, of finished engagements too. */
  edit(who: Who, input: EditLabel): Promise<ListChanged> {
    const [label, to] = [input.label.trim(), input.to?.trim() ?? null];
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const sql = 'SELECT id, engagement_id AS "engagementId" FROM task WHERE agency_id = $1 AND labels @> ARRAY[$2::text]';
      const tasks = await rowsOf<{ id: string; engagementId: string }>(manager, sql, [who.agencyId, label]);
      if (tasks.length === 0) throw new Refusal('not-found', `No task carries the label “${label}”. Reload to see the labels in use.`);
      if (label !== to) {
        await lockPlans(manager, tasks);
        const written = await this.write(manager, { from: label, to, taskIds: tasks.map(({ id }) => id) });
        await this.record(manager, who, { from: label, to, written });
      }
      return { changeId: changeIdOf(manager) };
    });
  }

  /** Gives tasks that are locked, and still carry `from`, `to` in its place; without `from`, besides their others. */
  async write(manager: EntityManager, { from, to, taskIds }: LabelChange): Promise<LabelsWritten> {
    const rows = await rowsOf<{ id: string; hadBoth: boolean }>(manager, from === null ? ADD : to === null ? REMOVE : RENAME, [
      ...[taskIds, from ?? to],
      ...(from === null || to === null ? [] : [to]),
    ]);
    return { taskIds: rows.map(({ id }) => id), merged: rows.filter(({ hadBoth }) => hadBoth).map(({ id }) => id) };
  }

  record(
    manager: EntityManager,
    who: Who,
    { from, to, written }: { readonly from: string | null; readonly to: string | null; readonly written: LabelsWritten },
  ): Promise<void> {
    return record(manager, { actor: who, at: this.clock.now() }, [
      {
        ...{ kind: 'label-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId },
        ...{ changes: [{ field: 'label', from, to }], payload: { name: from ?? to ?? '', ...written } },
      },
    ]);
  }
}

/** Engagements before tasks, as everybody locks. */
export async function lockPlans(manager: EntityManager, tasks: readonly { readonly id: string; readonly engagementId: string }[]) {
  await lockEngagements(
    manager,
    tasks.map(({ engagementId }) => engagementId),
  );
  await lockTasks(
    manager,
    tasks.map(({ id }) => id),
  );
}

/** A task that carries the new label already carries it once. */
const RENAME = `
  UPDATE task t SET version = t.version + 1,
    labels = CASE WHEN $3 = ANY(t.labels) THEN array_remove(t.labels, $2) ELSE array_replace(t.labels, $2, $3) END
  FROM (SELECT id, $3 = ANY(labels) AS both FROM task WHERE id = ANY($1::uuid[])) w
  WHERE t.id = w.id AND $2 = ANY(t.labels) RETURNING t.id, w.both AS "hadBoth"`;

const REMOVE = `
  UPDATE task SET version = version + 1, labels = array_remove(labels, $2) WHERE id = ANY($1::uuid[]) AND $2 = ANY(labels)
  RETURNING id, false AS "hadBoth"`;

const ADD = `
  UPDATE task SET version = version + 1, labels = labels || $2::text WHERE id = ANY($1::uuid[]) AND NOT $2 = ANY(labels)
  RETURNING id, false AS "hadBoth"`;
