import { randomUUID } from 'node:crypto';
import type { TemplateDifference, TemplatePhase } from '@crew/core';
import type { PlanChanged } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow, rowsOf } from '../platform/database.ts';
import { holdsRole } from '../platform/sql-words.ts';
import type { Who } from '../platform/rights.ts';
import { applyEdit } from '../plan-change/apply-edit.ts';
import type { ChangePlan, OpenPlan } from '../plan-change/change-plan.ts';
import { editOfChanges } from '../plan-change/edit-of-changes.ts';
import type { NewPhase, PlanEdit, PlanOperation } from '../plan-change/plan-edit.ts';
import type { NewTask } from '../task/task-images.ts';
import { BringTasks } from './bring-tasks.ts';
import { ORDER } from './news-hindrance.ts';
import { changesPlace, shapeAfter } from './phase-shape.ts';
import type { News } from './read-news.ts';

/** What is brought into a plan. */
export interface Bringing {
  readonly news: News;
  readonly chosen: readonly TemplateDifference[];
  /** The version of the template the engagement is of from then on; null leaves it. */
  readonly version: number | null;
}

/** Who does the work of an engagement, as far as tasks that come in ask. */
export interface BringContext {
  /** By role. */
  readonly people: ReadonlyMap<string, string>;
  readonly active: ReadonlySet<string>;
  /** In-house work, which nobody pays for. */
  readonly isOwn: boolean;
}

/** Brings chosen differences into a plan as one change of it. */
export async function bringIn(
  manager: EntityManager,
  who: Who,
  {
    plans,
    open,
    adapt,
    ...bringing
  }: Bringing & {
    readonly plans: ChangePlan;
    readonly open: OpenPlan;
    /** Changes each task that comes before it is there. */
    readonly adapt?: ((task: NewTask, open: OpenPlan) => NewTask) | undefined;
  },
): Promise<PlanChanged> {
  const context = await readContext(manager, who, open.plan.engagementId);
  const { operations } = editOfNews(open, { ...bringing, context });
  const adapted = operations.map((operation) =>
    adapt === undefined || operation.kind !== 'add-tasks'
      ? operation
      : { ...operation, tasks: operation.tasks.map((task) => adapt(task, open)) },
  );
  return plans.apply(manager, who, { open, edit: { operations: adapted } });
}

async function readContext(manager: EntityManager, { agencyId }: Who, engagementId: string): Promise<BringContext> {
  const roles = `SELECT role_id AS "roleId", person_id AS "personId" FROM engagement_role r
    WHERE engagement_id = $1 AND ${holdsRole('r.person_id', 'r.role_id')}`;
  const people = await rowsOf<{ roleId: string; personId: string }>(manager, roles, [engagementId]);
  const active = await rowsOf<{ id: string }>(manager, 'SELECT id FROM person WHERE agency_id = $1 AND is_active', [agencyId]);
  const own = 'SELECT 1 FROM engagement e JOIN client c ON c.id = e.client_id AND c.is_own WHERE e.id = $1';
  return {
    people: new Map(people.map(({ roleId, personId }) => [roleId, personId])),
    active: new Set(active.map(({ id }) => id)),
    isOwn: (await firstRow(manager, own, [engagementId])) !== null,
  };
}

/** Chosen differences as an edit: phases that come, then tasks, then what follows for the order of both. */
export function editOfNews(open: OpenPlan, { news, chosen, version, context }: Bringing & { readonly context: BringContext }): PlanEdit {
  const phases = new ChosenPhases(news, chosen);
  const tasks = new BringTasks(open.plan, { news, chosen, phases, context });
  const first = [...phases.additions(), ...tasks.additions()];
  const plan = applyEdit(open.plan, { operations: first });
  const changed = editOfChanges(tasks.changes(plan), { ...open, plan });
  const last: PlanOperation[] = version === null ? [] : [{ kind: 'set-template-version', version }];
  return { operations: [...first, ...changed, ...phases.arrangement(), ...last] };
}

/** What was chosen of the phases: those that come, go, change, or follow something else. */
export class ChosenPhases {
  private readonly news: News;
  private readonly chosen: readonly TemplateDifference[];
  /** Phases that come, by the template's. */
  private readonly comingIds: ReadonlyMap<string, string>;

  constructor(news: News, chosen: readonly TemplateDifference[]) {
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

  /** Those that come must be there for their tasks; what phases say changes too. */
  additions(): PlanOperation[] {
    const coming = [...this.comingIds].map(([origin, id]): NewPhase => ({ ...this.phaseOf(origin), id, originId: origin }));
    const changed = this.of('changed').flatMap(({ id: origin }) => {
      const id = this.news.phaseOf.get(origin);
      return origin.startsWith(ORDER) || id === undefined ? [] : [{ ...this.phaseOf(origin), id }];
    });
    return [
      ...(coming.length === 0 ? [] : [{ kind: 'add-phases', phases: coming } as const]),
      ...changed.map((phase) => ({ kind: 'change-phase', phase }) as const),
    ];
  }

  /** The row of phases, and the order of their tasks, once all tasks are where they belong. */
  arrangement(): PlanOperation[] {
    const added = [...this.comingIds.keys()];
    const removed = this.of('removed').map(({ id }) => id);
    const moved = this.of('changed').filter(changesPlace);
    const idOf = (origin: string): string => this.comingIds.get(origin) as string;
    const row = shapeAfter(this.news.shape, { added, removed, moved: moved.map(({ id }) => id), idOf });
    const like = this.news.after.tasks.map(({ id }) => id);
    const ordered = this.of('changed').filter(({ id }) => id.startsWith(ORDER));
    return [
      ...(added.length + removed.length + moved.length === 0 ? [] : [{ kind: 'arrange-phases', row } as const]),
      ...ordered.map(
        ({ id }) => ({ kind: 'order-tasks', phaseId: this.news.phaseOf.get(id.slice(ORDER.length)) as string, like }) as const,
      ),
    ];
  }

  private of(kind: TemplateDifference['kind']): TemplateDifference[] {
    return this.chosen.filter((difference) => difference.kind === kind);
  }

  private phaseOf(origin: string): TemplatePhase {
    return this.news.after.phases.find(({ id }) => id === origin) as TemplatePhase;
  }
}
