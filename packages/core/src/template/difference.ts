import type { TemplateContent, TemplatePhase, TemplateTask, TemplateWay } from './types.ts';

/** One field that differs. */
export interface FieldDifference {
  readonly field: string;
  readonly from: unknown;
  readonly to: unknown;
}

/** One difference between two versions: a part that came, went or changed. `id` is that of the part. */
export interface TemplateDifference {
  readonly part: 'template' | 'phase' | 'task' | 'way';
  readonly kind: 'added' | 'removed' | 'changed';
  readonly id: string;
  readonly name: string;
  /** The phase it stands in, by name; null for the template itself. */
  readonly phase: string | null;
  readonly fields: readonly FieldDifference[];
}

/**
 * Differences between two versions of a template, phase by phase and task by task in the order
 * of the newer one, then what is gone. Parts are known by id, so a renamed task is the same
 * task. Ids in fields are those of the contents: the caller names them.
 */
export function diffTemplates(before: TemplateContent, after: TemplateContent): TemplateDifference[] {
  const phaseName = new Map([...before.phases, ...after.phases].map((phase) => [phase.id, phase.name]));
  const taskName = new Map([...before.tasks, ...after.tasks].map((task) => [task.id, task.title]));
  const placed = { before: placesOf(before), after: placesOf(after) };
  return [
    ...own(before, after),
    ...compare<TemplatePhase>({
      part: 'phase',
      before: before.phases,
      after: after.phases,
      nameOf: (phase) => phase.name,
      phaseOf: (phase) => phase.name,
    }),
    ...compare<TemplateTask>({
      part: 'task',
      before: before.tasks,
      after: after.tasks,
      nameOf: (task) => task.title,
      phaseOf: (task) => phaseName.get(task.phaseId) ?? null,
    }),
    ...moved(before, after, { placed, phaseName }),
    ...compare<TemplateWay>({
      part: 'way',
      before: before.ways,
      after: after.ways,
      nameOf: (way) => `${taskName.get(way.fromId) ?? ''}: ${way.reason}`,
      phaseOf: () => null,
    }),
  ];
}

function own(before: TemplateContent, after: TemplateContent): TemplateDifference[] {
  const fields = (['name', 'description'] as const)
    .filter((field) => before[field] !== after[field])
    .map((field) => ({ field, from: before[field], to: after[field] }));
  return fields.length === 0 ? [] : [{ part: 'template', kind: 'changed', id: 'template', name: after.name, phase: null, fields }];
}

interface Comparing<Item> {
  readonly part: TemplateDifference['part'];
  readonly before: readonly Item[];
  readonly after: readonly Item[];
  readonly nameOf: (item: Item) => string;
  readonly phaseOf: (item: Item) => string | null;
}

function compare<Item extends { readonly id: string }>({ part, before, after, nameOf, phaseOf }: Comparing<Item>): TemplateDifference[] {
  const then = new Map(before.map((item) => [item.id, item]));
  const now = new Set(after.map((item) => item.id));
  const describe = (item: Item, kind: TemplateDifference['kind'], fields: readonly FieldDifference[] = []): TemplateDifference => ({
    ...{ part, kind, id: item.id, name: nameOf(item), phase: phaseOf(item), fields },
  });
  const kept = after.flatMap((item) => {
    const old = then.get(item.id);
    if (old === undefined) return [describe(item, 'added')];
    const fields = fieldsBetween(old, item);
    return fields.length === 0 ? [] : [describe(item, 'changed', fields)];
  });
  return [...kept, ...before.filter((item) => !now.has(item.id)).map((item) => describe(item, 'removed'))];
}

function fieldsBetween<Item extends object>(before: Item, after: Item): FieldDifference[] {
  return (
    (Object.keys(after) as (keyof Item & string)[])
      // Where a part came from says nothing of what it is.
      .filter((field) => field !== 'sourceTemplateId' && !isSame(before[field], after[field]))
      .map((field) => ({ field, from: before[field], to: after[field] }))
  );
}

/** Whether two values say the same; the order of the fields of an object says nothing. */
function isSame(left: unknown, right: unknown): boolean {
  if (typeof left !== 'object' || typeof right !== 'object' || left === null || right === null) return left === right;
  const [mine, theirs] = [left as Readonly<Record<string, unknown>>, right as Readonly<Record<string, unknown>>];
  const fields = Object.keys(mine);
  return fields.length === Object.keys(theirs).length && fields.every((field) => isSame(mine[field], theirs[field]));
}

/** The order of tasks among those of the same parent that are in both versions. */
function placesOf(content: TemplateContent): ReadonlyMap<string, readonly string[]> {
  const rows = new Map<string, string[]>();
  for (const task of content.tasks) {
    const key = `${task.phaseId} ${task.parentId ?? ''}`;
    rows.set(key, [...(rows.get(key) ?? []), task.id]);
  }
  return rows;
}

/** Phases whose tasks stand in another order, said once a phase. */
function moved(
  before: TemplateContent,
  after: TemplateContent,
  {
    placed,
    phaseName,
  }: {
    readonly placed: { readonly before: ReadonlyMap<string, readonly string[]>; readonly after: ReadonlyMap<string, readonly string[]> };
    readonly phaseName: ReadonlyMap<string, string>;
  },
): TemplateDifference[] {
  const inBoth = new Set(before.tasks.filter((task) => after.tasks.some((other) => other.id === task.id)).map((task) => task.id));
  const phases = new Set(
    [...placed.after].flatMap(([key, ids]) => {
      const then = (placed.before.get(key) ?? []).filter((id) => inBoth.has(id) && ids.includes(id));
      const now = ids.filter((id) => inBoth.has(id) && then.includes(id));
      return then.join() === now.join() ? [] : [key.split(' ')[0] as string];
    }),
  );
  return [...phases].map((id) => {
    const name = phaseName.get(id) ?? '';
    return { part: 'phase', kind: 'changed', id: `order of ${id}`, name, phase: name, fields: [{ field: 'order', from: null, to: null }] };
  });
}
