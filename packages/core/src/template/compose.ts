import type { TemplateContent, TemplatePhase, TemplateTask, TemplateWay } from './types.ts';

/** What phases are taken from and put into: a template's content, with whatever else is known of its parts. */
export interface Composable<Phase extends TemplatePhase, Task extends TemplateTask> {
  readonly phases: readonly Phase[];
  readonly tasks: readonly Task[];
  readonly ways: readonly TemplateWay[];
}

/** A state line no phase of the template has yet: the wanted one, or with the first free number behind it. */
export function freeStateLine({ phases }: Pick<TemplateContent, 'phases'>, wanted: string): string {
  const lines = new Set(phases.map((phase) => phase.stateLine.trim().toLowerCase()));
  for (let number = 1; ; number++) {
    const line = number === 1 ? wanted : `${wanted} ${number}`;
    if (!lines.has(line.trim().toLowerCase())) return line;
  }
}

/**
 * Chosen phases of one template among those of another: behind all of them, behind the one with
 * `behindId`, or in front of all with null. They keep their order and the dependencies among
 * themselves; what led out of them is gone. The first follows the phase it stands behind, and what
 * followed that one follows the last of them. `idOf` gives each part its id in the new place;
 * `sourceTemplateId` is the template they come from, where that is to be known.
 */
export function composeTemplate<
  Phase extends TemplatePhase,
  Task extends TemplateTask,
  Content extends Composable<Phase, Task> = Composable<Phase, Task>,
>(
  content: Content,
  source: Composable<Phase, Task>,
  chosen: {
    readonly phaseIds: readonly string[];
    readonly behindId?: string | null | undefined;
    readonly idOf: (id: string) => string;
    readonly sourceTemplateId?: string;
  },
): Content {
  const from = chosen.sourceTemplateId === undefined ? {} : { sourceTemplateId: chosen.sourceTemplateId };
  const phases = source.phases.filter((phase) => chosen.phaseIds.includes(phase.id));
  const tasks = source.tasks.filter((task) => chosen.phaseIds.includes(task.phaseId));
  const taken = new Set(tasks.map((task) => task.id));
  const ways = source.ways.filter((way) => taken.has(way.fromId) && (way.toId === null || taken.has(way.toId)));
  const ids = new Map([...phases, ...tasks, ...ways].map((part) => [part.id, chosen.idOf(part.id)]));
  const own = (id: string): string => ids.get(id) ?? id;
  const index = placeBehind(content.phases, chosen.behindId);
  const [before, behind] = [content.phases.slice(0, index), content.phases.slice(index)];
  const anchor = before.at(-1)?.id ?? null;
  const added = phases.reduce<readonly Phase[]>((now, phase) => {
    const follows = phase.afterPhaseId !== null && ids.has(phase.afterPhaseId) ? own(phase.afterPhaseId) : (now.at(-1)?.id ?? anchor);
    const stateLine = freeStateLine({ phases: [...content.phases, ...now] }, phase.stateLine);
    return [...now, { ...phase, ...from, id: own(phase.id), stateLine, afterPhaseId: follows }];
  }, []);
  const last = added.at(-1)?.id ?? anchor;
  const grown = [...before, ...added, ...behind.map((phase) => (phase.afterPhaseId === anchor ? { ...phase, afterPhaseId: last } : phase))];
  return {
    ...content,
    phases: grown,
    tasks: [
      ...content.tasks,
      ...tasks.map((task) => ({
        ...task,
        id: own(task.id),
        phaseId: own(task.phaseId),
        parentId: task.parentId === null ? null : own(task.parentId),
        after: task.after
          .filter((dependency) => taken.has(dependency.taskId))
          .map((dependency) => ({ ...dependency, taskId: own(dependency.taskId) })),
      })),
    ],
    ways: [
      ...content.ways,
      ...ways.map((way) => ({ ...way, id: own(way.id), fromId: own(way.fromId), toId: way.toId === null ? null : own(way.toId) })),
    ],
  };
}

/** Where in a row something stands behind one of it: in front with null, at the end where that one is not named or not there. */
function placeBehind(row: readonly { readonly id: string }[], behindId: string | null | undefined): number {
  if (behindId === null) return 0;
  const index = row.findIndex(({ id }) => id === behindId);
  return index < 0 ? row.length : index + 1;
}

/**
 * All tasks of a template for single tasks, in a phase of another, behind the others there.
 * They keep the dependencies among themselves. Placed by the phase they are in: an anchor at their own
 * phase stays, dependencies to what is not taken are gone. The content itself when it has no such phase.
 */
export function composeTasks(
  content: TemplateContent,
  source: Pick<TemplateContent, 'tasks'>,
  into: { readonly phaseId: string; readonly idOf: (id: string) => string; readonly sourceTemplateId: string },
): TemplateContent {
  if (!content.phases.some((phase) => phase.id === into.phaseId)) return content;
  const ids = new Map(source.tasks.map((task) => [task.id, into.idOf(task.id)]));
  const own = (id: string): string => ids.get(id) ?? id;
  const tasks = source.tasks.map((task) => ({
    ...task,
    id: own(task.id),
    phaseId: into.phaseId,
    parentId: task.parentId === null ? null : own(task.parentId),
    after: task.after
      .filter((dependency) => ids.has(dependency.taskId))
      .map((dependency) => ({ ...dependency, taskId: own(dependency.taskId) })),
    ...(task.parentId === null ? { sourceTemplateId: into.sourceTemplateId } : {}),
  }));
  return { ...content, tasks: [...content.tasks, ...tasks] };
}
