import { Injectable } from '@nestjs/common';
import { diffTemplates, type FieldDifference, type CustomFieldEntry, type TemplateContent } from '@crew/core';
import { DEPENDENCY_TYPE_WORDS, type DifferenceLine, type DependencyType } from '@crew/contract';
import { isUUID } from 'class-validator';
import type { EntityManager } from 'typeorm';
import { readCustomFields } from '../field/keep-custom-fields.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { TemplateRepository, type Which } from './template.repository.ts';

/** Differences between two versions of a template, told by phase and task in words. */
@Injectable()
export class CompareVersions {
  private readonly database: Database;
  private readonly templates: TemplateRepository;
  constructor(database: Database, templates: TemplateRepository) {
    this.database = database;
    this.templates = templates;
  }

  async run(who: Who, templateId: string, { from, to }: { readonly from: Which; readonly to: Which }): Promise<DifferenceLine[]> {
    const { manager } = this.database;
    const read = async (which: Which): Promise<TemplateContent> =>
      requireFound(await this.templates.content(manager, who.agencyId, { templateId, which }), 'version');
    return this.describe(manager, who, { before: await read(from), after: await read(to) });
  }

  /** As `run` for contents that are at hand. */
  async describe(
    manager: EntityManager,
    who: Who,
    { before, after }: { readonly before: TemplateContent; readonly after: TemplateContent },
  ): Promise<DifferenceLine[]> {
    const people = await rowsOf<{ id: string; name: string }>(manager, 'SELECT id, name FROM person WHERE agency_id = $1', [who.agencyId]);
    const names = new Map([
      ...[...people, ...(await readCustomFields(manager, who.agencyId)).values()].map(({ id, name }) => [id, name] as const),
      ...(await this.templates.roleNames(manager, who.agencyId)),
      ...[...before.tasks, ...after.tasks].map((task) => [task.id, `“${task.title}”`] as const),
      ...[...before.phases, ...after.phases].map((phase) => [phase.id, phase.name] as const),
    ]);
    const nameOf = (id: unknown): string => (typeof id === 'string' ? (names.get(id) ?? 'somebody') : 'nobody');
    return diffTemplates(before, after).map(({ fields, ...line }) => ({
      ...line,
      words: fields.map((field) => fieldWords(field, nameOf)),
    }));
  }
}

type NameOf = (id: unknown) => string;

const PLAIN: Readonly<Record<string, string>> = {
  name: 'named',
  title: 'called',
  stateLine: 'state line',
  kind: 'kind',
  priority: 'priority',
  deliverable: 'deliverable',
  ending: 'ending',
  reason: 'reason',
};

/** One field of a part before and after, as a sentence. */
function fieldWords({ field, from, to }: FieldDifference, nameOf: NameOf): string {
  switch (field) {
    case 'order':
      return 'its tasks stand in another order';
    case 'description':
      return 'another description';
    case 'roleId':
    case 'personId':
      return `${field === 'roleId' ? 'role' : 'person'}: ${nameOf(from)} → ${nameOf(to)}`;
    case 'phaseId':
    case 'afterPhaseId':
      return `${field === 'phaseId' ? 'moved' : 'follows'}: ${nameOf(from)} → ${nameOf(to)}`;
    case 'parentId':
      return to === null ? 'no part of another any more' : `a part of ${nameOf(to)}`;
    case 'fromId':
    case 'toId':
      return `${field === 'fromId' ? 'from' : 'to'} ${nameOf(from)} → ${nameOf(to)}`;
    case 'estimateMinutes':
      return `effort: ${hoursOf(from)} → ${hoursOf(to)}`;
    case 'days':
      return `length: ${String(from)} → ${String(to)} working days`;
    case 'rounds':
      return `rounds agreed: ${String(from ?? 'none')} → ${String(to ?? 'none')}`;
    case 'anchor':
      return `begins: ${anchorWords(from)} → ${anchorWords(to)}`;
    case 'after':
      return `waits for: ${dependencyWords(from, nameOf)} → ${dependencyWords(to, nameOf)}`;
    case 'customFields':
      return customFieldWords(from, to, nameOf);
    case 'helperRoleIds':
    case 'helperPersonIds':
      return listWords(field, (from as string[]).map(nameOf), (to as string[]).map(nameOf));
    case 'files':
      return listWords('files', namesIn(from), namesIn(to));
    case 'isShownToClient':
      return to === true ? 'shown to the client' : 'not shown to the client any more';
    case 'isChargeable':
      return to === true ? 'chargeable' : 'not chargeable any more';
    case 'outside':
      return to === null ? 'not done outside any more' : 'done outside';
    default:
      return field in PLAIN ? `${PLAIN[field]}: ${textOf(from)} → ${textOf(to)}` : listWords(field, from, to);
  }
}

const textOf = (value: unknown): string => (value === null || value === '' ? 'none' : `“${String(value)}”`);
const hoursOf = (minutes: unknown): string => (typeof minutes === 'number' ? `${Math.round(minutes / 6) / 10} h` : 'none');

function anchorWords(value: unknown): string {
  const { at, offset } = value as { readonly at: string; readonly offset: number };
  const places: Readonly<Record<string, string>> = {
    'phase-start': 'after the phase begins',
    'engagement-start': 'after the engagement begins',
    'before-phase-end': 'before the phase ends',
    'before-promise': 'before the promise',
  };
  return `${offset} days ${places[at] ?? at}`;
}

function dependencyWords(value: unknown, nameOf: NameOf): string {
  const dependencies = value as readonly { readonly taskId: string; readonly type: DependencyType; readonly lag: number }[];
  if (dependencies.length === 0) return 'nothing';
  return dependencies
    .map(
      (dependency) =>
        `${dependency.type === 'FS' ? '' : `${DEPENDENCY_TYPE_WORDS[dependency.type]} `}${nameOf(dependency.taskId)}${dependency.lag === 0 ? '' : ` + ${dependency.lag}`}`,
    )
    .join(', ');
}

const namesIn = (files: unknown): string[] => (files as readonly { readonly name: string }[]).map((file) => file.name);

/** Custom fields that came, went, or hold something else. */
function customFieldWords(from: unknown, to: unknown, nameOf: NameOf): string {
  const [then, now] = [from, to].map(
    (entries) => new Map((entries as readonly CustomFieldEntry[]).map((entry) => [entry.fieldId, entry.value])),
  );
  const ids = [...new Set([...(then?.keys() ?? []), ...(now?.keys() ?? [])])];
  const words = ids.flatMap((id) => {
    if (then?.has(id) !== true) return [`+ ${nameOf(id)}${valueWords(now?.get(id), nameOf)}`];
    if (now?.has(id) !== true) return [`− ${nameOf(id)}`];
    return then.get(id) === now.get(id) ? [] : [`${nameOf(id)}${valueWords(now.get(id), nameOf)}`];
  });
  return `custom fields: ${words.length === 0 ? 'another order' : words.join(', ')}`;
}

const valueWords = (value: CustomFieldEntry['value'] | undefined, nameOf: NameOf): string => {
  if (value === null || value === undefined) return ', open';
  return ` “${typeof value === 'string' && isUUID(value) ? nameOf(value) : value}”`;
};

const LISTS: Readonly<Record<string, string>> = {
  files: 'files',
  steps: 'steps',
  labels: 'labels',
  pageLinks: 'web links',
  checks: 'gate',
  helperRoleIds: 'roles that help',
  helperPersonIds: 'people who help',
};

/** What came into a list and what went out of it. */
function listWords(field: string, from: unknown, to: unknown): string {
  const name = LISTS[field];
  if (name === undefined || !Array.isArray(from) || !Array.isArray(to)) return `${field} changed`;
  const text = (item: unknown): string => {
    if (typeof item !== 'object' || item === null) return String(item);
    const { title, text: words } = item as { readonly title?: string; readonly text?: string };
    return title ?? words ?? '';
  };
  const [then, now] = [from.map(text), to.map(text)];
  const came = now.filter((item) => !then.includes(item));
  const went = then.filter((item) => !now.includes(item));
  const parts = [...came.map((item) => `+ ${item}`), ...went.map((item) => `− ${item}`)];
  return `${name}: ${parts.length === 0 ? 'another order' : parts.join(', ')}`;
}
