import type { DependencyType, PhaseEdge } from '../words.ts';
import type { CustomFieldDefinition, CustomFieldKind } from '../field/custom-field.ts';
import type { AnchorInput } from '../schedule/types.ts';
import type { TemplateContent, TemplateOutside, TemplateTask } from './types.ts';

/** Names the format and its version; see docs/formats/template.schema.json. */
export const EXCHANGE_FORMAT = 'nimble-crew-template/1';

/** A template as it travels: parts are known by short keys, roles by name, nothing by an id of ours. */
export interface ExchangedTemplate {
  readonly format: typeof EXCHANGE_FORMAT;
  readonly kind: 'engagement' | 'phase' | 'task';
  readonly name: string;
  readonly description?: string;
  /** Custom fields its tasks have, known by name. */
  readonly fields?: readonly ExchangedField[];
  /** Files its tasks have, each once. */
  readonly files?: readonly ExchangedFile[];
  readonly phases: readonly ExchangedPhase[];
  readonly ways?: readonly { readonly from: string; readonly to?: string; readonly ending?: string; readonly reason: string }[];
}
interface ExchangedField {
  readonly name: string;
  readonly kind: CustomFieldKind;
  readonly choices?: readonly string[];
}
interface ExchangedFile {
  readonly key: string;
  readonly name: string;
  /** The media type, as text/plain. */
  readonly type: string;
  /** In base64. */
  readonly content: string;
}
interface ExchangedPhase {
  readonly key: string;
  readonly name: string;
  readonly role?: string;
  readonly stateLine: string;
  readonly rounds?: number;
  /** Left out: the phase before it. `null`: it starts with the engagement. */
  readonly after?: { readonly phase: string; readonly edge?: PhaseEdge; readonly lag?: number } | null;
  readonly gate?: readonly { readonly kind: string; readonly text: string }[];
  readonly tasks: readonly ExchangedTask[];
}
/** A task of an exchanged template with the tasks below it. */
export interface ExchangedTask {
  readonly key: string;
  readonly title: string;
  readonly description?: string;
  readonly kind?: string;
  readonly role?: string;
  /** A certain person, by name, whoever holds the role. */
  readonly person?: string;
  readonly helpingPeople?: readonly string[];
  readonly helpers?: readonly string[];
  readonly minutes?: number;
  readonly days: number;
  readonly anchor?: AnchorInput;
  readonly after?: readonly { readonly task: string; readonly type?: DependencyType; readonly lag?: number }[];
  readonly steps?: readonly string[];
  readonly priority?: string;
  readonly labels?: readonly string[];
  readonly deliverable?: string;
  readonly links?: readonly { readonly title: string; readonly url: string }[];
  /** Keys of files. */
  readonly files?: readonly string[];
  readonly customFields?: readonly { readonly field: string; readonly value?: string | number }[];
  readonly outside?: TemplateOutside;
  readonly shownToClient?: boolean;
  readonly chargeable?: boolean;
  readonly subtasks?: readonly ExchangedTask[];
}

interface Names {
  readonly kind: ExchangedTemplate['kind'];
  readonly roleName: (id: string) => string;
  /** What a person is called, or null when they are gone. */
  readonly personName: (id: string) => string | null;
  /** The definition of a custom field, or null when it is gone. */
  readonly fieldOf: (id: string) => CustomFieldDefinition | null;
  /** Name, type and content in base64 of a file, or null when it is gone. */
  readonly fileOf: (id: string) => Omit<ExchangedFile, 'key'> | null;
}

/** A template as a file of the open format. People travel by name where a task presets them, and not in custom fields. */
export function toExchange(content: TemplateContent, names: Names): ExchangedTemplate {
  const travelling = travellingWith(content, names);
  const { key, role, fields, files } = travelling;
  return {
    format: EXCHANGE_FORMAT,
    kind: names.kind,
    name: content.name,
    ...given('description', content.description, ''),
    ...list(
      'fields',
      [...fields.values()].map((field) => ({ name: field.name, kind: field.kind, ...list('choices', field.choices) })),
    ),
    ...list(
      'files',
      [...files].map(([id, file]) => ({ key: key(id), name: file.name, type: file.type, content: file.content })),
    ),
    phases: content.phases.map((phase, index) => ({
      key: key(phase.id),
      name: phase.name,
      ...role(phase.roleId),
      stateLine: phase.stateLine,
      ...(phase.rounds === null ? {} : { rounds: phase.rounds }),
      ...exchangeAfter(phase, content.phases[index - 1]?.id ?? null, key),
      ...list('gate', phase.checks),
      tasks: exchangeTasks({ phaseId: phase.id, parentId: null }, content, travelling),
    })),
    ...list(
      'ways',
      content.ways.map((way) => ({
        from: key(way.fromId),
        ...(way.toId === null ? { ending: way.ending ?? '' } : { to: key(way.toId) }),
        reason: way.reason,
      })),
    ),
  };
}

/** What the ids of a template become in its file. */
interface Travelling {
  /** The short key of a phase, a task or a file. */
  readonly key: (id: string) => string;
  readonly roleName: Names['roleName'];
  readonly person: (id: string | null) => { readonly person?: string };
  readonly role: (id: string | null) => { readonly role?: string };
  readonly fields: ReadonlyMap<string, CustomFieldDefinition>;
  readonly files: ReadonlyMap<string, Omit<ExchangedFile, 'key'>>;
}

function travellingWith({ phases, tasks }: TemplateContent, { roleName, personName, fieldOf, fileOf }: Names): Travelling {
  const fieldIds = tasks.flatMap((task) => task.customFields.map((entry) => entry.fieldId));
  const fileIds = tasks.flatMap((task) => task.files.map((file) => file.fileId));
  const files = knownBy(fileIds, fileOf);
  const keyOf = new Map([
    ...phases.map((phase, index) => [phase.id, `p${index + 1}`] as const),
    ...tasks.map((task, index) => [task.id, `t${index + 1}`] as const),
    ...[...files.keys()].map((id, index) => [id, `f${index + 1}`] as const),
  ]);
  return {
    key: (id) => keyOf.get(id) ?? id,
    roleName,
    role: (id) => (id === null ? {} : { role: roleName(id) }),
    person: (id) => {
      const name = id === null ? null : personName(id);
      return name === null ? {} : { person: name };
    },
    fields: knownBy(fieldIds, fieldOf),
    files,
  };
}

/** The tasks at one place with all below them. */
function exchangeTasks(
  { phaseId, parentId }: Pick<TemplateTask, 'phaseId' | 'parentId'>,
  content: TemplateContent,
  travelling: Travelling,
): ExchangedTask[] {
  return content.tasks
    .filter((task) => task.phaseId === phaseId && task.parentId === parentId)
    .map((task) => ({
      ...exchangeTask(task, travelling),
      ...list('subtasks', exchangeTasks({ phaseId, parentId: task.id }, content, travelling)),
    }));
}

function exchangeTask(task: TemplateTask, { key, role, person, roleName, fields, files }: Travelling): ExchangedTask {
  return {
    key: key(task.id),
    title: task.title,
    ...given('description', task.description, ''),
    ...given('kind', task.kind, 'work'),
    ...role(task.roleId),
    ...person(task.personId),
    ...list('helpers', task.helperRoleIds.map(roleName)),
    ...list(
      'helpingPeople',
      task.helperPersonIds.flatMap((id) => person(id).person ?? []),
    ),
    ...(task.estimateMinutes === null ? {} : { minutes: task.estimateMinutes }),
    days: task.days,
    ...(task.anchor.at === 'phase-start' && task.anchor.offset === 0 ? {} : { anchor: task.anchor }),
    ...list(
      'after',
      task.after.map(({ taskId, type, lag }) => ({ task: key(taskId), ...given('type', type, 'FS'), ...given('lag', lag, 0) })),
    ),
    ...list('steps', task.steps),
    ...given('priority', task.priority, 'normal'),
    ...list('labels', task.labels),
    ...(task.deliverable === null ? {} : { deliverable: task.deliverable }),
    ...list('links', task.pageLinks),
    ...list(
      'files',
      task.files.filter((file) => files.has(file.fileId)).map((file) => key(file.fileId)),
    ),
    ...list(
      'customFields',
      task.customFields.flatMap(({ fieldId, value }) => {
        const field = fields.get(fieldId);
        if (field === undefined) return [];
        return [{ field: field.name, ...(value === null || field.kind === 'person' ? {} : { value }) }];
      }),
    ),
    ...(task.outside === null ? {} : { outside: task.outside }),
    ...given('shownToClient', task.isShownToClient, false),
    ...given('chargeable', task.isChargeable, true),
  };
}

/** Each id once, in order, with what is known of it. */
function knownBy<Known>(ids: readonly string[], find: (id: string) => Known | null): ReadonlyMap<string, Known> {
  const all = new Map<string, Known>();
  for (const id of ids) {
    const known = all.has(id) ? null : find(id);
    if (known !== null) all.set(id, known);
  }
  return all;
}

function exchangeAfter(
  phase: TemplateContent['phases'][number],
  before: string | null,
  key: (id: string) => string,
): Pick<ExchangedPhase, 'after'> {
  if (phase.afterPhaseId === null) return before === null ? {} : { after: null };
  if (phase.afterPhaseId === before && phase.afterEdge === 'finish' && phase.afterLag === 0) return {};
  return { after: { phase: key(phase.afterPhaseId), ...given('edge', phase.afterEdge, 'finish'), ...given('lag', phase.afterLag, 0) } };
}

const given = <Field extends string, Value>(field: Field, value: Value, usual: NoInfer<Value>): { [Name in Field]?: Value } =>
  (value === usual ? {} : { [field]: value }) as { [Name in Field]?: Value };
const list = <Field extends string, Item>(field: Field, items: readonly Item[]): { [Name in Field]?: readonly Item[] } =>
  (items.length === 0 ? {} : { [field]: items }) as { [Name in Field]?: readonly Item[] };
