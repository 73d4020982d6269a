import { randomUUID } from 'node:crypto';
import { slotWords, type RuleDay, type TaskChange, type WhichPhase } from '@crew/contract';
import { addWorkingDays, formatDay, parseDay, type IsoDay } from '@crew/core';
import { firstRow, rowsOf } from '../../platform/database.ts';
import { Refusal } from '../../platform/refusal.ts';
import { isOpen } from '../../platform/sql-words.ts';
import type { ChangePlan, OpenPlan } from '../../plan-change/change-plan.ts';
import { decisionTask } from '../../plan-change/decision-task.ts';
import type { AddFromLibrary } from '../../template/add-from-library.ts';
import type { TaskValues } from '../../task/task-fields.ts';
import type { NewTask } from '../../task/task-images.ts';
import { findPeople, findPhase, type PhaseFound } from '../places.ts';
import { nothing, slotOf, type Asked, type CarryOutEffect, type Outcome } from './types.ts';

/** The task of the event, if it is still there. */
interface TaskNow {
  readonly version: number;
  readonly title: string;
  readonly status: string;
  readonly labels: readonly string[];
  readonly priority: string;
  readonly assigneeIds: readonly string[];
  readonly own: readonly { readonly fieldId: string; readonly value: unknown }[];
}

const TASK = `SELECT t.version, t.title, t.status, t.labels, t.priority, t.custom_fields AS own,
    ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id) AS "assigneeIds" FROM task t WHERE t.id = $1 AND NOT t.is_group`;

/** Effects on plans: changes like any other, by the one way to change a plan. */
export class TaskEffects {
  private readonly plans: ChangePlan;
  private readonly library: AddFromLibrary;
  constructor(plans: ChangePlan, library: AddFromLibrary) {
    this.plans = plans;
    this.library = library;
  }

  readonly assign: CarryOutEffect = async (asked) => {
    const { chosen } = asked;
    if (chosen === null) return nothing('There was nobody to assign.');
    const isSo = ({ assigneeIds }: TaskNow): boolean => assigneeIds.length === 1 && assigneeIds[0] === chosen.id;
    return this.changeTask(asked, (task) => (isSo(task) ? null : { assigneeIds: [chosen.id] }), `Assigned to ${chosen.name}.`);
  };

  readonly moveTask: CarryOutEffect = (asked) => {
    const days = slotOf(asked, 'shift', 'days');
    return this.changeTask(asked, () => ({ shiftDays: days }), `Moved it ${shiftWords(days)}.`);
  };

  readonly setStatus: CarryOutEffect = (asked) => {
    const status = slotOf(asked, 'status', 'status');
    return this.changeTask(asked, (task) => (task.status === status ? null : statusTo(status)), 'Set its status.');
  };

  readonly setPriority: CarryOutEffect = (asked) => {
    const priority = slotOf(asked, 'priority', 'priority');
    return this.changeTask(asked, (task) => (task.priority === priority ? null : { priority }), 'Set its priority.');
  };

  readonly addLabel: CarryOutEffect = (asked) => {
    const label = slotOf(asked, 'label', 'label').trim();
    return this.changeTask(
      asked,
      ({ labels }) => (labels.includes(label) ? null : { labels: [...labels, label] }),
      `Added the label “${label}”.`,
    );
  };

  readonly setField: CarryOutEffect = (asked) => {
    const { fieldId, value } = slotOf(asked, 'field', 'field');
    return this.changeTask(
      asked,
      ({ own }) => {
        const filled = { fieldId, value };
        const customFields = own.some((field) => field.fieldId === fieldId)
          ? own.map((field) => (field.fieldId === fieldId ? filled : field))
          : [...own, filled];
        return { customFields: customFields as TaskChange['customFields'] };
      },
      'Filled in the field.',
    );
  };

  readonly assignPhase: CarryOutEffect = async (asked) => {
    const { manager, event, chosen } = asked;
    if (chosen === null) return nothing('There was nobody to assign.');
    const phase = await findPhase(manager, event, slotOf(asked, 'place', 'phase'));
    const sql = `SELECT t.id, t.version FROM task t WHERE t.phase_id = $1 AND NOT t.is_group AND t.kind <> 'client' AND ${isOpen('t')}
      AND ($2::uuid IS NULL OR t.role_id = $2) ORDER BY t.number`;
    const tasks = await rowsOf<{ id: string; version: number }>(manager, sql, [phase.id, chosen.roleId]);
    if (tasks.length === 0) return nothing(`${phase.name} has no open tasks for them.`);
    await this.change(
      asked,
      tasks.map((task): TaskChange => ({ ...task, assigneeIds: [chosen.id] })),
    );
    return { said: `Assigned ${countOf(tasks.length)} of ${phase.name} to ${chosen.name}.` };
  };

  readonly movePhase: CarryOutEffect = async (asked) => {
    const { manager, event } = asked;
    const days = slotOf(asked, 'shift', 'days');
    const phase = await findPhase(manager, event, slotOf(asked, 'place', 'phase'));
    // Those that wait for another of the phase move behind it.
    const sql = `SELECT t.id, t.version FROM task t WHERE t.phase_id = $1 AND NOT t.is_group AND ${isOpen('t')} AND NOT EXISTS (
      SELECT 1 FROM task_dependency d JOIN task o ON o.id = d.predecessor_id WHERE d.successor_id = t.id AND o.phase_id = t.phase_id) ORDER BY t.number`;
    const tasks = await rowsOf<{ id: string; version: number }>(manager, sql, [phase.id]);
    if (tasks.length === 0) return nothing(`${phase.name} has no open tasks.`);
    await this.change(
      asked,
      tasks.map((task): TaskChange => ({ ...task, shiftDays: days })),
    );
    return { said: `Moved ${phase.name} ${shiftWords(days)}.` };
  };

  readonly makeTask: CarryOutEffect = async (asked) => {
    const { manager, event, chosen } = asked;
    const phase = await findPhase(manager, event, slotOf(asked, 'place', 'phase'));
    const title = slotOf(asked, 'title', 'title').trim();
    const day = slotOf(asked, 'day', 'day');
    await this.add(asked, (open) => ({
      title,
      phaseId: phase.id,
      roleId: chosen?.roleId ?? null,
      ...placedOn(day, { open, phase }),
      ...{ assigneeIds: chosen === null ? [] : [chosen.id] },
    }));
    const name = chosen === null ? '' : ` for ${chosen.name}`;
    return { said: `Added “${title}” to ${phase.name}${name}.` };
  };

  /** With all the library presets, but on the day the rule says. */
  readonly addSavedTask: CarryOutEffect = async (asked) => {
    const { manager, who, event, chosen } = asked;
    const phase = await findPhase(manager, event, slotOf(asked, 'place', 'phase'));
    const day = slotOf(asked, 'day', 'day');
    const input = { templateId: slotOf(asked, 'saved-task', 'item'), phaseId: phase.id };
    const titles: string[] = [];
    await this.library.apply(manager, who, {
      ...{ engagementId: event.engagementId as string, input },
      adapt: (task, open) => {
        titles.push(task.values.title);
        return {
          ...task,
          // What follows another of its tasks stays behind that.
          values: { ...task.values, ...((task.after ?? []).length > 0 ? {} : placedOn(day, { open, phase })) },
          ...(chosen === null ? {} : { assignees: [{ personId: chosen.id }] }),
        };
      },
    });
    return { said: `Added “${titles[0] ?? ''}” from the library to ${phase.name}${chosen === null ? '' : ` for ${chosen.name}`}.` };
  };

  readonly askDecision: CarryOutEffect = async (asked) => {
    const { manager, event, who } = asked;
    const people = await findPeople(manager, event, { agencyId: who.agencyId, somebody: slotOf(asked, 'who', 'whom') });
    if (people.length === 0) return nothing('There was nobody to ask.');
    const personIds = people.map(({ id }) => id);
    await this.decide(asked, { text: slotOf(asked, 'title', 'text').trim(), personIds, phase: { by: 'this' } });
    return { said: `Asked ${people.map(({ name }) => name).join(', ')}.` };
  };

  /** A task for those who have to decide something, from today. */
  async decide(
    asked: Asked,
    { text, personIds, phase }: { readonly text: string; readonly personIds: readonly string[]; readonly phase: WhichPhase },
  ): Promise<void> {
    const { id: phaseId } = await findPhase(asked.manager, asked.event, phase);
    await this.addTask(asked, (open) => decisionTask(open, { text, personIds, phaseId }));
  }

  private async changeTask(
    asked: Asked,
    changeOf: (task: TaskNow) => Omit<TaskChange, 'id' | 'version'> | null,
    said: string,
  ): Promise<Outcome> {
    const task = await firstRow<TaskNow>(asked.manager, TASK, [asked.event.subjectId]);
    if (task === null) throw new Refusal('wrong-moment', 'The task is gone, or its subtasks decide this now.');
    const change = changeOf(task);
    if (change === null) return nothing('It was already set.');
    await this.change(asked, [{ id: asked.event.subjectId, version: task.version, ...change }]);
    return { said };
  }

  private change({ manager, who, event }: Asked, tasks: TaskChange[]): Promise<unknown> {
    return this.plans.applyChanges(manager, who, { engagementId: event.engagementId as string, tasks });
  }

  private add(asked: Asked, valuesOf: (open: OpenPlan) => NewValues): Promise<void> {
    return this.addTask(asked, (open) => {
      const { assigneeIds, ...values } = valuesOf(open);
      return { id: randomUUID(), values, assignees: assigneeIds.map((personId) => ({ personId })) };
    });
  }

  private async addTask({ manager, who, event }: Asked, taskOf: (open: OpenPlan) => NewTask): Promise<void> {
    const open = await this.plans.open(manager, who, event.engagementId as string);
    await this.plans.apply(manager, who, { open, edit: { operations: [{ kind: 'add-tasks', tasks: [taskOf(open)] }] } });
  }
}

type NewValues = Pick<TaskValues, 'title' | 'phaseId'> & Partial<TaskValues> & { readonly assigneeIds: readonly string[] };

const statusTo = (status: TaskChange['status'] & string): Omit<TaskChange, 'id' | 'version'> =>
  status === 'waiting' ? { status, waitingOn: 'colleague' } : { status };

/**
 * Where a day puts a new task. Behind the start of its phase, or before its finish, it follows the phase;
 * elsewhere it stays on the day counted now, never before today.
 */
function placedOn({ days, from }: RuleDay, { open, phase }: { readonly open: OpenPlan; readonly phase: PhaseFound }): Partial<TaskValues> {
  if (from === 'phase-start' && days >= 0) return { anchor: { anchor_at: 'phase-start', anchor_offset: days } };
  if (from === 'phase-finish' && days <= 0) return { anchor: { anchor_at: 'before-phase-end', anchor_offset: -days } };
  const edge = from === 'phase-start' ? phase.start : from === 'phase-finish' ? phase.finish : open.today;
  const day = workingDay({ ...open, today: edge }, days);
  const on = day < open.today ? open.today : day;
  // A task starts with its phase at the earliest, unless it is fixed to a day.
  return on < phase.start ? { fixedDay: on, mayStartEarly: true } : { notBefore: on, mayStartEarly: true };
}

const workingDay = ({ calendar, today }: Pick<OpenPlan, 'calendar' | 'today'>, days: number): IsoDay =>
  formatDay(addWorkingDays(calendar, parseDay(today) as number, days));

const shiftWords = (days: number): string => slotWords({ kind: 'shift' }, days, {});

const countOf = (count: number): string => `${count} ${count === 1 ? 'task' : 'tasks'}`;
