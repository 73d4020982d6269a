import { ProblemError } from '../result.ts';
import { describeProblem } from '../result.ts';
import { ancestorsOf, readTree, type Tree } from '../nesting/tree.ts';
import { schedule } from '../schedule/schedule.ts';
import type { PhaseInput, TaskInput } from '../schedule/types.ts';
import type { TemplateContent, TemplateFault, TemplatePhase, TemplateTask } from './types.ts';

const ANY_CALENDAR = { week: [1, 1, 1, 1, 1, 0, 0], closed: [] };
const ANY_DAY = '2026-01-05';

/** A template as the scheduler takes it; calendar and dates are the caller's. */
export function toSchedulePlan({ phases, tasks }: Pick<TemplateContent, 'phases' | 'tasks'>): { phases: PhaseInput[]; tasks: TaskInput[] } {
  return {
    phases: phases.map((phase) => ({
      id: phase.id,
      ...(phase.afterPhaseId === null ? {} : { after: { phase: phase.afterPhaseId, edge: phase.afterEdge, lag: phase.afterLag } }),
    })),
    tasks: tasks.map((task) => ({
      id: task.id,
      phase: task.phaseId,
      days: task.days,
      anchor: task.anchor,
      after: task.after.map((dependency) => ({ task: dependency.taskId, type: dependency.type, lag: dependency.lag })),
      ...(task.parentId === null ? {} : { parent: task.parentId }),
    })),
  };
}

/**
 * Everything that is wrong with a template, in the order of its phases and tasks; nothing when
 * it can be started. Two phases may not carry the same state line: it is how everybody
 * tells where a client stands.
 */
export function checkTemplate(content: TemplateContent): TemplateFault[] {
  const named = [...phaseFaults(content), ...taskFaults(content), ...wayFaults(content)];
  return named.length > 0 ? named : planFaults(content);
}

const isBlank = (text: string): boolean => text.trim() === '';
const sameLine = (line: string): string => line.trim().toLowerCase().replace(/\s+/g, ' ');

function phaseFaults({ phases }: TemplateContent): TemplateFault[] {
  if (phases.length === 0) return [{ at: 'phases', message: 'A template needs at least one phase. Add one.' }];
  const seen = new Map<string, TemplatePhase>();
  return phases.flatMap((phase) => {
    const faults: TemplateFault[] = [];
    const at = `phases[${phase.id}]`;
    if (isBlank(phase.name)) faults.push({ at: `${at}.name`, message: 'A phase needs a name.' });
    if (isBlank(phase.stateLine)) {
      faults.push({
        at: `${at}.stateLine`,
        message: `Say where the client stands while “${phase.name}” runs: every phase has a state line.`,
      });
      return faults;
    }
    const other = seen.get(sameLine(phase.stateLine));
    if (other !== undefined) {
      const message = `“${other.name}” and “${phase.name}” both say “${phase.stateLine.trim()}”. Say what is different, for instance which payment.`;
      faults.push({ at: `${at}.stateLine`, message });
    }
    seen.set(sameLine(phase.stateLine), phase);
    return faults;
  });
}

function taskFaults(content: TemplateContent): TemplateFault[] {
  const phases = new Set(content.phases.map((phase) => phase.id));
  const ids = new Set<string>();
  const faults = content.tasks.flatMap((task) => {
    const at = `tasks[${task.id}]`;
    const own: TemplateFault[] = [];
    if (ids.has(task.id)) own.push({ at, message: `“${task.title}” is there twice.` });
    ids.add(task.id);
    if (isBlank(task.title)) own.push({ at: `${at}.title`, message: 'A task needs a title.' });
    if (!phases.has(task.phaseId)) own.push({ at: `${at}.phaseId`, message: `“${task.title}” stands in a phase that is not there.` });
    return own;
  });
  return faults.length > 0 ? faults : treeFaults(content.tasks);
}

function treeFaults(tasks: readonly TemplateTask[]): TemplateFault[] {
  const titleOf = new Map(tasks.map((task) => [task.id, task.title]));
  let tree: Tree;
  try {
    tree = readTree(
      tasks.map((task) => ({ id: task.id, parent: task.parentId })),
      'tasks',
    );
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return [{ at: error.problem.at, message: describeProblem(error.problem, (id) => titleOf.get(id) ?? id) }];
  }
  const byId = new Map(tasks.map((task) => [task.id, task]));
  return tasks.flatMap((task) => {
    const own: TemplateFault[] = [];
    const parent = task.parentId === null ? undefined : byId.get(task.parentId);
    if (parent !== undefined && parent.phaseId !== task.phaseId)
      own.push({
        at: `tasks[${task.id}].phaseId`,
        message: `“${task.title}” stands in another phase than “${parent.title}” it is a part of.`,
      });
    const above = new Set(ancestorsOf(tree, task.id));
    for (const dependency of task.after)
      if (above.has(dependency.taskId))
        own.push({
          at: `tasks[${task.id}].after`,
          message: `“${task.title}” is a part of “${titleOf.get(dependency.taskId)}” and cannot wait for it.`,
        });
    if (tree.childrenOf.has(task.id) && (task.anchor.at === 'before-phase-end' || task.anchor.at === 'before-promise'))
      own.push({
        at: `tasks[${task.id}].anchor`,
        message: `The subtasks of “${task.title}” decide when it ends. Give that day to one of them.`,
      });
    return own;
  });
}

function wayFaults({ ways, tasks, phases }: TemplateContent): TemplateFault[] {
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const phaseOf = new Map(phases.map((phase) => [phase.id, phase]));
  return ways.flatMap((way) => {
    const at = `ways[${way.id}]`;
    const from = byId.get(way.fromId);
    if (from === undefined) return [{ at: `${at}.fromId`, message: 'A way out begins at a task that is not there.' }];
    if (isBlank(way.reason))
      return [{ at: `${at}.reason`, message: `Say when the way out of “${from.title}” is taken, like “not a fit” or “changes”.` }];
    if (way.toId === null) {
      return isBlank(way.ending ?? '') ? [{ at: `${at}.ending`, message: `Say how it ends when “${way.reason}”.` }] : [];
    }
    if (!byId.has(way.toId)) return [{ at: `${at}.toId`, message: `The way “${way.reason}” leads to a task that is not there.` }];
    const phase = phaseOf.get(from.phaseId);
    return phase !== undefined && phase.rounds === null
      ? [{ at: `phases[${phase.id}].rounds`, message: `“${way.reason}” leads back: say how many rounds of “${phase.name}” are agreed.` }]
      : [];
  });
}

/** Loops and unknown dependencies, as the scheduler finds them. */
function planFaults(content: TemplateContent): TemplateFault[] {
  const nameOf = new Map([
    ...content.tasks.map((task) => [task.id, task.title] as const),
    ...content.phases.map((phase) => [phase.id, phase.name] as const),
  ]);
  const result = schedule({ calendar: ANY_CALENDAR, start: ANY_DAY, ...toSchedulePlan(content) });
  return result.ok ? [] : [{ at: result.problem.at, message: describeProblem(result.problem, (id) => nameOf.get(id) ?? id) }];
}
