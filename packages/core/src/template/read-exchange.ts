import { PHASE_EDGE, type DependencyType, type PhaseEdge } from '../words.ts';
import {
  CUSTOM_FIELD_KIND,
  customFieldFault,
  customValueFault,
  type CustomFieldDefinition,
  type CustomFieldKind,
} from '../field/custom-field.ts';
import type { AnchorInput } from '../schedule/types.ts';
import { checkTemplate } from './check.ts';
import { MOST, ValueReader, type Item } from './read-values.ts';
import { EXCHANGE_FORMAT, type ExchangedTemplate } from './exchange.ts';
import type { TemplateContent, TemplateFault, TemplateFile, TemplateOutside, TemplateTask } from './types.ts';

/** What a file holds, or everything that is wrong with it, each with its place as a JSON pointer. */
export type ReadExchange =
  | {
      readonly ok: true;
      readonly kind: ExchangedTemplate['kind'];
      readonly content: TemplateContent;
      readonly missingRoles: readonly string[];
      /** Names of people the agency does not have; their tasks follow the role. */
      readonly missingPeople: readonly string[];
      readonly newFields: readonly NewCustomField[];
      readonly newFiles: readonly NewFile[];
    }
  | { readonly ok: false; readonly faults: readonly TemplateFault[] };

/** A custom field the agency does not have yet; it has to be made before the content is kept. */
export interface NewCustomField extends CustomFieldDefinition {
  readonly id: string;
}

/** A file that came along, in base64; it has to be stored under this id before the content is kept. */
export interface NewFile {
  readonly id: string;
  readonly name: string;
  readonly type: string;
  readonly content: string;
  readonly bytes: number;
}

interface Reading {
  /** A new id for every part. */
  readonly newId: () => string;
  /** The role of that name, or null when the agency has none. */
  readonly roleId: (name: string) => string | null;
  /** Somebody of the crew by name, or null when there is nobody, or more than one. */
  readonly personId: (name: string) => string | null;
  /** The agency's custom field of that name, or null when it has none. */
  readonly customField: (name: string) => NewCustomField | null;
}

/**
 * Reads a file of the open format. All faults are collected before answering: shapes and words first,
 * then what the parts say of each other. Roles and people the agency does not have are named, not
 * refused; their tasks are then unassigned, or follow their role.
 */
export function readExchange(file: unknown, reading: Reading): ReadExchange {
  const reader = new Reader(reading);
  const content = reader.template(file);
  if (content === null || reader.faults.length > 0) return { ok: false, faults: reader.faults };
  const faults = checkTemplate(content).map((fault) => ({ ...fault, at: reader.placeOf(fault.at) }));
  if (faults.length > 0) return { ok: false, faults };
  const { kind, missingRoles, missingPeople, newFields, newFiles } = reader;
  const missing = { missingRoles: [...missingRoles].sort(), missingPeople: [...missingPeople].sort() };
  return { ok: true, kind, content, ...missing, newFields, newFiles };
}

const KINDS = ['work', 'client', 'review', 'meeting', 'order', 'milestone'];
const PRIORITIES = ['low', 'normal', 'high'];
const CHECKS = ['tasks-done', 'titled-done', 'steps-done', 'client-done', 'field-filled', 'files-there', 'word'];
const TYPES = ['FS', 'SS', 'FF', 'SF'];
const ANCHORS = ['phase-start', 'engagement-start', 'before-phase-end', 'before-promise'];

/** Reads part by part; ids are handed out before anything names another part. */
class Reader extends ValueReader {
  readonly missingRoles = new Set<string>();
  readonly missingPeople = new Set<string>();
  readonly newFields: NewCustomField[] = [];
  readonly newFiles: NewFile[] = [];
  kind: ExchangedTemplate['kind'] = 'engagement';
  private readonly reading: Reading;
  private readonly ids = new Map<string, string>();
  private readonly places = new Map<string, string>();
  private readonly tasks: TemplateTask[] = [];
  private readonly fields = new Map<string, NewCustomField>();
  private readonly files = new Map<string, TemplateFile>();

  constructor(reading: Reading) {
    super();
    this.reading = reading;
  }

  template(file: unknown): TemplateContent | null {
    const top = this.object(file, '');
    if (top === null) return null;
    if (top['format'] !== EXCHANGE_FORMAT) {
      this.fault('/format', `This is not a template of ours: format must be “${EXCHANGE_FORMAT}”.`);
      return null;
    }
    this.known(top, '', ['format', 'kind', 'name', 'description', 'fields', 'files', 'phases', 'ways']);
    this.kind = this.choice(top, '/kind', { choices: ['engagement', 'phase', 'task'], usual: 'engagement' }) as ExchangedTemplate['kind'];
    for (const [index, field] of this.items(top, 'fields', '').entries()) this.field(field, `/fields/${index}`);
    for (const [index, item] of this.items(top, 'files', '').entries()) this.file(item, `/files/${index}`);
    const parts = this.items(top, 'phases', '');
    for (const [index, phase] of parts.entries()) this.keys(phase, `/phases/${index}`);
    const phases = parts.map((phase, index) => this.phase(phase, index, parts));
    const ways = this.items(top, 'ways', '').map((way, index) => this.way(way, `/ways/${index}`));
    return { name: this.line(top, '/name', 160), description: this.text(top, '/description'), phases, tasks: this.tasks, ways };
  }

  /** The place in the file of a part that was found wrong afterwards. */
  placeOf(at: string): string {
    const [, id, field] = /^\w+\[(.+?)\](?:\.(\w+))?$/.exec(at) ?? [];
    const place = id === undefined ? undefined : this.places.get(id);
    return place === undefined ? at : `${place}${field === undefined ? '' : `/${field}`}`;
  }

  /** Gives every part its id before any part names another. */
  private keys(part: Item, at: string): void {
    const key = part['key'];
    if (typeof key !== 'string' || key.trim() === '') this.fault(`${at}/key`, 'Every phase and task has a key of its own, like “t1”.');
    else if (this.ids.has(key)) this.fault(`${at}/key`, `The key “${key}” is used twice. Give each part its own.`);
    else {
      const id = this.reading.newId();
      this.ids.set(key, id);
      this.places.set(id, at);
    }
    for (const list of ['tasks', 'subtasks'])
      for (const [index, item] of this.raw(part, list).entries()) this.keys(item, `${at}/${list}/${index}`);
  }

  private phase(phase: Item, place: number, all: readonly Item[]): TemplateContent['phases'][number] {
    const at = `/phases/${place}`;
    this.known(phase, at, ['key', 'name', 'role', 'stateLine', 'rounds', 'after', 'gate', 'tasks']);
    const id = this.idOf(phase);
    for (const [index, task] of this.items(phase, 'tasks', at).entries())
      this.task(task, `${at}/tasks/${index}`, { phaseId: id, parentId: null });
    const checks = this.items(phase, 'gate', at).map((check, index) => ({
      kind: this.choice(check, `${at}/gate/${index}/kind`, { choices: CHECKS, usual: 'tasks-done' }),
      text: this.line(check, `${at}/gate/${index}/text`, 200),
      ...(check['wants'] === undefined ? {} : { wants: this.texts(check, 'wants', `${at}/gate/${index}`) }),
    }));
    return {
      id,
      name: this.line(phase, `${at}/name`, 120),
      roleId: this.role(phase['role'], `${at}/role`),
      stateLine: this.line(phase, `${at}/stateLine`, 200),
      rounds: phase['rounds'] === undefined ? null : this.whole(phase, `${at}/rounds`, { least: 1, usual: 1 }),
      ...this.after(phase, at, place === 0 ? null : this.idOf(all[place - 1] as Item)),
      checks,
    };
  }

  private after(
    phase: Item,
    at: string,
    before: string | null,
  ): Pick<TemplateContent['phases'][number], 'afterPhaseId' | 'afterEdge' | 'afterLag'> {
    if (phase['after'] === undefined) return { afterPhaseId: before, afterEdge: 'finish', afterLag: 0 };
    if (phase['after'] === null) return { afterPhaseId: null, afterEdge: 'finish', afterLag: 0 };
    const after = this.object(phase['after'], `${at}/after`) ?? {};
    return {
      afterPhaseId: this.named(after['phase'], `${at}/after/phase`),
      afterEdge: this.choice(after, `${at}/after/edge`, { choices: PHASE_EDGE, usual: 'finish' }) as PhaseEdge,
      afterLag: this.whole(after, `${at}/after/lag`, { least: -MOST, usual: 0 }),
    };
  }

  private task(task: Item, at: string, stands: { readonly phaseId: string; readonly parentId: string | null }): void {
    this.known(task, at, TASK_FIELDS);
    const id = this.idOf(task);
    this.tasks.push({
      id,
      ...stands,
      title: this.line(task, `${at}/title`, 200),
      description: this.text(task, `${at}/description`),
      kind: this.choice(task, `${at}/kind`, { choices: KINDS, usual: 'work' }),
      roleId: this.role(task['role'], `${at}/role`),
      personId: this.person(task, `${at}/person`),
      helperRoleIds: this.texts(task, 'helpers', at).flatMap((name) => this.role(name, `${at}/helpers`) ?? []),
      helperPersonIds: this.texts(task, 'helpingPeople', at).flatMap((name) => this.personNamed(name) ?? []),
      estimateMinutes: task['minutes'] === undefined ? null : this.whole(task, `${at}/minutes`, { least: 0, usual: 0 }),
      days: this.whole(task, `${at}/days`, { least: 0 }),
      anchor: this.anchor(task, at),
      after: this.items(task, 'after', at).flatMap((dependency, index) => this.dependency(dependency, `${at}/after/${index}`)),
      steps: this.texts(task, 'steps', at),
      priority: this.choice(task, `${at}/priority`, { choices: PRIORITIES, usual: 'normal' }),
      labels: this.texts(task, 'labels', at),
      deliverable: task['deliverable'] === undefined ? null : this.line(task, `${at}/deliverable`, 120),
      pageLinks: this.items(task, 'links', at).map((link, index) => ({
        title: this.line(link, `${at}/links/${index}/title`, 200),
        url: this.address(link, `${at}/links/${index}/url`),
      })),
      files: this.texts(task, 'files', at).flatMap((key, index) => this.fileOf(key, `${at}/files/${index}`)),
      customFields: this.items(task, 'customFields', at).flatMap((entry, index) => this.customField(entry, `${at}/customFields/${index}`)),
      outside: task['outside'] === undefined ? null : this.outside(task['outside'], `${at}/outside`),
      isShownToClient: this.yes(task, `${at}/shownToClient`, false),
      isChargeable: this.yes(task, `${at}/chargeable`, true),
    });
    for (const [index, part] of this.items(task, 'subtasks', at).entries())
      this.task(part, `${at}/subtasks/${index}`, { phaseId: stands.phaseId, parentId: id });
  }

  private person(task: Item, at: string): string | null {
    if (task['person'] === undefined) return null;
    return this.personNamed(this.line(task, at, 120));
  }

  private personNamed(name: string): string | null {
    const id = this.reading.personId(name);
    if (id === null) this.missingPeople.add(name);
    return id;
  }

  private anchor(task: Item, at: string): AnchorInput {
    if (task['anchor'] === undefined) return { at: 'phase-start', offset: 0 };
    const anchor = this.object(task['anchor'], `${at}/anchor`) ?? {};
    return {
      at: this.choice(anchor, `${at}/anchor/at`, { choices: ANCHORS }) as AnchorInput['at'],
      offset: this.whole(anchor, `${at}/anchor/offset`, { least: -MOST, usual: 0 }),
    };
  }

  private dependency(dependency: Item, at: string): TemplateTask['after'][number][] {
    const taskId = this.named(dependency['task'], `${at}/task`);
    const type = this.choice(dependency, `${at}/type`, { choices: TYPES, usual: 'FS' }) as DependencyType;
    const lag = this.whole(dependency, `${at}/lag`, { least: -MOST, usual: 0 });
    return taskId === null ? [] : [{ taskId, type, lag }];
  }

  private outside(value: unknown, at: string): TemplateOutside | null {
    const outside = this.object(value, at);
    if (outside === null) return null;
    return {
      maker: this.line(outside, `${at}/maker`, 120),
      turnaroundDays: this.whole(outside, `${at}/turnaroundDays`, { least: 0 }),
      bufferDays: this.whole(outside, `${at}/bufferDays`, { least: 0, usual: 0 }),
    };
  }

  /** A field the agency has must be of the same kind; one it has not is to be made. */
  private field(item: Item, at: string): void {
    this.known(item, at, ['name', 'kind', 'choices']);
    const name = this.line(item, `${at}/name`, 60);
    const kind = this.choice(item, `${at}/kind`, { choices: CUSTOM_FIELD_KIND }) as CustomFieldKind;
    const choices = this.texts(item, 'choices', at);
    const wrong = customFieldFault({ kind, choices });
    if (wrong !== null) this.fault(`${at}/choices`, wrong);
    if (this.fields.has(name)) this.fault(`${at}/name`, `The custom field “${name}” is there twice.`);
    const there = this.reading.customField(name);
    if (there === null) {
      const field = { id: this.reading.newId(), name, kind, choices };
      this.fields.set(name, field);
      this.newFields.push(field);
      return;
    }
    this.fields.set(name, there);
    if (there.kind !== kind) this.fault(`${at}/kind`, `You have a custom field “${name}” that is a ${there.kind}. Rename one of them.`);
    const missing = choices.find((choice) => there.kind === 'choice' && !there.choices.includes(choice));
    if (missing !== undefined)
      this.fault(`${at}/choices`, `Your custom field “${name}” knows ${there.choices.join(', ')}. Add “${missing}” to it first.`);
  }

  private customField(item: Item, at: string): TemplateTask['customFields'][number][] {
    this.known(item, at, ['field', 'value']);
    const field = this.fields.get(this.line(item, `${at}/field`, 60));
    if (field === undefined) {
      this.fault(`${at}/field`, 'Name one of the fields of this file.');
      return [];
    }
    const value = item['value'] ?? null;
    if (value === null || field.kind === 'person') return [{ fieldId: field.id, value: null }];
    const wrong =
      typeof value === 'string' || typeof value === 'number' ? customValueFault(field, value) : 'Here a text or a number is expected.';
    if (wrong !== null) this.fault(`${at}/value`, wrong);
    return [{ fieldId: field.id, value: value as string | number }];
  }

  private file(item: Item, at: string): void {
    this.known(item, at, ['key', 'name', 'type', 'content']);
    const key = this.line(item, `${at}/key`, 60);
    if (this.files.has(key)) this.fault(`${at}/key`, `The key “${key}” is used twice. Give each file its own.`);
    const name = this.line(item, `${at}/name`, 200);
    const type = item['type'] === undefined ? 'application/octet-stream' : this.line(item, `${at}/type`, 100);
    const content = item['content'];
    if (typeof content !== 'string' || content.length % 4 !== 0 || !/^[A-Za-z0-9+/]*={0,2}$/.test(content)) {
      this.fault(`${at}/content`, 'Here the content of the file in base64 is expected.');
      return;
    }
    const id = this.reading.newId();
    const bytes = (content.length / 4) * 3 - (content.endsWith('==') ? 2 : content.endsWith('=') ? 1 : 0);
    this.newFiles.push({ id, name, type, content, bytes });
    this.files.set(key, { fileId: id, name, bytes });
  }

  private fileOf(key: string, at: string): TemplateFile[] {
    const file = this.files.get(key);
    if (file === undefined) this.fault(at, `No file here has the key “${key}”.`);
    return file === undefined ? [] : [file];
  }

  private way(way: Item, at: string): TemplateContent['ways'][number] {
    this.known(way, at, ['from', 'to', 'ending', 'reason']);
    const id = this.reading.newId();
    this.places.set(id, at);
    const isBack = way['to'] !== undefined;
    return {
      id,
      fromId: this.named(way['from'], `${at}/from`) ?? '',
      toId: isBack ? this.named(way['to'], `${at}/to`) : null,
      ending: isBack ? null : this.line(way, `${at}/ending`, 120),
      reason: this.line(way, `${at}/reason`, 120),
    };
  }

  private idOf(part: Item): string {
    return this.ids.get(String(part['key'])) ?? '';
  }

  private named(key: unknown, at: string): string | null {
    const id = typeof key === 'string' ? this.ids.get(key) : undefined;
    if (id === undefined)
      this.fault(at, typeof key === 'string' ? `No part of this file has the key “${key}”.` : 'Name a part by its key.');
    return id ?? null;
  }

  private role(name: unknown, at: string): string | null {
    if (name === undefined) return null;
    if (typeof name !== 'string' || name.trim() === '') {
      this.fault(at, 'A role is a name.');
      return null;
    }
    const id = this.reading.roleId(name.trim());
    if (id === null) this.missingRoles.add(name.trim());
    return id;
  }
}

const TASK_FIELDS = [
  ...[
    'key',
    'title',
    'description',
    'kind',
    'role',
    'person',
    'helpers',
    'helpingPeople',
    'minutes',
    'days',
    'anchor',
    'after',
    'steps',
    'priority',
    'labels',
  ],
  ...['deliverable', 'links', 'files', 'customFields', 'outside', 'shownToClient', 'chargeable', 'subtasks'],
];
