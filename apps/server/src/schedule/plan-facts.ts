import { calendarOf } from '../platform/sql-words.ts';
import {
  remainingDays,
  workingDaysBetween,
  compileCalendar,
  parseDay,
  type CalendarInput,
  type ScheduleInput,
  type TaskInput,
  type IsoDay,
} from '@crew/core';
import type { AnchorAt, OutsideState, PhaseState, TaskKind, TaskStatus, PhaseEdge, DependencyType } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import { groupStandings } from './group-standing.ts';

/** What the brief-by date of work done outside is computed from. */
export interface OutsideFacts {
  readonly turnaroundDays: number;
  readonly bufferDays: number;
  readonly neededOn: IsoDay | null;
  readonly state: OutsideState;
  readonly briefBy: IsoDay;
}

/** A task as the planner reads it. */
export interface TaskFacts {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly kind: TaskKind;
  readonly phaseId: string;
  readonly parentId: string | null;
  readonly isGroup: boolean;
  readonly status: TaskStatus;
  readonly days: number;
  readonly anchorAt: AnchorAt;
  readonly anchorOffset: number;
  readonly fixedDay: IsoDay | null;
  readonly notBefore: IsoDay | null;
  /** A repeating task: it is detached, with a day of its own. */
  readonly isDetached: boolean;
  readonly outside: OutsideFacts | null;
  readonly realStart: IsoDay | null;
  readonly doneOn: IsoDay | null;
  readonly startDay: IsoDay;
  readonly dueDay: IsoDay;
  readonly missedDays: number;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly stepsDone: number;
  readonly stepsAll: number;
  readonly waitingOn: string | null;
  readonly waitingSince: IsoDay | null;
  readonly after: readonly { readonly task: string; readonly type: DependencyType; readonly lag: number }[];
}

export interface PhaseFacts {
  readonly id: string;
  readonly name: string;
  readonly state: PhaseState;
  readonly startedOn: IsoDay | null;
  readonly finishedOn: IsoDay | null;
  readonly afterPhaseId: string | null;
  readonly afterEdge: PhaseEdge;
  readonly afterLag: number;
}

/** Everything the core needs to compute one engagement, read in one go. */
export interface PlanFacts {
  readonly engagementId: string;
  readonly agencyId: string;
  readonly startDay: IsoDay;
  readonly promisedDay: IsoDay | null;
  readonly finishDay: IsoDay | null;
  /** Tasks whose status changed since the plan was last computed. */
  readonly pendingTaskIds: readonly string[];
  readonly calendar: CalendarInput;
  readonly phases: readonly PhaseFacts[];
  readonly tasks: readonly TaskFacts[];
}

const FACTS = `
  SELECT e.id AS "engagementId", e.agency_id AS "agencyId", coalesce(s.pending_task_ids, '{}') AS "pendingTaskIds", e.start_day AS "startDay", e.promised_day AS "promisedDay", s.finish_day AS "finishDay",
    ${calendarOf('agency')} AS calendar,
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'state', p.state, 'startedOn', p.started_on, 'finishedOn', p.finished_on,
      'afterPhaseId', p.after_phase_id, 'afterEdge', p.after_edge, 'afterLag', p.after_lag) ORDER BY p.position)
      FROM phase p WHERE p.engagement_id = e.id), '[]') AS phases,
    coalesce((SELECT json_agg(json_build_object('id', t.id, 'number', t.number, 'title', t.title, 'kind', t.kind, 'phaseId', t.phase_id,
      'parentId', t.parent_id, 'isGroup', t.is_group, 'notBefore', t.not_before, 'isDetached', t.series_id IS NOT NULL,
      'outside', CASE WHEN t.outside_maker IS NOT NULL THEN json_build_object('turnaroundDays', t.outside_turnaround, 'bufferDays', t.outside_buffer,
        'neededOn', t.outside_needed_on, 'state', t.outside_state, 'briefBy', t.brief_by) END,
      'status', t.status, 'days', t.days, 'anchorAt', t.anchor_at, 'anchorOffset', t.anchor_offset, 'fixedDay', t.fixed_day,
      'realStart', t.real_start, 'doneOn', t.done_on, 'startDay', t.start_day, 'dueDay', t.due_day, 'missedDays', t.missed_days,
      'estimateMinutes', t.estimate_minutes, 'loggedMinutes', t.logged_minutes, 'stepsDone', t.steps_done, 'stepsAll', t.steps_all,
      'waitingOn', t.waiting_on, 'waitingSince', t.waiting_since,
      'after', coalesce((SELECT json_agg(json_build_object('task', l.predecessor_id, 'type', l.type, 'lag', l.lag) ORDER BY l.predecessor_id)
        FROM task_dependency l WHERE l.successor_id = t.id), '[]')) ORDER BY t.number)
      FROM task t WHERE t.engagement_id = e.id), '[]') AS tasks
  FROM engagement e
  JOIN agency ON agency.id = e.agency_id
  LEFT JOIN engagement_summary s ON s.engagement_id = e.id
  WHERE e.id = $1`;

/** Reads the facts of an engagement; the caller has checked that it may be seen. */
export async function readPlanFacts(manager: EntityManager, engagementId: string): Promise<PlanFacts> {
  const facts = await firstRow<PlanFacts>(manager, FACTS, [engagementId]);
  if (facts === null) throw new Error(`engagement ${engagementId} vanished`);
  return facts;
}

/** The facts as the core's schedule wants them: dropped tasks leave the network, done ones keep their days. */
export function toScheduleInput(facts: PlanFacts, today: IsoDay): ScheduleInput {
  const dropped = droppedIn(facts.tasks);
  const elapsed = daysElapsed(facts.calendar, today);
  const detached = detachedIn(facts.tasks);
  return {
    calendar: facts.calendar,
    start: facts.startDay,
    today,
    ...(facts.promisedDay === null ? {} : { promise: facts.promisedDay }),
    phases: facts.phases.map((phase) => ({
      id: phase.id,
      ...(phase.afterPhaseId === null ? {} : { after: { phase: phase.afterPhaseId, edge: phase.afterEdge, lag: phase.afterLag } }),
      ...actualOf(phase.startedOn, phase.finishedOn),
    })),
    tasks: facts.tasks
      .filter((task) => !dropped.has(task.id))
      .map((task): TaskInput => ({
        id: task.id,
        phase: task.phaseId,
        ...(task.parentId === null ? {} : { parent: task.parentId }),
        ...(task.notBefore === null ? {} : { notBefore: task.notBefore }),
        days: task.days,
        anchor: { at: task.anchorAt, offset: task.anchorOffset },
        after: task.after.filter((link) => !dropped.has(link.task)),
        ...(task.fixedDay === null ? {} : { fixed: task.fixedDay }),
        ...(detached.has(task.id) ? { isDetached: true } : {}),
        // What has subtasks began and ended with them; its own dates are kept for those who read only it.
        ...(task.isGroup ? {} : actualOf(task.realStart, task.doneOn)),
        ...(task.realStart === null || task.isGroup ? {} : { remaining: remainingDays({ ...task, elapsedDays: elapsed(task.realStart) }) }),
      })),
  };
}

/** What repeats, with its subtasks. */
function detachedIn(tasks: readonly TaskFacts[]): ReadonlySet<string> {
  if (!tasks.some((task) => task.isDetached)) return new Set();
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const isWithin = (task: TaskFacts | undefined): boolean =>
    task !== undefined && (task.isDetached || isWithin(byId.get(task.parentId ?? '')));
  return new Set(tasks.filter(isWithin).map((task) => task.id));
}

/** What is dropped, and what has nothing but dropped parts: the network does not see either. */
function droppedIn(tasks: readonly TaskFacts[]): ReadonlySet<string> {
  const groups = groupStandings(tasks).filter((group) => group.status === 'dropped');
  const leaves = tasks.filter((task) => !task.isGroup && task.status === 'dropped');
  return new Set([...groups, ...leaves].map((task) => task.id));
}

function actualOf(start: IsoDay | null, finish: IsoDay | null): { actual?: { start: IsoDay; finish?: IsoDay } } {
  if (start === null) return {};
  return { actual: finish === null ? { start } : { start, finish } };
}

function daysElapsed(calendarInput: CalendarInput, today: IsoDay): (start: IsoDay) => number {
  const calendar = unwrap(compileCalendar(calendarInput));
  const now = parseDay(today) as number;
  return (start) => Math.max(0, workingDaysBetween(calendar, parseDay(start) as number, now));
}
