import { randomUUID } from 'node:crypto';
import type { TemplateDifference, TemplatePhase } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import { ORDER } from './news-hindrance.ts';
import { changesPlace, shapeAfter, type Placed } from './phase-shape.ts';
import type { News } from './read-news.ts';
import { orderedLike, writeShape } from './write-shape.ts';

/** Writes what was chosen of the phases: those that come, go, change, or follow something else. */
export class BringPhases {
  private readonly manager: EntityManager;
  private readonly news: News;
  private readonly chosen: readonly TemplateDifference[];
  /** Phases that come, by the template's. */
  private readonly comingIds: ReadonlyMap<string, string>;

  constructor(manager: EntityManager, { news, chosen }: { readonly news: News; readonly chosen: readonly TemplateDifference[] }) {
    this.manager = manager;
    this.news = news;
    this.chosen = chosen.filter(({ part }) => part === 'phase');
    this.comingIds = new Map(this.of('added').map(({ id }) => [id, randomUUID()]));
  }

  /** The engagement's phase of one of the template's, those that come included. */
  idOf(origin: string): string | undefined {
    return this.news.phaseOf.get(origin) ?? this.comingIds.get(origin);
  }

  /** The phases of the engagement that go. */
  going(): ReadonlySet<string> {
    return new Set(this.of('removed').flatMap(({ id }) => this.news.phaseOf.get(id) ?? []));
  }

  /** Before the tasks: those that come must be there for theirs, and what phases say changes. */
  async prepare(): Promise<void> {
    const comes = new Map(
      [...this.comingIds].map(([origin, id]) => [id, this.news.after.phases.find((phase) => phase.id === origin) as TemplatePhase]),
    );
    if (comes.size > 0) await this.write({ removed: [], comes });
    for (const { id } of this.of('changed')) if (!id.startsWith(ORDER)) await this.change(id);
  }

  /** After the tasks: those that go are empty now, and the order of tasks can be told. */
  async settle(): Promise<void> {
    const removed = this.of('removed').map(({ id }) => id);
    if (removed.length > 0 || this.moved().length > 0) await this.write({ removed, comes: new Map() });
    for (const { id } of this.of('changed')) if (id.startsWith(ORDER)) await this.reorder(id.slice(ORDER.length));
  }

  private write({
    removed,
    comes,
  }: {
    readonly removed: readonly string[];
    readonly comes: ReadonlyMap<string, TemplatePhase>;
  }): Promise<void> {
    const row: Placed[] = shapeAfter(this.news.shape, {
      added: [...this.comingIds.keys()],
      ...{ removed, moved: this.moved() },
      idOf: (origin) => this.comingIds.get(origin) as string,
    });
    return writeShape(this.manager, { engagementId: this.news.facts.engagementId, row, comes });
  }

  private of(kind: TemplateDifference['kind']): TemplateDifference[] {
    return this.chosen.filter((difference) => difference.kind === kind);
  }

  private moved(): string[] {
    return this.of('changed')
      .filter(changesPlace)
      .map(({ id }) => id);
  }

  private async change(origin: string): Promise<void> {
    const phase = this.news.after.phases.find((candidate) => candidate.id === origin);
    const id = this.news.phaseOf.get(origin);
    if (phase === undefined || id === undefined) return;
    const { name, stateLine, roleId, rounds } = phase;
    await rowsOf(this.manager, 'UPDATE phase SET name = $2, state_line = $3, role_id = $4, rounds = $5 WHERE id = $1', [
      ...[id, name, stateLine, roleId, rounds],
    ]);
    const texts = phase.checks.map((check) => check.text);
    // A word that was given stays given, whatever the template says now.
    await rowsOf(this.manager, 'DELETE FROM gate_check WHERE phase_id = $1 AND given_at IS NULL AND text <> ALL($2)', [id, texts]);
    await rowsOf(
      this.manager,
      `INSERT INTO gate_check (phase_id, position, kind, text)
       SELECT $1, v.position, v.kind, v.text FROM jsonb_to_recordset($2) AS v(position int, kind text, text text)
       WHERE NOT EXISTS (SELECT 1 FROM gate_check g WHERE g.phase_id = $1 AND g.text = v.text)`,
      [id, JSON.stringify(phase.checks.map((check, position) => ({ ...check, position })))],
    );
  }

  /** The order of a phase's tasks, on every level of it. */
  private async reorder(origin: string): Promise<void> {
    const sql = `SELECT id, parent_id AS "parentId", template_task_id AS "originId" FROM task WHERE phase_id = $1 ORDER BY position, number`;
    const rows = await rowsOf<{ id: string; parentId: string | null; originId: string | null }>(this.manager, sql, [
      this.news.phaseOf.get(origin),
    ]);
    const wanted = this.news.after.tasks.map((task) => task.id);
    for (const parentId of new Set(rows.map((row) => row.parentId))) {
      const siblings = rows.filter((row) => row.parentId === parentId);
      await rowsOf(
        this.manager,
        'UPDATE task SET position = v.place FROM unnest($1::uuid[]) WITH ORDINALITY AS v(id, place) WHERE task.id = v.id',
        [orderedLike(siblings, wanted)],
      );
    }
  }
}
