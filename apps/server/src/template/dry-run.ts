import { Injectable } from '@nestjs/common';
import {
  addDays,
  type CalendarInput,
  compileCalendar,
  type LoadTaskInput,
  openRooms,
  parseDay,
  schedule,
  type Room,
  type Schedule,
  scheduleBack,
  suggestPeople,
  weekdayOf,
  workingDaysBetween,
  type IsoDay,
} from '@crew/core';
import type { DryRun, PersonRef, PlanEngagement, RoleNeed, Suggestion, TaskKind, TemplatePhaseView } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { readLoadFacts, toLoadInput, type LoadFacts } from '../load/load-facts.ts';
import { newOverloads } from '../load/overloads.ts';
import { readPastEngagements } from '../load/known.ts';
import { refOf } from '../load/people-touched.ts';
import { cutTemplate, toSchedule } from './cut-template.ts';
import { GrowTemplate } from './grow-template.ts';
import { latePromise } from './late-promise.ts';
import { ReadSource, type Source } from './read-source.ts';
import { type TemplateDocument, type TemplateTaskDocument, type Which } from './template.repository.ts';
import { firstRow, rowsOf } from '../platform/database.ts';

/** A template cut to what will be made, scheduled on the calendar. */
export interface ScheduledTemplate {
  readonly template: TemplateDocument;
  readonly source: Source;
  readonly start: IsoDay;
  readonly promise: IsoDay | null;
  readonly schedule: Schedule;
  readonly calendar: CalendarInput;
  readonly load: LoadFacts;
}

const HORIZON_DAYS = 800;

/** Lays a template on the real calendar and the real load without saving anything. */
@Injectable()
export class DryRunTemplate {
  private readonly sources: ReadSource;
  private readonly growing: GrowTemplate;
  private readonly clock: Clock;
  constructor(sources: ReadSource, growing: GrowTemplate, clock: Clock) {
    this.sources = sources;
    this.growing = growing;
    this.clock = clock;
  }

  /** The whole dry run, with people for roles and whom it would overload. */
  async run(manager: EntityManager, who: Who, plan: PlanEngagement, which: Which = 'newest'): Promise<DryRun> {
    return this.describe(manager, who, { plan, scheduled: await this.schedule(manager, who, plan, which) });
  }

  /** What a template that has been scheduled comes to. */
  async describe(
    manager: EntityManager,
    who: Who,
    { plan, scheduled }: { readonly plan: PlanEngagement; readonly scheduled: ScheduledTemplate },
  ): Promise<DryRun> {
    await requireRoles(manager, who, plan.roles ?? []);
    if (plan.clientId !== undefined) await requireClient(manager, who, plan.clientId);
    const known = await readPastEngagements(manager, plan.clientId ?? null);
    const roles = proposePeople(scheduled, plan, { known, today: this.clock.today(), askedBy: who.personId });
    const today = this.clock.today();
    const late = latePromise({ ...scheduled, plan, today });
    return { ...renderDryRun(scheduled, roles, today), late };
  }

  /** Template, calendar and dates; refuses what is empty or waits in a loop. */
  async schedule(manager: EntityManager, who: Who, plan: PlanEngagement, which: Which = 'newest'): Promise<ScheduledTemplate> {
    const source = await this.sources.run(manager, who, { plan, which });
    const template = cutTemplate(await this.growing.run(manager, who, { template: source.document, plan }), plan);
    const window = { today: this.clock.today(), to: farDay(plan.start ?? plan.promise ?? this.clock.today()) };
    const facts = await readLoadFacts(manager, who.agencyId, window);
    const titleOf = new Map(template.tasks.map((task) => [task.id, task.title]));
    const input = toSchedule(template, facts.calendar, plan);
    const nameOf = (id: string): string => titleOf.get(id) ?? id;
    if (plan.start !== undefined) {
      const dated = unwrap(schedule({ ...input, start: plan.start }), nameOf);
      return { template, source, start: plan.start, promise: plan.promise ?? null, schedule: dated, calendar: facts.calendar, load: facts };
    }
    const back = unwrap(scheduleBack(input), nameOf);
    return { template, source, start: back.start, promise: plan.promise ?? null, schedule: back, calendar: facts.calendar, load: facts };
  }
}

const farDay = (from: IsoDay): IsoDay => addDays(from, HORIZON_DAYS);

/** Refuses roles that are not the agency's; a person chosen for a role the template does not have is no fault. */
export async function requireRoles(manager: EntityManager, who: Who, choices: readonly { readonly roleId: string }[]): Promise<void> {
  const ids = [...new Set(choices.map(({ roleId }) => roleId))];
  if (ids.length === 0) return;
  const known = await rowsOf(manager, 'SELECT 1 FROM role WHERE agency_id = $1 AND id = ANY($2)', [who.agencyId, ids]);
  if (known.length < ids.length) throw new Refusal('unknown-id', 'A role is not one of yours. Choose from the list.', { field: 'roles' });
}

async function requireClient(manager: EntityManager, who: Who, clientId: string): Promise<void> {
  const known = await firstRow(manager, 'SELECT 1 FROM client WHERE id = $1 AND agency_id = $2', [clientId, who.agencyId]);
  if (known === null) throw new Refusal('unknown-id', 'This client is not one of yours. Choose from the list.', { field: 'clientId' });
}

interface Proposing {
  readonly known: ReadonlyMap<string, number>;
  readonly today: IsoDay;
  readonly askedBy: string | null;
}

function proposePeople(scheduled: ScheduledTemplate, plan: PlanEngagement, proposing: Proposing): RoleNeed[] {
  const chosen = new Map((plan.roles ?? []).map((choice) => [choice.roleId, choice.personId]));
  const roomFor = roomWithin(scheduled, proposing.today);
  const crew = new Set(scheduled.load.people.map(({ id }) => id));
  return rolesOf(scheduled.template.tasks).map(({ roleId, role, tasks: all }): RoleNeed => {
    // What somebody in particular does is not up to the one chosen for its role.
    const tasks = all.filter(({ personId }) => personId === null || !crew.has(personId));
    const minutes = tasks.reduce((sum, task) => sum + minutesOf(task, scheduled.load.defaultMinutes), 0);
    const suggestions = suggestFor(scheduled, { roleId, tasks, minutes, roomFor, ...proposing });
    // Who asks keeps her own role as long as she has the room.
    const own = suggestions.find((suggestion) => suggestion.person.id === proposing.askedBy && !suggestion.isFull);
    const there = scheduled.source.people.get(roleId);
    const wanted = chosen.has(roleId) ? chosen.get(roleId) : (there ?? (own ?? suggestions[0])?.person.id);
    const person = scheduled.load.people.find((candidate) => candidate.id === wanted);
    if (wanted !== undefined && wanted !== null && person === undefined) {
      throw new Refusal('unknown-id', `Nobody on the crew has the id chosen for ${role}. Choose from the list.`, { field: 'roles' });
    }
    if (person !== undefined && !person.roleIds.includes(roleId)) throw notHeld(person.name, role);
    return { roleId, role, tasks: tasks.length, minutes, chosen: person === undefined ? null : refOf(person), suggestions };
  });
}

/** A role counts only if it is held. */
export const notHeld = (name: string, role: string): Refusal =>
  new Refusal('invalid-input', `${name} does not hold the role ${role}. Choose somebody who does, or add the role under Crew.`, {
    field: 'roles',
  });

/** What a task counts in the load. */
const minutesOf = (task: TemplateTaskDocument, defaultMinutes: number): number =>
  isWork(task) ? (task.estimateMinutes ?? defaultMinutes) : 0;

/** The roles in the order in which their first task starts in the template. */
function rolesOf(tasks: readonly TemplateTaskDocument[]): { roleId: string; role: string; tasks: TemplateTaskDocument[] }[] {
  const groups = new Map<string, { roleId: string; role: string; tasks: TemplateTaskDocument[] }>();
  for (const task of tasks) {
    if (task.roleId === null || task.isGroup) continue;
    const group = groups.get(task.roleId) ?? { roleId: task.roleId, role: task.role ?? '', tasks: [] };
    group.tasks.push(task);
    groups.set(task.roleId, group);
  }
  return [...groups.values()];
}

/** Work its own days have no room for falls behind them: this far is looked. */
const BEHIND_DAYS = 60;

type AskForRoom = (tasks: readonly TemplateTaskDocument[], people: readonly string[]) => readonly Room[];

/** Who has room for tasks of the template on their days, over what everybody has to do meanwhile, worked out once for all roles. */
function roomWithin(scheduled: ScheduledTemplate, today: IsoDay): AskForRoom {
  const from = laterOf(scheduled.start, today);
  const last = [...scheduled.schedule.tasks.map(({ finish }) => finish), from].sort().at(-1) as IsoDay;
  const ask = unwrap(openRooms(toLoadInput(scheduled.load, { today, from, to: addDays(last, BEHIND_DAYS) })));
  return (tasks, people) => unwrap(ask(loadTasksOf(scheduled, tasks), people));
}

interface RoleQuestion extends Proposing {
  readonly roomFor: AskForRoom;
  readonly roleId: string;
  readonly tasks: readonly TemplateTaskDocument[];
  readonly minutes: number;
}

function suggestFor(scheduled: ScheduledTemplate, question: RoleQuestion): Suggestion[] {
  const holders = scheduled.load.people.filter((person) => person.roleIds.includes(question.roleId));
  const rooms = question.roomFor(
    question.tasks,
    holders.map(({ id }) => id),
  );
  const candidates = rooms.map((room) => ({ ...room, pastEngagements: question.known.get(room.id) ?? 0 }));
  return suggestPeople(candidates, question.minutes).map(({ id, ...reason }) => ({
    person: refOf(holders.find((person) => person.id === id) as PersonRef),
    ...reason,
  }));
}

const laterOf = (left: IsoDay, right: IsoDay): IsoDay => (left > right ? left : right);

/** Effort by role, the most first; what has no role is told too. */
function effortByRole(tasks: readonly TemplateTaskDocument[]): DryRun['effortByRole'] {
  const sums = new Map<string, number>();
  for (const task of tasks) {
    if (task.estimateMinutes === null || task.estimateMinutes === 0) continue;
    const role = task.role ?? 'No role';
    sums.set(role, (sums.get(role) ?? 0) + task.estimateMinutes);
  }
  return [...sums].map(([role, minutes]) => ({ role, minutes })).sort((left, right) => right.minutes - left.minutes);
}

function renderDryRun(scheduled: ScheduledTemplate, roles: readonly RoleNeed[], today: IsoDay): Omit<DryRun, 'late'> {
  const { template, schedule: plan } = scheduled;
  const leaves = template.tasks.filter((task) => !task.isGroup);
  const dated = new Map(plan.tasks.map((task) => [task.id, task]));
  const phaseDates = new Map(plan.phases.map((phase) => [phase.id, phase]));
  const titleOf = new Map(template.tasks.map((task) => [task.id, task.title]));
  const named = new Map(scheduled.load.people.map((person) => [person.id, refOf(person)]));
  const calendar = unwrap(compileCalendar(scheduled.calendar));
  return {
    template: {
      id: template.id,
      kind: template.kind,
      name: template.name,
      description: template.description,
      version: template.version,
      usedTimes: template.usedTimes,
      isChanged: template.isChanged,
    },
    copyOf: scheduled.source.copyOf,
    notes: scheduled.source.notes,
    start: scheduled.start,
    finish: plan.finish,
    promise: scheduled.promise,
    closedDays: scheduled.calendar.closed.filter(
      (day) => day >= scheduled.start && day <= plan.finish && isWeekdayWorked(scheduled.calendar, day),
    ).length,
    effortMinutes: leaves.reduce((sum, task) => sum + (task.estimateMinutes ?? 0), 0),
    unestimated: {
      tasks: leaves.filter((task) => isWork(task) && task.estimateMinutes === null).length,
      minutesEach: scheduled.load.defaultMinutes,
    },
    effortByRole: effortByRole(leaves),
    phases: template.phases.map((phase) => {
      const dates = phaseDates.get(phase.id) as { start: IsoDay; finish: IsoDay };
      const workingDays = workingDaysBetween(calendar, parseDay(dates.start) as number, (parseDay(dates.finish) as number) + 1);
      const { id, name, role, roleId, stateLine, rounds } = phase;
      const checks = phase.checks as TemplatePhaseView['checks'];
      return { id, name, role, roleId, stateLine, rounds, checks, start: dates.start, finish: dates.finish, workingDays };
    }),
    tasks: template.tasks.map((task) => {
      const dates = dated.get(task.id) as { start: IsoDay; finish: IsoDay; slack: number };
      const { id, phaseId, parentId, isGroup, title, deliverable, roleId, role, estimateMinutes, days, steps, anchor } = task;
      return {
        ...{ id, phaseId, parentId, isGroup, title, deliverable, roleId, role, estimateMinutes, days, steps, anchor },
        kind: task.kind as TaskKind,
        person: named.get(task.personId ?? '') ?? null,
        after: task.after.map((dependency) => ({ ...dependency, title: titleOf.get(dependency.taskId) ?? '' })),
        start: dates.start,
        finish: dates.finish,
        slack: dates.slack,
      };
    }),
    conflicts: plan.conflicts.map((conflict) => ({ taskId: conflict.task, title: titleOf.get(conflict.task) ?? '', days: conflict.days })),
    roles,
    overloads: overloadsOf(scheduled, roles, today),
  };
}

/** What the crew does: not the client's part, and no mere day. */
const isWork = ({ kind }: TemplateTaskDocument): boolean => kind !== 'client' && kind !== 'milestone';

const isWeekdayWorked = (calendar: CalendarInput, day: IsoDay): boolean => (calendar.week[weekdayOf(parseDay(day) as number)] ?? 0) > 0;

/** Whom the whole of it would put over, were the proposed people to take it. */
function overloadsOf(scheduled: ScheduledTemplate, roles: readonly RoleNeed[], today: IsoDay): DryRun['overloads'] {
  const window = { today, from: laterOf(scheduled.start, today), to: laterOf(scheduled.schedule.finish, today) };
  const before = toLoadInput(scheduled.load, window);
  const people = new Map(scheduled.load.people.map((person) => [person.id, person]));
  return newOverloads(before, { ...before, tasks: [...before.tasks, ...scheduledWork(scheduled, roles)] }).map(({ personId, ...over }) => ({
    person: refOf(people.get(personId) as PersonRef),
    ...over,
  }));
}

/**
 * Who does a task once it is made, by id: the one it names, else the one chosen for its role; then the
 * people who help, and those of the roles that help. The client's own is done by nobody of the crew, a task with subtasks by those
 * who do its parts, unless somebody answers for the whole of it.
 */
export function doersOf(
  task: TemplateTaskDocument,
  { chosen, crew }: { readonly chosen: ReadonlyMap<string, string | null | undefined>; readonly crew: readonly { readonly id: string }[] },
): string[] {
  if (task.kind === 'client') return [];
  const named = crew.some(({ id }) => id === task.personId) ? task.personId : null;
  if (task.isGroup) return named === null ? [] : [named];
  const first = named ?? (task.roleId === null ? null : chosen.get(task.roleId));
  const helpers = [
    ...task.helperPersonIds.filter((helper) => crew.some(({ id }) => id === helper)),
    ...task.helperRoleIds.map((roleId) => chosen.get(roleId)),
  ];
  return [...new Set([first, ...helpers].flatMap((id) => id ?? []))];
}

/** The work of a scheduled template as the load takes it, split among those who will do it; what nobody does is left out. */
export function scheduledWork(scheduled: ScheduledTemplate, roles: readonly RoleNeed[]): LoadTaskInput[] {
  const chosen = new Map(roles.map((role) => [role.roleId, role.chosen?.id]));
  const crew = scheduled.load.people;
  const doers = new Map(scheduled.template.tasks.map((task) => [`${TRIED}${task.id}`, doersOf(task, { chosen, crew })]));
  return loadTasksOf(scheduled, scheduled.template.tasks.filter(isWork)).flatMap((work) => {
    const people = doers.get(work.id) ?? [];
    return people.length === 0 ? [] : [{ ...work, assignees: people.map((person) => ({ person })) }];
  });
}

/** The work of one role as the load takes it, on nobody yet. */
export const workOfRole = (scheduled: ScheduledTemplate, roleId: string): LoadTaskInput[] =>
  loadTasksOf(
    scheduled,
    scheduled.template.tasks.filter((task) => isWork(task) && task.roleId === roleId),
  );

/** Tasks of a scheduled template as the load takes them, on nobody yet; what is no work of the crew has days and no hours. */
function loadTasksOf({ schedule: plan }: ScheduledTemplate, tasks: readonly TemplateTaskDocument[]): LoadTaskInput[] {
  const dated = new Map(plan.tasks.map((task) => [task.id, task]));
  return tasks.flatMap((task) => {
    const dates = dated.get(task.id);
    if (dates === undefined || task.isGroup) return [];
    const minutes = isWork(task) ? task.estimateMinutes : 0;
    const estimate = minutes === null ? {} : { estimate: minutes };
    // A task of an engagement may be computed anew beside itself: it must not be taken for the same one.
    return [{ id: `${TRIED}${task.id}`, assignees: [], start: dates.start, due: dates.finish, ...estimate }];
  });
}

/** No task of the database is called like this. */
export const TRIED = 'tried ';
