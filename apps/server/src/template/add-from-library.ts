import { Injectable } from '@nestjs/common';
import { composeTemplate, type TemplateContent, type TemplateDifference, type TemplatePhase, type TemplateTask } from '@crew/core';
import type { PlanChanged, PlanEffect, AddFromLibrary as Input } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { ChangePlan, type OpenPlan } from '../plan-change/change-plan.ts';
import { tryOut } from '../platform/try-out.ts';
import type { PlanFacts } from '../schedule/plan-facts.ts';
import type { NewTask } from '../task/task-images.ts';
import { bringIn } from './bring-in.ts';
import { phaseHindrance, type PhaseHere } from './phase-shape.ts';
import { PHASES_HERE, type News } from './read-news.ts';
import { TemplateRepository, type TemplateDocument } from './template.repository.ts';

/** What is taken of a template, and where it goes. */
interface Taken {
  readonly engagementId: string;
  readonly input: Input;
  /** Another day, or other people, for each task that comes. */
  readonly adapt?: (task: NewTask, open: OpenPlan) => NewTask;
}

/**
 * Takes phases of a template, or a kept task, into an engagement that runs: with everything they
 * preset, placed by the planner, undone as one. It is the way changes of an engagement's own
 * template come in, with the engagement's own phases standing for those of a template.
 */
@Injectable()
export class AddFromLibrary {
  private readonly database: Database;
  private readonly templates: TemplateRepository;
  private readonly plans: ChangePlan;
  private readonly clock: Clock;
  constructor(database: Database, templates: TemplateRepository, plans: ChangePlan, clock: Clock) {
    this.database = database;
    this.templates = templates;
    this.plans = plans;
    this.clock = clock;
  }

  /** Takes it, all or nothing. */
  run(who: Who, engagementId: string, input: Input): Promise<PlanChanged> {
    return this.database.transaction((manager) => this.apply(manager, who, { engagementId, input }));
  }

  /** What taking it would do; nothing stays. */
  async preview(who: Who, engagementId: string, input: Input): Promise<PlanEffect> {
    return (await tryOut(this.database, (manager) => this.apply(manager, who, { engagementId, input }))).effect;
  }

  /** As `run`, inside a transaction. */
  async apply(manager: EntityManager, who: Who, { engagementId, input, adapt }: Taken): Promise<PlanChanged> {
    const open = await this.plans.open(manager, who, engagementId);
    const template = requireFound(await this.templates.find(manager, who.agencyId, { templateId: input.templateId }), 'template');
    const here = (await rowsOf<PhaseHere>(manager, PHASES_HERE, [engagementId])).map((phase) => ({ ...phase, originId: phase.id }));
    const place = here.find(({ id }) => id === input.phaseId);
    if (place === undefined)
      throw new Refusal('unknown-id', 'This phase is not in this engagement. Choose one of its own.', { field: 'phaseId' });
    const news =
      input.phaseIds === undefined
        ? newsOfTask(template, { facts: open.facts, here, place })
        : newsOfPhases(template, {
            facts: open.facts,
            here,
            lines: new Map(open.plan.phases.map(({ id, state_line }) => [id, state_line])),
            input,
          });
    const changed = await bringIn(manager, who, { plans: this.plans, open, news, chosen: news.differences, version: null, adapt });
    await record(manager, { actor: who, at: this.clock.now() }, [
      {
        ...{ kind: 'library-part-added', engagementId, subject: 'engagement', subjectId: engagementId },
        payload: { templateId: template.id, name: template.name },
      },
    ]);
    return changed;
  }
}

interface Here {
  readonly facts: PlanFacts;
  readonly here: readonly PhaseHere[];
}

/** A kept task put into a phase that is not over. */
function newsOfTask(template: TemplateDocument, { facts, here, place }: Here & { readonly place: PhaseHere }): News {
  if (template.kind !== 'task')
    throw new Refusal('invalid-input', `“${template.name}” is more than a task. Choose which of its phases to add.`, {
      field: 'phaseIds',
    });
  if (place.state === 'over')
    throw new Refusal('wrong-moment', `${place.name} is over. Put the task into a phase that is still to be done.`, { field: 'phaseId' });
  const tasks = template.tasks.map((task) => ({ ...task, phaseId: place.id }));
  return newsOf(template, { facts, here, content: { phases: here.map(asPhase), tasks, ways: template.ways } });
}

/** Phases that come behind one of the engagement's, in a row; what followed that one follows the last of them. */
function newsOfPhases(
  template: TemplateDocument,
  { facts, here, lines, input }: Here & { readonly lines: ReadonlyMap<string, string>; readonly input: Input },
): News {
  const phaseIds = [...new Set(input.phaseIds)];
  if (!phaseIds.every((id) => template.phases.some((phase) => phase.id === id)))
    throw new Refusal('unknown-id', `A phase to add is not in “${template.name}”. Choose from its list.`, { field: 'phaseIds' });
  const own = here.map((phase) => ({ ...asPhase(phase), stateLine: lines.get(phase.id) ?? '' }));
  const grown = composeTemplate<TemplatePhase, TemplateTask>({ phases: own, tasks: [], ways: [] }, template, {
    ...{ phaseIds, behindId: input.phaseId, idOf: (id) => id },
  });
  const news = newsOf(template, { facts, here, content: grown });
  for (const difference of news.differences) {
    const hindrance = difference.part === 'phase' ? phaseHindrance(difference, news.shape) : null;
    if (hindrance !== null) throw new Refusal('wrong-moment', `“${difference.name}” cannot go there: ${hindrance}.`, { field: 'phaseId' });
  }
  return news;
}

/** Everything in the content that is not of the engagement comes. */
function newsOf(
  template: TemplateDocument,
  { facts, here, content }: Here & { readonly content: Pick<TemplateContent, 'phases' | 'tasks' | 'ways'> },
): News {
  const there = new Set(here.map(({ id }) => id));
  const after: TemplateContent = { name: template.name, description: '', ...content };
  const added = (part: 'phase' | 'task', id: string, name: string): TemplateDifference => ({
    ...{ part, kind: 'added', id, name, phase: null, fields: [] },
  });
  return {
    ...{ templateId: template.id, from: template.version, to: template.version, facts, after, shape: { here, after } },
    before: { ...after, phases: [], tasks: [] },
    differences: [
      ...content.phases.filter(({ id }) => !there.has(id)).map(({ id, name }) => added('phase', id, name)),
      ...content.tasks.map(({ id, title }) => added('task', id, title)),
    ],
    taskOf: new Map(),
    phaseOf: new Map(here.map(({ id }) => [id, id])),
  };
}

/** One of the engagement's own phases, as far as its place in the row is concerned. */
const asPhase = ({ id, name, afterPhaseId, afterEdge, afterLag }: PhaseHere): TemplatePhase => ({
  ...{ id, name, afterPhaseId, afterEdge, afterLag, roleId: null, stateLine: '', rounds: null, checks: [] },
});
