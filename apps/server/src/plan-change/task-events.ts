import { isDeepStrictEqual } from 'node:util';
import type { EventKind, FieldChange, TaskStatus } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { EventSaying, NewEvent } from '../activity/record.ts';
import { rowsOf } from '../platform/database.ts';
import { groupOf, rowChanges, TASK_PARTS } from '../task/task-fields.ts';
import type { TaskImage } from '../task/task-images.ts';

type TaskKind = Extract<EventKind, 'task-changed' | 'task-status-changed' | 'task-assigned' | 'task-reordered'>;

/** Which kind of event tells of a field, by the group it is in; all others are a `task-changed`. Days are told by the planner. */
const KIND_OF: Readonly<Record<string, TaskKind>> = {
  status: 'task-status-changed',
  assignees: 'task-assigned',
  position: 'task-reordered',
};

interface Images {
  readonly engagementId: string;
  readonly before: readonly TaskImage[];
  readonly after: readonly TaskImage[];
  /** Tasks that came are there again rather than new. */
  readonly isUndoing?: boolean;
}

/** What a change did to the tasks of an engagement, as events: what came, what went, and each field that differs. */
export async function taskEvents(manager: EntityManager, { engagementId, before, after, isUndoing }: Images): Promise<NewEvent[]> {
  const was = new Map(before.map((image) => [image.id, image]));
  const is = new Set(after.map(({ id }) => id));
  const about = (id: string) => ({ engagementId, subject: 'task', subjectId: id }) as const;
  const events = after.flatMap((image): NewEvent[] => {
    const first = was.get(image.id);
    if (first === image) return [];
    if (first !== undefined) return changeEvents(engagementId, first, image);
    return isUndoing === true
      ? [{ ...about(image.id), kind: 'task-restored' }]
      : [{ ...about(image.id), kind: 'task-added', payload: { seriesId: null } }];
  });
  const gone = before
    .filter(({ id }) => !is.has(id))
    .map((image): NewEvent => ({ ...about(image.id), kind: 'task-deleted', payload: { image }, facts: { task: image.row.title } }));
  return withNames(manager, [...events, ...gone], new Map([...before, ...after].map(({ id, row }) => [id, row.title])));
}

function changeEvents(engagementId: string, before: TaskImage, after: TaskImage): NewEvent[] {
  const parts = TASK_PARTS.filter((part) => !isDeepStrictEqual(before[part], after[part]));
  const changes = [
    ...rowChanges(before.row, after.row).filter((change) => isTold(change, after)),
    ...parts.map((part): FieldChange => ({ field: part, from: before[part], to: after[part] })),
  ];
  const byKind = new Map<TaskKind, FieldChange[]>();
  for (const change of changes) {
    const kind = KIND_OF[groupOf(change.field)] ?? 'task-changed';
    byKind.set(kind, [...(byKind.get(kind) ?? []), change]);
  }
  const about = { engagementId, subject: 'task', subjectId: after.id } as const;
  return [
    ...[...byKind].map(([kind, fields]): NewEvent => ({
      ...{ ...about, kind, changes: fields },
      ...(kind === 'task-status-changed' ? { facts: { from: before.row['status'] as TaskStatus } } : {}),
    })),
    ...stepEvents(before.steps, after.steps).map((event): NewEvent => ({ ...about, ...event })),
  ];
}

type Steps = TaskImage['steps'];
type StepEvent = EventSaying<'step-added' | 'step-changed' | 'step-removed'>;

function stepEvents(before: Steps, after: Steps): StepEvent[] {
  const was = new Map(before.map((step) => [step.id, step]));
  const is = new Set(after.map(({ id }) => id));
  const stayed = after.flatMap((step): StepEvent[] => {
    const payload = { stepId: step.id, title: step.title };
    const first = was.get(step.id);
    if (first === undefined) return [{ kind: 'step-added', payload }];
    const changes = [{ field: 'isDone', from: first.isDone, to: step.isDone }];
    return first.isDone === step.isDone ? [] : [{ kind: 'step-changed', payload, changes }];
  });
  const gone = before.filter(({ id }) => !is.has(id));
  return [...stayed, ...gone.map(({ id, title, isDone }): StepEvent => ({ kind: 'step-removed', payload: { stepId: id, title, isDone } }))];
}

/** The planner tells of days itself, and of the status of tasks with subtasks. */
const isTold = (change: FieldChange, { row }: TaskImage): boolean =>
  groupOf(change.field) !== 'dates' && !(row.is_group && groupOf(change.field) === 'status');

const NAMES = `
  SELECT id, name FROM person WHERE id = ANY($1) UNION ALL SELECT id, name FROM phase WHERE id = ANY($1)
  UNION ALL SELECT id, name FROM deliverable WHERE id = ANY($1) UNION ALL SELECT id, name FROM file WHERE id = ANY($1)
  UNION ALL SELECT id, name FROM role WHERE id = ANY($1)`;

/** Each event with what the ids in its changes are called. */
async function withNames(manager: EntityManager, events: readonly NewEvent[], titles: ReadonlyMap<string, string>): Promise<NewEvent[]> {
  const idsOf = new Map(events.map((event) => [event, [...new Set((event.changes ?? []).flatMap(idsIn))]]));
  const unknown = [...new Set([...idsOf.values()].flat())].filter((id) => !titles.has(id));
  const rows = unknown.length === 0 ? [] : await rowsOf<{ id: string; name: string }>(manager, NAMES, [unknown]);
  const names = new Map([...titles, ...rows.map(({ id, name }) => [id, name] as const)]);
  return events.map((event) => {
    const known = (idsOf.get(event) ?? []).flatMap((id) => (names.has(id) ? [[id, names.get(id) as string] as const] : []));
    return known.length === 0 ? event : { ...event, names: Object.fromEntries(known) };
  });
}

/** The ids that the values of a change name. */
function idsIn({ field, from, to }: FieldChange): string[] {
  const of = (value: unknown): readonly unknown[] => {
    if (field === 'assignees') return (value as TaskImage['assignees'] | null)?.map(({ personId }) => personId) ?? [];
    if (field === 'after') return (value as TaskImage['after'] | null)?.map(({ taskId }) => taskId) ?? [];
    if (field === 'files') return (value as TaskImage['files'] | null) ?? [];
    return NAMED.has(field) ? [value] : [];
  };
  return [...of(from), ...of(to)].filter((id) => typeof id === 'string');
}

const NAMED = new Set(['phaseId', 'parentId', 'deliverableId', 'roleId']);
