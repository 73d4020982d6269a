import type { FieldKept } from '@crew/contract';
import { fieldsToUndo, type TaskUndo } from './fields-to-undo.ts';
import type { PhasesChanged } from '../engagement/phase-images.ts';
import type { TaskImage } from '../task/task-images.ts';
import type { PlanEdit, PlanOperation } from './plan-edit.ts';
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
      const image = deleted?.payload['image'] as TaskImage | null | undefined;
      if (image !== undefined && image !== null) gone.push(image);
      else if (deleted === undefined && own.some(isDecided)) kept.push({ subjectId: id, title: titleOf(own), field: 'deleted' });
    } else if (own.some(({ kind }) => kind === 'task-added' || kind === 'task-restored')) {
      if (touched.has(id)) kept.push({ subjectId: id, title: current.row.title, field: 'added' });
      else made.push(current);
    } else {
      const undo = fieldsToUndo(
        own.flatMap(({ changes, kind }) => (kind.startsWith('step-') ? [] : changes)),
        current,
      );
      const ticked = stepsToUndo(own, current);
      stayed.push(undo);
      steps.push(...ticked.steps);
      kept.push(
        ...[...undo.kept, ...(ticked.isKept ? ['steps'] : [])].map((field) => ({ subjectId: id, title: current.row.title, field })),
      );
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

/** What is still there of what undoing brings back. */
export interface Restorable {
  readonly files: ReadonlySet<string>;
  /** Repeating work whose day is still free. */
  readonly series: ReadonlySet<unknown>;
}

/** The undoing as an edit of the plan as it stands. */
export function editOfUndo(
  { made, gone, stayed, steps }: Undoing,
  {
    present,
    restorable,
    phases,
  }: { readonly present: readonly TaskImage[]; readonly restorable: Restorable; readonly phases?: PhasesChanged | undefined },
): PlanEdit {
  const now = new Map(present.map((image) => [image.id, image]));
  const stillThere = (files: readonly string[]): string[] => files.filter((id) => restorable.files.has(id));
  const images = gone.map((image): TaskImage => ({
    ...image,
    files: stillThere(image.files),
    row: restorable.series.has(image.row['series_id']) ? image.row : { ...image.row, series_id: null, series_day: null },
  }));
  const changes = stayed.map(({ id, values, parts }): PlanOperation => {
    const own = steps.filter(({ taskId }) => taskId === id);
    const files = parts.files === undefined ? {} : { files: stillThere(parts.files) };
    const list = own.length === 0 ? {} : { steps: stepsAfter((now.get(id) as TaskImage).steps, own) };
    return { kind: 'change-task', id, change: { values, parts: { ...parts, ...files }, ...list } };
  });
  return {
    operations: [
      { kind: 'restore-tasks', images },
      ...changes,
      { kind: 'remove-tasks', ids: made.map(({ id }) => id) },
      ...(phases === undefined ? [] : [{ kind: 'restore-phases', changed: phases } as const]),
    ],
  };
}

function stepsAfter(steps: TaskImage['steps'], undone: readonly StepUndo[]): TaskImage['steps'] {
  const byId = new Map(undone.map((step) => [step.stepId, step]));
  const stayed = steps.flatMap((step) => {
    const undo = byId.get(step.id);
    if (undo === undefined) return [step];
    return undo.kind === 'remove' ? [] : [{ ...step, isDone: undo.isDone }];
  });
  const back = undone.filter(({ kind }) => kind === 'add').map(({ stepId, title, isDone }) => ({ id: stepId, title, isDone }));
  return [...stayed, ...back];
}

/** What a task that stays is a part of stays too. */
function withoutAncestors(made: readonly TaskImage[], kept: Undoing['kept'], now: ReadonlyMap<string, TaskImage>): TaskImage[] {
  const needed = new Set<unknown>();
  for (const { subjectId, field } of kept)
    for (
      let at: unknown = field === 'added' ? subjectId : null;
      typeof at === 'string' && !needed.has(at);
      at = now.get(at)?.row['parent_id']
    )
      needed.add(at);
  return made.filter(({ id }) => !needed.has(id));
}
