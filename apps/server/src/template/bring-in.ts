import type { TemplateDifference } from '@crew/core';
import type { PlanChanged } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { By } from '../platform/actor.ts';
import type { Who } from '../platform/rights.ts';
import type { ChangePlan } from '../plan-change/change-plan.ts';
import { BringPhases } from './bring-phases.ts';
import { BringTasks } from './bring-tasks.ts';
import type { News } from './read-news.ts';

interface Bringing {
  readonly plans: ChangePlan;
  readonly news: News;
  readonly chosen: readonly TemplateDifference[];
  /** What else is written before the plan is computed. */
  readonly settle?: () => Promise<unknown>;
}

/** Brings chosen differences into a plan as one change of it: phases first, then tasks, then what follows for the order of both. */
export function bringIn(
  manager: EntityManager,
  by: By & { readonly actor: Who },
  { plans, news, chosen, settle }: Bringing,
): Promise<PlanChanged> {
  const phases = new BringPhases(manager, { news, chosen });
  const tasks = new BringTasks(manager, by, { news, chosen, phases });
  return plans.apply(manager, by.actor, {
    engagementId: news.facts.engagementId,
    tasks: [],
    prepare: async () => {
      await phases.prepare();
      return tasks.prepare();
    },
    alsoMoved: () => tasks.placedAnew(),
    settle: async () => {
      await phases.settle();
      await settle?.();
    },
  });
}
