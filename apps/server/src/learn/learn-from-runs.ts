import { readCalendar } from '../calendar/read-calendar.ts';
import { Injectable } from '@nestjs/common';
import type { AcceptLearned, LearnedProposal, LearnedTask, LearnedTemplate, SaveTemplate, TemplateContentView } from '@crew/contract';
import {
  compileCalendar,
  learn,
  parseDay,
  workingDaysBetween,
  type CalendarInput,
  type Learned,
  type TemplateContent,
  type TemplateTask,
} from '@crew/core';
import type { EntityManager } from 'typeorm';
import { Database, rowsOf } from '../platform/database.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { extrasIn, type RunOfTask, type RunRow } from './extras.ts';
import { KeepTemplate } from '../template/keep-template.ts';

/** Tasks made from this template that are over, whether their engagement is or not; what a run took is what was logged on it. */
const RUNS = `
  SELECT t.template_task_id AS "templateTaskId", t.id AS "taskId", json_build_object('id', e.id, 'name', e.name) AS engagement,
    nullif(t.logged_minutes, 0) AS minutes, t.real_start AS "realStart", t.done_on AS "doneOn", t.status = 'dropped' AS "isDropped",
    ARRAY(SELECT s.title FROM step s WHERE s.task_id = t.id ORDER BY s.position) AS steps, t.title, t.kind, t.role_id AS "roleId", r.name AS role,
    p.template_phase_id AS "templatePhaseId", p.name AS phase
  FROM task t JOIN engagement e ON e.id = t.engagement_id JOIN phase p ON p.id = t.phase_id LEFT JOIN role r ON r.id = t.role_id
  WHERE e.template_id = $1 AND e.agency_id = $2 AND NOT t.is_group AND t.series_id IS NULL AND t.status IN ('done', 'dropped')
  ORDER BY t.done_on DESC NULLS LAST, t.id`;

/** What fewer runs show, or fewer than two thirds of them, is no habit yet. */
const LEAST_RUNS = 3;
const LEAST_DROPPED_PERCENT = 66;

/** What the tasks of a template really took, which changes that suggests, and applying those as the next version. */
@Injectable()
export class LearnFromRuns {
  private readonly database: Database;
  private readonly templates: KeepTemplate;
  constructor(database: Database, templates: KeepTemplate) {
    this.database = database;
    this.templates = templates;
  }

  async read(who: Who, templateId: string): Promise<LearnedTemplate> {
    const { additions: _additions, ...learned } = await this.look(this.database.manager, who, await this.templates.read(who, templateId));
    return learned;
  }

  /** Applies the proposals named, no others, to the template and saves it as its next version, all or nothing. */
  accept(who: Who, templateId: string, input: AcceptLearned): Promise<TemplateContentView> {
    return this.templates.saveAsVersion(who, templateId, {
      revision: input.revision,
      note:
        input.note?.trim() ||
        `Learned from ${input.proposals.length === 1 ? 'one number' : `${input.proposals.length} numbers`} of past runs`,
      change: async (manager, view) => {
        const { tasks, additions } = await this.look(manager, who, view);
        const known = new Map(
          tasks.flatMap((task) => task.proposals.map((proposal) => [proposal.id, { taskId: task.taskId, proposal }] as const)),
        );
        const chosen: Chosen[] = [];
        const added: TemplateTask[] = [];
        for (const id of new Set(input.proposals)) {
          const found = known.get(id);
          const task = additions.get(id);
          if (found !== undefined) chosen.push(found);
          else if (task !== undefined) added.push(task);
          else
            throw new Refusal('unknown-id', 'A proposal no longer holds: more runs have ended since. Look at them again.', {
              field: 'proposals',
            });
        }
        return changed(view.content as TemplateContent, { chosen, added }) as SaveTemplate['content'];
      },
    });
  }

  private async look(manager: EntityManager, who: Who, view: TemplateContentView): Promise<Looked> {
    const [rows, calendar] = await Promise.all([
      rowsOf<RunRow>(manager, RUNS, [view.id, who.agencyId]),
      readCalendar(manager, who.agencyId),
    ]);
    const runs = toRuns(rows, calendar);
    const content = view.content as TemplateContent;
    const groups = new Set(content.tasks.map((task) => task.parentId));
    const leaves = content.tasks.filter((task) => !groups.has(task.id) && task.kind !== 'milestone');
    const phases = new Map(content.phases.map((phase) => [phase.id, phase.name]));
    const learned = unwrap(
      learn({
        tasks: leaves.map((task) => ({
          id: task.id,
          ...(task.estimateMinutes === null ? {} : { estimate: task.estimateMinutes }),
          days: task.days,
          steps: task.steps,
          runs: (runs.get(task.id) ?? []).map(({ run, steps }) => ({
            ...(run.minutes === null ? {} : { minutes: run.minutes }),
            ...(run.days === null ? {} : { days: run.days }),
            dropped: run.isDropped,
            steps,
          })),
        })),
      }),
    ).tasks;
    const extras = extrasIn(rows, runs, content);
    return {
      revision: view.revision,
      version: view.version,
      isChanged: view.isChanged,
      engagements: new Set(rows.map((row) => row.engagement.id)).size,
      tasks: leaves.map((task, index) =>
        toTask(task, learned[index] as Learned, { phase: phases.get(task.phaseId) ?? '', runs: runs.get(task.id) ?? [] }),
      ),
      extras: extras.map(({ extra }) => extra),
      additions: new Map(extras.map(({ extra, task }) => [extra.id, task])),
    };
  }
}

/** What was learned, and the tasks that could be added by their proposals. */
interface Looked extends LearnedTemplate {
  readonly additions: ReadonlyMap<string, TemplateTask>;
}

/** Runs by the template task they were made from; those nobody planned are filed under their own id. */
function toRuns(rows: readonly RunRow[], calendarInput: CalendarInput): ReadonlyMap<string, RunOfTask[]> {
  const calendar = unwrap(compileCalendar(calendarInput));
  const runs = new Map<string, RunOfTask[]>();
  for (const row of rows) {
    const { taskId, engagement, minutes, realStart, doneOn, isDropped, steps } = row;
    const days =
      realStart === null || doneOn === null
        ? null
        : Math.max(1, workingDaysBetween(calendar, parseDay(realStart) as number, (parseDay(doneOn) as number) + 1));
    const key = row.templateTaskId ?? taskId;
    runs.set(key, [...(runs.get(key) ?? []), { run: { taskId, engagement, minutes, days, isDropped, doneOn }, steps }]);
  }
  return runs;
}

function toTask(
  task: TemplateTask,
  learned: Learned,
  { phase, runs }: { readonly phase: string; readonly runs: readonly RunOfTask[] },
): LearnedTask {
  return {
    taskId: task.id,
    title: task.title,
    phase,
    estimateMinutes: task.estimateMinutes,
    days: task.days,
    n: learned.n,
    minutes: learned.minutes,
    workingDays: learned.days,
    dropped: learned.dropped,
    proposals: proposalsOf(task, learned, runs.length),
    runs: runs.map(({ run }) => run),
  };
}

function proposalsOf(task: TemplateTask, learned: Learned, all: number): LearnedProposal[] {
  // The estimate of a task that most leave out need not be improved.
  if (all >= LEAST_RUNS && learned.dropped >= LEAST_DROPPED_PERCENT)
    return [{ id: `drop-task ${task.id}`, kind: 'drop-task', runs: all - learned.n, of: all }];
  const effort: LearnedProposal[] =
    learned.proposal === null || task.kind === 'client' || learned.proposal === task.estimateMinutes
      ? []
      : [{ id: `effort ${task.id}`, kind: 'effort', from: task.estimateMinutes, to: learned.proposal }];
  const length: LearnedProposal[] =
    learned.proposedDays === null ? [] : [{ id: `length ${task.id}`, kind: 'length', from: task.days, to: learned.proposedDays }];
  const steps = learned.habits.map(({ title, habit, runs }): LearnedProposal => {
    const kind = habit === 'added' ? 'add-step' : 'drop-step';
    return { id: `${kind} ${task.id} ${title}`, kind, title, runs };
  });
  return [...effort, ...length, ...steps];
}

interface Chosen {
  readonly taskId: string;
  readonly proposal: LearnedProposal;
}

/** The template with what was chosen; what is left out takes its dependencies and ways along. */
function changed(
  content: TemplateContent,
  { chosen, added }: { readonly chosen: readonly Chosen[]; readonly added: readonly TemplateTask[] },
): TemplateContent {
  const gone = new Set(chosen.filter(({ proposal }) => proposal.kind === 'drop-task').map(({ taskId }) => taskId));
  const kept = content.tasks
    .filter((task) => !gone.has(task.id))
    .map((task) => chosen.filter(({ taskId }) => taskId === task.id).reduce((next, { proposal }) => applyProposal(next, proposal), task))
    .map((task) => ({ ...task, after: task.after.filter((dependency) => !gone.has(dependency.taskId)) }));
  return {
    ...content,
    tasks: [...kept, ...added],
    ways: content.ways.filter((way) => !gone.has(way.fromId) && !gone.has(way.toId ?? '')),
  };
}

function applyProposal(task: TemplateTask, proposal: LearnedProposal): TemplateTask {
  switch (proposal.kind) {
    case 'effort':
      return { ...task, estimateMinutes: proposal.to };
    case 'length':
      return { ...task, days: proposal.to };
    case 'add-step':
      return { ...task, steps: [...task.steps, proposal.title] };
    case 'drop-step':
      return { ...task, steps: task.steps.filter((title) => title !== proposal.title) };
    case 'drop-task':
      return task;
  }
}
