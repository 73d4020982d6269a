import type { AnchorInput, LinkType } from '../schedule/types.ts';
import { checkTemplate } from './check.ts';
import { EXCHANGE_FORMAT, type ExchangedTemplate } from './exchange.ts';
import type { TemplateContent, TemplateFault, TemplateOutside, TemplateTask } from './types.ts';

/** What a file holds, or everything that is wrong with it, each with its place as a JSON pointer. */
export type ReadExchange =
  | {
      readonly ok: true;
      readonly kind: ExchangedTemplate['kind'];
      readonly content: TemplateContent;
      readonly missingRoles: readonly string[];
    }
  | { readonly ok: false; readonly faults: readonly TemplateFault[] };

interface Reading {
  /** A new id for every part. */
  readonly newId: () => string;
  /** The role of that name, or null when the agency has none. */
  readonly roleId: (name: string) => string | null;
}

/**
 * Reads a file of the open format. All faults are found before anything is said: shapes and
 * words first, then what the parts say of each other. Roles the agency does not have are named,
 * not refused; their tasks are then nobody's.
 */
export function readExchange(file: unknown, reading: Reading): ReadExchange {
  const reader = new Reader(reading);
  const content = reader.template(file);
  if (content === null || reader.faults.length > 0) return { ok: false, faults: reader.faults };
  const faults = checkTemplate(content).map((fault) => ({ ...fault, at: reader.placeOf(fault.at) }));
  if (faults.length > 0) return { ok: false, faults };
  return { ok: true, kind: reader.kind, content, missingRoles: [...reader.missingRoles].sort() };
}

const KINDS = ['work', 'client', 'review', 'meeting', 'order', 'milestone'];
const PRIORITIES = ['low', 'normal', 'high'];
const CHECKS = ['tasks-done', 'client-done', 'word'];
const TYPES = ['FS', 'SS', 'FF', 'SF'];
const ANCHORS = ['phase-start', 'engagement-start', 'before-phase-end', 'before-promise'];
const MOST = 100_000;

type Item = Readonly<Record<string, unknown>>;

/** Reads value by value and keeps what is wrong; a value that is wrong is read as its usual one. */
class Reader {
  readonly faults: TemplateFault[] = [];
  readonly missingRoles = new Set<string>();
  kind: ExchangedTemplate['kind'] = 'engagement';
  private readonly reading: Reading;
  private readonly ids = new Map<string, string>();
  private readonly places = new Map<string, string>();
  private readonly tasks: TemplateTask[] = [];

  constructor(reading: Reading) {
    this.reading = reading;
  }

  template(file: unknown): TemplateContent | null {
    const top = this.object(file, '');
    if (top === null) return null;
    if (top['format'] !== EXCHANGE_FORMAT) {
      this.fault('/format', `This is not a template of ours: format must be “${EXCHANGE_FORMAT}”.`);
      return null;
    }
    this.known(top, '', ['format', 'kind', 'name', 'description', 'phases', 'ways']);
    this.kind = this.choice(top, '/kind', { choices: ['engagement', 'phase', 'task'], usual: 'engagement' }) as ExchangedTemplate['kind'];
    const files = this.items(top, 'phases', '');
    for (const [place, phase] of files.entries()) this.keys(phase, `/phases/${place}`);
    const phases = files.map((phase, place) => this.phase(phase, place, files));
    const ways = this.items(top, 'ways', '').map((way, place) => this.way(way, `/ways/${place}`));
    return { name: this.line(top, '/name', 160), description: this.text(top, '/description'), phases, tasks: this.tasks, ways };
  }

  /** The place in the file of a part that was found wrong afterwards. */
  placeOf(at: string): string {
    const [, id, field] = /^\w+\[(.+?)\](?:\.(\w+))?$/.exec(at) ?? [];
    const place = id === undefined ? undefined : this.places.get(id);
    return place === undefined ? at : `${place}${field === undefined ? '' : `/${field}`}`;
  }

  private fault(at: string, message: string): void {
    this.faults.push({ at: at === '' ? '/' : at, message });
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
      for (const [place, item] of this.raw(part, list).entries()) this.keys(item, `${at}/${list}/${place}`);
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
      afterEdge: this.choice(after, `${at}/after/edge`, { choices: ['finish', 'start'], usual: 'finish' }) as 'finish' | 'start',
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
      personId: null,
      helperRoleIds: this.texts(task, 'helpers', at).flatMap((name) => this.role(name, `${at}/helpers`) ?? []),
      estimateMinutes: task['minutes'] === undefined ? null : this.whole(task, `${at}/minutes`, { least: 0, usual: 0 }),
      days: this.whole(task, `${at}/days`, { least: 0 }),
      anchor: this.anchor(task, at),
      after: this.items(task, 'after', at).flatMap((tie, place) => this.tie(tie, `${at}/after/${place}`)),
      steps: this.texts(task, 'steps', at),
      priority: this.choice(task, `${at}/priority`, { choices: PRIORITIES, usual: 'normal' }),
      labels: this.texts(task, 'labels', at),
      deliverable: task['deliverable'] === undefined ? null : this.line(task, `${at}/deliverable`, 120),
      links: this.items(task, 'links', at).map((link, place) => ({
        title: this.line(link, `${at}/links/${place}/title`, 200),
        url: this.address(link, `${at}/links/${place}/url`),
      })),
      outside: task['outside'] === undefined ? null : this.outside(task['outside'], `${at}/outside`),
      isShownToClient: this.yes(task, `${at}/shownToClient`, false),
      isChargeable: this.yes(task, `${at}/chargeable`, true),
    });
    for (const [place, part] of this.items(task, 'subtasks', at).entries())
      this.task(part, `${at}/subtasks/${place}`, { phaseId: stands.phaseId, parentId: id });
  }

  private anchor(task: Item, at: string): AnchorInput {
    if (task['anchor'] === undefined) return { at: 'phase-start', offset: 0 };
    const anchor = this.object(task['anchor'], `${at}/anchor`) ?? {};
    return {
      at: this.choice(anchor, `${at}/anchor/at`, { choices: ANCHORS }) as AnchorInput['at'],
      offset: this.whole(anchor, `${at}/anchor/offset`, { least: -MOST, usual: 0 }),
    };
  }

  private tie(tie: Item, at: string): TemplateTask['after'][number][] {
    const taskId = this.named(tie['task'], `${at}/task`);
    const type = this.choice(tie, `${at}/type`, { choices: TYPES, usual: 'FS' }) as LinkType;
    const lag = this.whole(tie, `${at}/lag`, { least: -MOST, usual: 0 });
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

  private object(value: unknown, at: string): Item | null {
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) return value as Item;
    this.fault(at, 'Here an object is expected.');
    return null;
  }

  private raw(part: Item, field: string): Item[] {
    const value = part[field];
    return Array.isArray(value) ? value.filter((item): item is Item => typeof item === 'object' && item !== null) : [];
  }

  private items(part: Item, field: string, at: string): Item[] {
    const value = part[field];
    if (value === undefined) return [];
    if (!Array.isArray(value)) {
      this.fault(`${at}/${field}`, 'Here a list is expected.');
      return [];
    }
    const objects = value.map((item: unknown, place) => this.object(item, `${at}/${field}/${place}`));
    return objects.filter((item) => item !== null);
  }

  private texts(part: Item, field: string, at: string): string[] {
    const value = part[field];
    if (value === undefined) return [];
    if (Array.isArray(value) && value.every((item) => typeof item === 'string' && item.trim() !== ''))
      return value.map((item: string) => item.trim());
    this.fault(`${at}/${field}`, 'Here a list of words is expected.');
    return [];
  }

  private line(part: Item, at: string, longest: number): string {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (typeof value !== 'string' || value.trim() === '') this.fault(at, 'Here some words are expected.');
    else if (value.length > longest) this.fault(at, `Keep this to ${longest} characters.`);
    else return value.trim();
    return '';
  }

  /** Only of the web: an address that runs something must not travel in a file. */
  private address(part: Item, at: string): string {
    const url = this.line(part, at, 2000);
    if (url !== '' && !/^https?:\/\/\S+$/.test(url)) this.fault(at, 'An address begins with https://.');
    return url;
  }

  private text(part: Item, at: string): string {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined) return '';
    if (typeof value === 'string' && value.length <= 20_000) return value;
    this.fault(at, 'Here a text of at most 20 000 characters is expected.');
    return '';
  }

  private whole(part: Item, at: string, { least, usual }: { readonly least: number; readonly usual?: number }): number {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined && usual !== undefined) return usual;
    if (typeof value === 'number' && Number.isSafeInteger(value) && value >= least && value <= MOST * 10) return value;
    this.fault(at, least > -MOST ? `Here a whole number of at least ${least} is expected.` : 'Here a whole number is expected.');
    return Math.max(0, least);
  }

  private choice(part: Item, at: string, { choices, usual }: { readonly choices: readonly string[]; readonly usual?: string }): string {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined && usual !== undefined) return usual;
    if (typeof value === 'string' && choices.includes(value)) return value;
    this.fault(at, `Here one of ${choices.join(', ')} is expected.`);
    return usual ?? (choices[0] as string);
  }

  private yes(part: Item, at: string, usual: boolean): boolean {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined) return usual;
    if (typeof value === 'boolean') return value;
    this.fault(at, 'Here true or false is expected.');
    return usual;
  }

  private known(part: Item, at: string, fields: readonly string[]): void {
    for (const field of Object.keys(part)) if (!fields.includes(field)) this.fault(`${at}/${field}`, `There is no field “${field}” here.`);
  }
}

const TASK_FIELDS = [
  ...['key', 'title', 'description', 'kind', 'role', 'helpers', 'minutes', 'days', 'anchor', 'after', 'steps', 'priority', 'labels'],
  ...['deliverable', 'links', 'outside', 'shownToClient', 'chargeable', 'subtasks'],
];
