import type { FieldKept } from '@crew/contract';
import { fieldsToUndo, type TaskUndo } from './fields-to-undo.ts';
import type { TaskImage } from './task-images.ts';
import type { BatchEvent } from './undo-change.ts';

/** A step as undoing puts it right. */
export interface StepUndo {
  readonly taskId: string;
  readonly stepId: string;
  readonly kind: 'remove' | 'add' | 'set';
  readonly title: string;
  readonly isDone: boolean;
}

/** What undoing does, task by task, as the plan stands now. */
export interface Undoing {
  /** Made by the change and untouched since: they go. */
  readonly made: readonly TaskImage[];
  /** Taken out by the change: they come back. */
  readonly gone: readonly TaskImage[];
  /** Changed by it: the fields that go back. */
  readonly stayed: readonly TaskUndo[];
  readonly steps: readonly StepUndo[];
  readonly kept: readonly Omit<FieldKept, 'by'>[];
}

/** What undoing the events of a batch does to the tasks of an engagement, which stand as in `present`; `touched` are those it made that somebody worked on. */
export function planUndo(events: readonly BatchEvent[], present: readonly TaskImage[], touched: ReadonlySet<string>): Undoing {
  const now = new Map(present.map((image) => [image.id, image]));
  const made: TaskImage[] = [];
  const gone: TaskImage[] = [];
  const stayed: TaskUndo[] = [];
  const steps: StepUndo[] = [];
  const kept: Omit<FieldKept, 'by'>[] = [];
  for (const [id, own] of byTask(events)) {
    const current = now.get(id);
    const deleted = own.find(({ kind }) => kind === 'task-deleted');
    if (current === undefined) {
      if (deleted !== undefined) gone.push(deleted.payload['image'] as TaskImage);
      else if (own.some(isDecided)) kept.push({ taskId: id, title: titleOf(own), field: 'deleted' });
    } else if (own.some(({ kind }) => kind === 'task-added' || kind === 'task-restored')) {
      if (touched.has(id)) kept.push({ taskId: id, title: current.row.title, field: 'added' });
      else made.push(current);
    } else {
      const undo = fieldsToUndo(
        own.flatMap(({ changes, kind }) => (kind.startsWith('step-') ? [] : changes)),
        current,
      );
      const ticked = stepsToUndo(own, current);
      stayed.push(undo);
      steps.push(...ticked.steps);
      kept.push(...[...undo.kept, ...(ticked.isKept ? ['steps'] : [])].map((field) => ({ taskId: id, title: current.row.title, field })));
    }
  }
  return { made: withoutAncestors(made, kept, now), gone, stayed, steps, kept };
}

function byTask(events: readonly BatchEvent[]): ReadonlyMap<string, readonly BatchEvent[]> {
  const tasks = new Map<string, BatchEvent[]>();
  for (const event of events)
    if (event.kind.startsWith('task-') || event.kind.startsWith('step-'))
      tasks.set(event.subjectId, [...(tasks.get(event.subjectId) ?? []), event]);
  return tasks;
}

/** What only followed for a task that is gone since need not be told. */
const isDecided = ({ kind }: BatchEvent): boolean => kind !== 'task-rescheduled' && kind !== 'task-reordered';

/** What the task was called when it was changed; it is gone since. */
const titleOf = (events: readonly BatchEvent[]): string =>
  events.map(({ facts }) => facts.task).find((title) => title !== undefined) ?? 'A task';

/** Steps go back where they still are as the change left them. */
function stepsToUndo(events: readonly BatchEvent[], now: TaskImage): { readonly steps: StepUndo[]; readonly isKept: boolean } {
  const steps: StepUndo[] = [];
  let isKept = false;
  for (const { kind, payload, changes } of events) {
    if (!kind.startsWith('step-')) continue;
    const { stepId, title } = payload as { stepId: string; title: string };
    const step = now.steps.find(({ id }) => id === stepId);
    const to = changes[0]?.to === true;
    if (kind === 'step-removed') {
      if (step === undefined) steps.push({ taskId: now.id, stepId, title, kind: 'add', isDone: payload['isDone'] === true });
    } else if (step === undefined) isKept = true;
    else if (kind === 'step-added' ? step.isDone || step.title !== title : step.isDone !== to) isKept = true;
    else steps.push({ taskId: now.id, stepId, title, kind: kind === 'step-added' ? 'remove' : 'set', isDone: !to });
  }
  return { steps, isKept };
}

/** What a task that stays is a part of stays too. */
function withoutAncestors(made: readonly TaskImage[], kept: Undoing['kept'], now: ReadonlyMap<string, TaskImage>): TaskImage[] {
  const needed = new Set<unknown>();
  for (const { taskId, field } of kept)
    for (let at: unknown = field === 'added' ? taskId : null; typeof at === 'string' && !needed.has(at); at = now.get(at)?.row['parent_id'])
      needed.add(at);
  return made.filter(({ id }) => !needed.has(id));
}
