import type { INestApplicationContext } from '@nestjs/common';
import {
  addWorkingDays,
  compileCalendar,
  formatDay,
  parseDay,
  schedule,
  workingDaysBetween,
  type Calendar,
  type CustomFieldEntry,
  type IsoDay,
} from '@crew/core';
import { can, type CommandName, type EditTask, type EngagementPlan, type PlanTask } from '@crew/contract';
import { EngagementRepository } from '../engagement/engagement.repository.ts';
import { StartEngagement } from '../engagement/start-engagement.ts';
import { HandoffRepository } from '../handoff/handoff.repository.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { parseJson } from '../platform/json.ts';
import { unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { RunCommand, type Command } from '../platform/run-command.ts';
import { settleRules } from './rules.ts';
import { toSchedule } from '../template/cut-template.ts';
import { DryRunTemplate } from '../template/dry-run.ts';
import type { DemoEngagement } from './engagements.ts';
import { writePastWork, type PastDeed } from './past-work.ts';

/** Who is who in the demo, by name. */
export interface Cast {
  readonly who: ReadonlyMap<string, Who>;
  readonly whoById: ReadonlyMap<string, Who>;
  readonly roleIds: ReadonlyMap<string, string>;
  readonly clientIds: ReadonlyMap<string, string>;
  readonly contactIds: ReadonlyMap<string, string>;
  readonly templateIds: ReadonlyMap<string, string>;
}

/** What every engagement of the demo is lived through in. */
export interface World {
  readonly cast: Cast;
  readonly today: IsoDay;
  readonly week: number[];
  readonly closed: IsoDay[];
  /** The studio has worked by rules from this day on. */
  readonly rulesSince: IsoDay;
}

/** What somebody does to a task on a day; `finish` fills in its custom fields, ticks its steps and is done with it. */
type Work =
  | { readonly kind: 'status'; readonly change: Pick<EditTask, 'status' | 'waitingOn'> }
  | { readonly kind: 'time'; readonly minutes: number }
  | { readonly kind: 'finish' };

interface Deed {
  readonly day: IsoDay;
  readonly order: number;
  readonly who: Who;
  readonly task: PlanTask;
  readonly work: Work;
  /** Somebody of ours starts to work on a task. */
  readonly isBeginning?: boolean;
}

/** When in the day something of each order is done: beginning, logging time, finishing, a milestone. */
const TIMES = ['09:10', '12:30', '15:25', '15:30'] as const;

/** When somebody picks up what was handed off the day before. */
const PICK_UP_TIMES = ['09:25', '10:15', '11:40', '13:30', '15:50'];

/**
 * Lives through an engagement phase by phase up to today, by the same use cases people call: starts
 * it, works, logs time, confirms checks, hands off, picks up. So the demo cannot be in a state the
 * product could not reach. The work of a phase is written at once, as those use cases would have left
 * it (see `writePastWork`).
 */
export class EngagementLife {
  private readonly spec: DemoEngagement;
  private readonly cast: Cast;
  private readonly today: IsoDay;
  private readonly rulesSince: IsoDay;
  private readonly clock: Clock;
  private readonly calendar: Calendar;
  private readonly app: INestApplicationContext;
  private engagementId = '';

  constructor(app: INestApplicationContext, spec: DemoEngagement, world: World) {
    this.app = app;
    this.spec = spec;
    this.cast = world.cast;
    this.today = world.today;
    this.rulesSince = world.rulesSince;
    this.clock = app.get(Clock);
    this.calendar = unwrap(compileCalendar({ week: world.week, closed: world.closed }));
  }

  private get lead(): Who {
    return this.cast.who.get(this.spec.lead) as Who;
  }

  /** From the first day to today. */
  async live(): Promise<void> {
    const start = await this.findStart();
    this.moveTo(start.day, '09:05');
    const { likelihood, name, client, people } = this.spec;
    const roles = Object.entries(people).map(([role, person]) => ({
      roleId: this.cast.roleIds.get(role) as string,
      personId: person === null ? null : ((this.cast.who.get(person) as Who).personId as string),
    }));
    const contactId = this.cast.contactIds.get(client);
    const { id } = await this.app.get(StartEngagement).run(this.lead, {
      templateId: this.cast.templateIds.get(this.spec.template) as string,
      clientId: this.cast.clientIds.get(client) as string,
      ...(contactId === undefined ? {} : { contactId }),
      name,
      start: start.day,
      promise: start.promise,
      roles,
      ...(likelihood === undefined ? {} : { likelihood }),
    });
    await this.liveOn(id);
  }

  /** From the first day of one that is there to today. */
  async liveOn(engagementId: string): Promise<void> {
    this.engagementId = engagementId;
    for (let index = 0; ; index++) {
      const goesOn = await this.livePhase(index);
      if (!goesOn) return settleRules(this.app);
      await this.settleNow();
    }
  }

  /** The first day that puts the engagement where it should stand today, and the promise with its spare days. */
  private async findStart(): Promise<{ day: IsoDay; promise: IsoDay }> {
    const { stand } = this.spec;
    const templateId = this.cast.templateIds.get(this.spec.template) as string;
    const {
      template,
      schedule: plan,
      calendar,
    } = await this.app.get(DryRunTemplate).schedule(this.app.get(Database).manager, this.lead, { templateId, start: this.today });
    const now = parseDay(this.today) as number;
    const first = parseDay(plan.phases[0]?.start ?? this.today) as number;
    const index = 'phase' in stand ? template.phases.findIndex(({ name }) => name === stand.phase) : template.phases.length - 1;
    const phase = plan.phases[index];
    if (phase === undefined) throw new Error(`${this.spec.name}: no such phase`);
    const begins = workingDaysBetween(this.calendar, first, parseDay(phase.start) as number);
    const ends = workingDaysBetween(this.calendar, first, (parseDay(phase.finish) as number) + 1);
    const gone = stand.kind === 'running' ? Math.round(begins + stand.gone * (ends - begins)) : ends - 1 + stand.daysAgo;
    const day = formatDay(addWorkingDays(this.calendar, now, -gone));
    const finish = parseDay(unwrap(schedule({ ...toSchedule(template, calendar, {}), start: day })).finish) as number;
    return { day, promise: formatDay(addWorkingDays(this.calendar, finish, this.spec.spare)) };
  }

  private async plan(): Promise<EngagementPlan> {
    const engagements = this.app.get(EngagementRepository);
    const plan = await engagements.findPlan(this.lead, this.engagementId, this.clock.today());
    if (plan === null) throw new Error('the engagement vanished');
    return parseJson(plan);
  }

  /** Works through one phase; true when the next one has begun. */
  private async livePhase(index: number): Promise<boolean> {
    const plan = await this.plan();
    const phase = plan.phases[index];
    if (phase === undefined) return false;
    // Tasks with subtasks follow them.
    const tasks = plan.tasks.filter((task) => task.phaseId === phase.id && !task.isGroup);
    const isLast = this.spec.stand.kind !== 'finished' && phase.name === this.spec.stand.phase;
    const deeds = tasks
      .flatMap((task) => this.deedsOf(task, { isLast, until: phase.finish }))
      .sort((left, right) => left.day.localeCompare(right.day) || left.order - right.order);
    // It is the morning of today: what is to begin today lies ready, and nobody has begun it.
    const past = deeds.filter(({ day, isBeginning }) => day < this.today || (day === this.today && isBeginning !== true));
    await this.work(past);
    if (isLast && this.spec.stand.kind === 'running') return false;
    return this.pass(phase, isLast);
  }

  /** What happens to a task: begun on its day, worked on daily, done on its last day; the client's wait first. */
  private deedsOf(task: PlanTask, { isLast, until }: { readonly isLast: boolean; readonly until: IsoDay }): Deed[] {
    const who = this.cast.whoById.get(task.assignees[0]?.id ?? '') ?? this.lead;
    const held = isLast && this.spec.stand.kind === 'running' && this.spec.stand.held === true && task.kind === 'client';
    const isLeft = isLast && this.spec.stand.kind === 'running' && (this.spec.stand.left ?? []).includes(task.title);
    const begin: Deed = {
      day: task.start,
      order: 0,
      isBeginning: task.kind !== 'client',
      ...{ who, task },
      work: { kind: 'status', change: task.kind === 'client' ? { status: 'waiting', waitingOn: 'client' } : { status: 'active' } },
    };
    if (task.kind === 'milestone')
      return [{ day: task.due, order: 3, who: this.lead, task, work: { kind: 'status', change: { status: 'done' } } }];
    const isOver = task.due < this.today || this.spec.stand.kind === 'handed-off' || this.spec.stand.kind === 'sent-back' || !isLast;
    const done: Deed[] =
      isOver && !held && !isLeft
        ? [
            {
              day: this.spec.stand.kind === 'finished' ? this.dayDone(task, until) : task.due,
              order: 2,
              who,
              task,
              work: { kind: 'finish' },
            },
          ]
        : [];
    // An order that is late waits on its supplier.
    const waits: Deed[] =
      isLeft && task.kind === 'order'
        ? [{ day: task.due, order: 2, who, task, work: { kind: 'status', change: { status: 'waiting', waitingOn: 'supplier' } } }]
        : [];
    return [begin, ...(task.kind === 'client' ? [] : this.timesOf(task, who)), ...waits, ...done];
  }

  private timesOf(task: PlanTask, who: Who): Deed[] {
    const days = this.workingDays(task);
    const minutes = Math.round(((task.estimateMinutes ?? 120) * shareFor(this.spec.name, task.title)) / 100);
    if (minutes < days.length) return [];
    const each = Math.floor(minutes / days.length / 5) * 5;
    if (each < 5) return [];
    return days
      .filter((day) => day < this.today)
      .map((day): Deed => ({ day, order: 1, who, task, work: { kind: 'time', minutes: Math.min(each, 600) } }));
  }

  private async work(deeds: readonly Deed[]): Promise<void> {
    const fields = await this.filledIn(deeds.filter(({ work }) => work.kind === 'finish').map(({ task }) => task));
    const done = deeds.flatMap(({ day, order, who, task, work }): PastDeed[] => {
      this.moveTo(day, TIMES[order] as string);
      const about = { taskId: task.id, day, at: this.clock.now() };
      if (work.kind !== 'finish') return [{ ...about, who, ...work }];
      const customFields = fields.get(task.id);
      return [
        ...(customFields === undefined ? [] : [{ ...about, who: this.editorFor(who), kind: 'fields', customFields } as const]),
        { ...about, who, kind: 'steps' },
        { ...about, who, kind: 'status', change: { status: 'done' } },
      ];
    });
    await writePastWork(this.app.get(Database), this.engagementId, done);
  }

  /** Work takes about as long as planned, some kinds always a little longer; never beyond the phase, which was handed off in time. */
  private dayDone(task: PlanTask, until: IsoDay): IsoDay {
    const planned = this.workingDays(task).length;
    const lasts = Math.max(1, Math.round((planned * shareFor(this.spec.name, task.title)) / 100));
    const day = formatDay(addWorkingDays(this.calendar, parseDay(task.start) as number, lasts - 1));
    return day < until ? day : until < task.due ? task.due : until;
  }

  private workingDays(task: PlanTask): IsoDay[] {
    const first = parseDay(task.start) as number;
    const count = workingDaysBetween(this.calendar, first, (parseDay(task.due) as number) + 1);
    return Array.from({ length: Math.max(1, count) }, (_, index) => formatDay(addWorkingDays(this.calendar, first, index)));
  }

  /** The custom fields of tasks that have any, with what is open filled in as far as it is known by then. */
  private async filledIn(tasks: readonly PlanTask[]): Promise<ReadonlyMap<string, CustomFieldEntry[]>> {
    const sql = `SELECT t.id, t.due_day AS due, t.custom_fields AS "customFields",
      (SELECT json_object_agg(f.id, f.name) FROM custom_field f WHERE f.agency_id = t.agency_id) AS names
      FROM task t WHERE t.id = ANY($1) AND t.custom_fields <> '[]'`;
    type Row = { id: string; due: IsoDay; customFields: CustomFieldEntry[]; names: Record<string, string> };
    const rows = await this.app.get(Database).rows<Row>(sql, [tasks.map(({ id }) => id)]);
    return new Map(
      rows.map(({ id, due, customFields, names }) => {
        const known: Readonly<Record<string, CustomFieldEntry['value']>> = {
          'Print size': '841 × 1189 mm, portrait',
          'Print run': 1 + (hashOf(`${this.spec.name} run`) % 30),
          'Proof back on': due,
          'Signed off by': this.lead.personId,
          Recordings: 'https://files.quillmarsh.example/recordings',
        };
        return [id, customFields.map(({ fieldId, value }) => ({ fieldId, value: value ?? known[names[fieldId] ?? ''] ?? null }))];
      }),
    );
  }

  private editorFor(who: Who): Who {
    return can(who, 'plan.edit') ? who : this.lead;
  }

  /** Hands the phase off and, unless it stops here, lets the receiver pick it up on the next phase's first day. */
  private async pass(phase: EngagementPlan['phases'][number], isLast: boolean): Promise<boolean> {
    const { stand } = this.spec;
    const { lastDay, nextDay, hasNext } = await this.joint(phase.id);
    const isFarApart = workingDaysBetween(this.calendar, parseDay(lastDay) as number, parseDay(nextDay) as number) > 3;
    const day = isFarApart ? formatDay(addWorkingDays(this.calendar, parseDay(nextDay) as number, -1)) : lastDay;
    if (day > this.today) return false;
    this.moveTo(day, '15:40');
    const id = phase.handoffId as string;
    await this.confirmChecks(id);
    await settleRules(this.app);
    const ready = await this.line(id);
    const giver = this.cast.whoById.get(ready.giver?.id ?? '') ?? this.lead;
    const words = stand.kind === 'handed-off' || stand.kind === 'sent-back' ? (isLast ? stand.words : '') : '';
    const sender = can(giver, 'handoff.hand-off') ? giver : this.lead;
    await this.does(sender, { name: 'handoff.hand-off', target: id, input: { version: ready.version, words } });
    await this.settleNow();
    const { version, receiver: to } = await this.line(id);
    const receiver = this.cast.whoById.get(to?.id ?? '') as Who;
    if (isLast && stand.kind === 'handed-off') return false;
    if (isLast && stand.kind === 'sent-back') {
      const asked = formatDay(addWorkingDays(this.calendar, parseDay(this.today) as number, -stand.daysAgo));
      // Never before it was handed off.
      this.moveTo(...((asked > day ? [asked, '11:20'] : [day, '16:50']) as [IsoDay, string]));
      await this.does(receiver, { name: 'handoff.send-back', target: id, input: { version, question: stand.question } });
      return false;
    }
    if (nextDay > this.today) return false;
    // Never before it was handed off; on another day sooner or later, as people come to it.
    this.moveTo(
      nextDay,
      nextDay === day ? '16:30' : (PICK_UP_TIMES[(this.spec.name.length + phase.name.length) % PICK_UP_TIMES.length] as string),
    );
    await this.does(can(receiver, 'handoff.receive') ? receiver : this.lead, { name: 'handoff.pick-up', target: id, input: { version } });
    return hasNext;
  }

  /** The last day of a phase's tasks, and the first of the phase that has not begun yet; of the last phase they are the same. */
  private async joint(phaseId: string): Promise<{ readonly lastDay: IsoDay; readonly nextDay: IsoDay; readonly hasNext: boolean }> {
    const sql = `SELECT max(t.due_day) AS "lastDay", (SELECT p.planned_start FROM phase p
      WHERE p.engagement_id = $2 AND p.state = 'ahead' ORDER BY p.position LIMIT 1) AS "nextDay" FROM task t WHERE t.phase_id = $1`;
    const row = await this.app.get(Database).row<{ lastDay: IsoDay; nextDay: IsoDay | null }>(sql, [phaseId, this.engagementId]);
    if (row === null) throw new Error('the phase vanished');
    return { lastDay: row.lastDay, nextDay: row.nextDay ?? row.lastDay, hasNext: row.nextDay !== null };
  }

  /** What the queue does a moment later, done now. Before there were rules, notices are all there is, and they can wait. */
  private async settleNow(): Promise<void> {
    if (this.clock.today() >= this.rulesSince) await settleRules(this.app);
  }

  private does<Name extends CommandName>(who: Who, command: Command<Name>): Promise<unknown> {
    return this.app.get(RunCommand).run(who, command);
  }

  /** Past days have office hours; today's time is what it is, because nothing may lie in the future. */
  private moveTo(day: IsoDay, time: string): void {
    if (day < this.today) this.clock.moveTo(day, time);
    else this.clock.moveTo(day);
  }

  private async handoff(id: string) {
    const found = await this.app.get(HandoffRepository).find(this.app.get(Database).manager, this.lead, { id, today: this.clock.today() });
    if (found === null) throw new Error('the handoff vanished');
    return found;
  }

  private async line(id: string) {
    return (await this.handoff(id)).line;
  }

  private async confirmChecks(handoffId: string): Promise<void> {
    for (const check of (await this.handoff(handoffId)).gate)
      if (check.kind === 'word' && !check.isClear)
        await this.does(this.lead, { name: 'check.edit', target: check.id, input: { isClear: true } });
  }
}

/** A number from a text, the same every time. */
function hashOf(text: string): number {
  let hash = 2_166_136_261;
  for (let index = 0; index < text.length; index++) hash = Math.imul(hash ^ text.charCodeAt(index), 16_777_619);
  return hash >>> 0;
}

/** What kinds of work usually take of what is estimated, in percent: most about that, some always more, one less. */
const HABITS = [100, 100, 96, 128, 104, 78, 100, 136];

/** What was really used of an estimate, in percent: the habit of the work, and the luck of the day. */
const shareFor = (engagement: string, title: string): number =>
  Math.round(((HABITS[hashOf(title) % HABITS.length] as number) * (88 + (hashOf(`${engagement} ${title}`) % 27))) / 100);
