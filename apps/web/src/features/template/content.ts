import { blankTask, composeTasks, composeTemplate, descendantsOf, freeStateLine, treeOf } from '@crew/core';
import type { TemplateContent, TemplatePhase, TemplateTask, TemplateWay } from '@crew/core';

/** Changes of a template's content: each takes one and gives the next; the one before is the undo. */
export type Edit = (content: TemplateContent) => TemplateContent;

/** An id for a new part. */
export const newId = (): string => crypto.randomUUID();

export const editTask =
  (id: string, change: Partial<TemplateTask>): Edit =>
  (content) => ({ ...content, tasks: content.tasks.map((task) => (task.id === id ? { ...task, ...change } : task)) });

export const editPhase =
  (id: string, change: Partial<TemplatePhase>): Edit =>
  (content) => ({ ...content, phases: content.phases.map((phase) => (phase.id === id ? { ...phase, ...change } : phase)) });

export const editWay =
  (id: string, change: Partial<TemplateWay>): Edit =>
  (content) => ({ ...content, ways: content.ways.map((way) => (way.id === id ? { ...way, ...change } : way)) });

/** A new task at the end of a phase; it takes the phase's role. */
export const addTask =
  (id: string, { phaseId, title, ...more }: { readonly phaseId: string; readonly title: string } & Partial<TemplateTask>): Edit =>
  (content) => {
    const roleId = content.phases.find((phase) => phase.id === phaseId)?.roleId ?? null;
    const task = { ...blankTask({ id, phaseId, title }), roleId, ...more };
    return { ...content, tasks: [...content.tasks, task] };
  };

/** The lane of the client on the map, and that of work nobody has yet; every other lane is a role's, by its id. */
export const CLIENT_LANE = 'client';
export const NOBODY_LANE = 'none';

export const laneOf = (task: Pick<TemplateTask, 'kind' | 'roleId'>): string =>
  task.kind === 'client' ? CLIENT_LANE : (task.roleId ?? NOBODY_LANE);

/** What a task of a lane is: the client's own is shown to it and needs no role. */
export function inLane(laneId: string, kind: TemplateTask['kind'] = 'work'): Partial<TemplateTask> {
  if (laneId === CLIENT_LANE) return { kind: 'client', roleId: null, isShownToClient: true };
  return { kind: kind === 'client' ? 'work' : kind, roleId: laneId === NOBODY_LANE ? null : laneId };
}

/** A step in another lane gets that lane's role, in another phase it stands there with its parts; the content itself when it lies there already. */
export const moveStep =
  (id: string, { laneId, phaseId }: { readonly laneId: string; readonly phaseId: string }): Edit =>
  (content) => {
    const task = content.tasks.find((candidate) => candidate.id === id);
    if (task === undefined) return content;
    const placed = task.phaseId === phaseId ? content : placeTask(id, { phaseId })(content);
    return laneOf(task) === laneId ? placed : editTask(id, inLane(laneId, task.kind))(placed);
  };

interface NextStep {
  readonly title: string;
  readonly laneId?: string;
  readonly phaseId?: string;
}

/** The next step after a task: waiting for it, standing right behind it, in its phase and lane unless said otherwise. */
export const addNext =
  (id: string, afterId: string, { title, ...at }: NextStep): Edit =>
  (content) => {
    const before = content.tasks.find((task) => task.id === afterId);
    if (before === undefined) return content;
    const task: TemplateTask = {
      ...blankTask({ id, phaseId: at.phaseId ?? before.phaseId, title }),
      ...(at.laneId === undefined ? { roleId: before.roleId } : inLane(at.laneId)),
      after: [{ taskId: afterId, type: 'FS', lag: 0 }],
    };
    const index = content.tasks.findIndex((other) => other.id === afterId) + 1;
    return { ...content, tasks: [...content.tasks.slice(0, index), task, ...content.tasks.slice(index)] };
  };

/** A task and all its parts, at any depth. */
export const withParts = ({ tasks }: Pick<TemplateContent, 'tasks'>, id: string): Set<string> =>
  new Set([id, ...descendantsOf(treeOf(tasks.map((task) => ({ id: task.id, parent: task.parentId }))), id)]);

/** Without some tasks, and without the dependencies and ways out to them. */
function withoutTasks(content: TemplateContent, gone: ReadonlySet<string>): TemplateContent {
  return {
    ...content,
    tasks: content.tasks
      .filter((task) => !gone.has(task.id))
      .map((task) =>
        task.after.some((dependency) => gone.has(dependency.taskId))
          ? { ...task, after: task.after.filter((dependency) => !gone.has(dependency.taskId)) }
          : task,
      ),
    ways: content.ways.filter((way) => !gone.has(way.fromId) && (way.toId === null || !gone.has(way.toId))),
  };
}

export const removeTask =
  (id: string): Edit =>
  (content) =>
    withoutTasks(content, withParts(content, id));

/** A phase goes with its tasks; what followed it follows the one before it. */
export const removePhase =
  (id: string): Edit =>
  (content) => {
    const phase = content.phases.find((candidate) => candidate.id === id);
    const gone = new Set(content.tasks.filter((task) => task.phaseId === id).map((task) => task.id));
    const rest = withoutTasks(content, gone);
    return {
      ...rest,
      phases: rest.phases
        .filter((other) => other.id !== id)
        .map((other) => (other.afterPhaseId === id ? { ...other, afterPhaseId: phase?.afterPhaseId ?? null } : other)),
    };
  };

/** A new phase at the end, behind the last one, with a state line of its own and a gate. */
export const addPhase =
  (id: string, name: string): Edit =>
  (content) => ({
    ...content,
    phases: [
      ...content.phases,
      {
        ...{ id, name, roleId: null, stateLine: freeStateLine(content, `In ${name.toLowerCase()}`), rounds: null },
        ...{ afterPhaseId: content.phases.at(-1)?.id ?? null, afterEdge: 'finish', afterLag: 0 },
        checks: [{ kind: 'tasks-done', text: 'Our tasks are done' }],
      },
    ],
  });

/** A phase one place earlier or later; phases that follow each other in a row still do. */
export const movePhase =
  (id: string, by: -1 | 1): Edit =>
  (content) => {
    const place = content.phases.findIndex((phase) => phase.id === id);
    const to = place + by;
    if (place < 0 || to < 0 || to >= content.phases.length) return content;
    const isRow = content.phases.every((phase, index) => phase.afterPhaseId === (content.phases[index - 1]?.id ?? null));
    const phases = [...content.phases];
    const [moved] = phases.splice(place, 1);
    phases.splice(to, 0, moved as TemplatePhase);
    if (!isRow) return { ...content, phases };
    return { ...content, phases: phases.map((phase, index) => ({ ...phase, afterPhaseId: phases[index - 1]?.id ?? null })) };
  };

/** A task one place up or down among its like. */
export const moveTask =
  (id: string, by: -1 | 1): Edit =>
  (content) => {
    const task = content.tasks.find((candidate) => candidate.id === id);
    if (task === undefined) return content;
    const row = content.tasks.filter((other) => other.phaseId === task.phaseId && other.parentId === task.parentId);
    const other = row[row.findIndex((candidate) => candidate.id === id) + by];
    if (other === undefined) return content;
    const tasks = content.tasks.map((candidate) => (candidate.id === id ? other : candidate.id === other.id ? task : candidate));
    return { ...content, tasks };
  };

/** A task in another phase, with its parts. */
export const placeTask =
  (id: string, { phaseId, parentId = null }: { readonly phaseId: string; readonly parentId?: string | null }): Edit =>
  (content) => {
    const ids = withParts(content, id);
    return {
      ...content,
      tasks: content.tasks.map((task) => {
        if (task.id === id) return { ...task, phaseId, parentId, after: task.after.filter((dependency) => dependency.taskId !== parentId) };
        return ids.has(task.id) ? { ...task, phaseId } : task;
      }),
    };
  };

/** Whether one task leads to another by dependencies; parts and phases do not count. */
export function leadsTo(content: TemplateContent, from: string, to: string): boolean {
  const open = [from];
  const seen = new Set<string>();
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (id === to) return true;
    if (seen.has(id)) continue;
    seen.add(id);
    open.push(...content.tasks.filter((task) => task.after.some((dependency) => dependency.taskId === id)).map((task) => task.id));
  }
  return false;
}

const phasePlace = (content: TemplateContent, taskId: string): number =>
  content.phases.findIndex((phase) => phase.id === content.tasks.find((task) => task.id === taskId)?.phaseId);

/** Whether a step drawn from one task to another leads back: then it is a loop, not a dependency. */
export const isBack = (content: TemplateContent, from: string, to: string): boolean =>
  phasePlace(content, to) < phasePlace(content, from) || leadsTo(content, to, from);

/**
 * A step drawn from one task to another: the other then waits for it. Where that would lead
 * back, it becomes a way back with a reason, and its phase gets rounds if it has none.
 */
export const connect =
  (from: string, to: string, way: { readonly id: string; readonly reason: string }): Edit =>
  (content) => {
    if (from === to) return content;
    if (!isBack(content, from, to)) {
      const target = content.tasks.find((task) => task.id === to);
      if (target === undefined || target.after.some((dependency) => dependency.taskId === from)) return content;
      return editTask(to, { after: [...target.after, { taskId: from, type: 'FS', lag: 0 }] })(content);
    }
    if (content.ways.some((other) => other.fromId === from && other.toId === to)) return content;
    const phase = content.phases.find((candidate) => candidate.id === content.tasks.find((task) => task.id === from)?.phaseId);
    const next = { ...content, ways: [...content.ways, { id: way.id, fromId: from, toId: to, ending: null, reason: way.reason }] };
    return phase === undefined || phase.rounds !== null ? next : editPhase(phase.id, { rounds: 2 })(next);
  };

/** A way out that ends it all. */
export const addEnding =
  (fromId: string, way: { readonly id: string; readonly reason: string; readonly ending: string }): Edit =>
  (content) => ({ ...content, ways: [...content.ways, { id: way.id, fromId, toId: null, ending: way.ending, reason: way.reason }] });

export const removeWay =
  (id: string): Edit =>
  (content) => ({ ...content, ways: content.ways.filter((way) => way.id !== id) });

export const removeDependency =
  (from: string, to: string): Edit =>
  (content) => {
    const target = content.tasks.find((task) => task.id === to);
    return target === undefined
      ? content
      : editTask(to, { after: target.after.filter((dependency) => dependency.taskId !== from) })(content);
  };

/** What is taken from: a template with its id. */
interface Source {
  readonly id: string;
  readonly content: TemplateContent;
}

/** Phases of another template put at the end, with ids of their own; the first of them follows what was last. */
export const compose =
  ({ id, content: source }: Source, phaseIds: readonly string[], makeId: () => string = newId): Edit =>
  (content) =>
    composeTemplate(content, source, { phaseIds, idOf: makeId, sourceTemplateId: id });

/** A kept task put at the end of a phase, with ids of its own. */
export const composeKept =
  ({ id, content: source }: Source, phaseId: string, makeId: () => string = newId): Edit =>
  (content) =>
    composeTasks(content, source, { phaseId, idOf: makeId, sourceTemplateId: id });
