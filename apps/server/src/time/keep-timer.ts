import { Injectable } from '@nestjs/common';
import { elapsedSeconds, guessMinutes, minutesToLog, pauseTimer, resumeTimer, type Timer as CoreTimer, type IsoDay } from '@crew/core';
import type { RestoreTimer, StopTimer, TimerState, TimerStopped, TimerView } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { PlanBehind } from '../schedule/plan-behind.ts';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { DoAgain } from '../platform/database-faults.ts';
import { holdTimeBook, lockPeople } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { ChangeStatus } from '../task/change-status.ts';
import { TaskRepository, type TaskToChange } from '../task/task.repository.ts';
import { refuseClosed } from './closed-time.ts';
import { recordTime } from './record-time.ts';
import { addToTask, writeTime } from './write-time.ts';

interface TimerRow {
  readonly taskId: string;
  readonly title: string;
  readonly engagement: { readonly id: string; readonly name: string };
  readonly day: IsoDay;
  readonly bankedSeconds: number;
  readonly runningSince: Date | null;
  /** Working minutes of that day, and what is logged on it already. */
  readonly dayMinutes: number;
  readonly loggedMinutes: number;
  /** Whether the time of that day was closed meanwhile. */
  readonly isClosed: boolean;
}

const TIMER = `
  SELECT m.task_id AS "taskId", t.title, json_build_object('id', e.id, 'name', e.name) AS engagement, m.day,
    m.banked_seconds AS "bankedSeconds", m.running_since AS "runningSince", p.week[extract(isodow FROM m.day)::int] AS "dayMinutes",
    (SELECT coalesce(sum(x.minutes), 0)::int FROM time_entry x WHERE x.person_id = m.person_id AND x.day = m.day) AS "loggedMinutes",
    coalesce(m.day <= y.time_closed_through, false) AS "isClosed"
  FROM timer m JOIN task t ON t.id = m.task_id JOIN engagement e ON e.id = t.engagement_id JOIN person p ON p.id = m.person_id
    JOIN agency y ON y.id = p.agency_id
  WHERE m.person_id = $1`;

/** Everybody's one timer: it lives here, so every device shows the same, and neither a restart nor sleep stops it. */
@Injectable()
export class KeepTimer {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly statuses: ChangeStatus;
  private readonly behind: PlanBehind;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, statuses: ChangeStatus, behind: PlanBehind, clock: Clock) {
    this.behind = behind;
    this.database = database;
    this.tasks = tasks;
    this.statuses = statuses;
    this.clock = clock;
  }

  async read(who: Who): Promise<TimerState> {
    return this.view(this.database.manager, who);
  }

  /** Runs on this task from now on: one on another task is stopped and logged, a paused one on this goes on, and work that had not begun begins. */
  async start(who: Who, taskId: string): Promise<TimerState> {
    const begun = await this.database.transaction(async (manager) => {
      const { row: now, tasks } = await this.lock(manager, who, taskId);
      const task = requireFound(
        tasks.find(({ id }) => id === taskId),
        'task',
      );
      if (now !== null && now.taskId !== taskId) await this.finish(manager, who, { row: now, tasks, input: {} });
      if (task.status === 'done' || task.status === 'dropped')
        throw new Refusal('wrong-moment', `“${task.title}” is over. Reopen it before you work on it.`, { field: 'taskId' });
      if (task.isGroup)
        throw new Refusal('wrong-moment', `The work on “${task.title}” is in its subtasks. Start one of them.`, { field: 'taskId' });
      const running = now?.taskId === taskId ? resumeTimer(toCore(now), this.now()) : { bankedSeconds: 0, runningSince: this.now() };
      await this.write(manager, who, { taskId, day: now?.taskId === taskId ? now.day : this.clock.today(), timer: running });
      await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${who.personId}`] });
      if (task.status !== 'queued') return null;
      await this.statuses.within(manager, who, { taskId, input: { version: task.version, status: 'active' } });
      return task.engagementId;
    });
    if (begun !== null) this.behind.ask(begun);
    return this.read(who);
  }

  /** Stands still until it is started again; what it counted stays. */
  async pause(who: Who): Promise<TimerState> {
    await this.database.transaction(async (manager) => {
      const row = requireFound((await this.lock(manager, who)).row, 'timer');
      await this.write(manager, who, { taskId: row.taskId, day: row.day, timer: pauseTimer(toCore(row), this.now()) });
      await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${who.personId}`] });
    });
    return this.read(who);
  }

  /** Logs what it counted, or the minutes that are given, on the day it was started. */
  stop(who: Who, input: StopTimer): Promise<TimerStopped> {
    return this.database.transaction(async (manager) => {
      const { row, tasks } = await this.lock(manager, who);
      return this.finish(manager, who, { row: requireFound(row, 'timer'), tasks, input });
    });
  }

  /** Discards the timer: nothing is logged. */
  discard(who: Who): Promise<void> {
    return this.database.transaction(async (manager) => {
      requireFound((await this.lock(manager, who)).row, 'timer');
      await rowsOf(manager, 'DELETE FROM timer WHERE person_id = $1', [who.personId]);
      await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${who.personId}`] });
    });
  }

  /** The timer as it was before it was stopped: what was logged then is removed, and it goes on as if nothing had been. */
  async restore(who: Who, { entryId, taskId, day, bankedSeconds, runningSince }: RestoreTimer): Promise<TimerState> {
    const since = runningSince === null ? null : Date.parse(runningSince);
    if (day > this.clock.today() || (since !== null && since > this.now()))
      throw new Refusal('invalid-day', 'A timer that was stopped began before now. Reload and try again.', { field: 'runningSince' });
    await this.database.transaction(async (manager) => {
      const { row, tasks } = await this.lock(manager, who, taskId);
      if (row !== null)
        throw new Refusal('wrong-moment', `Your timer is on “${row.title}” by now. Stop it first, then correct the time that was logged.`);
      const task = requireFound(
        tasks.find(({ id }) => id === taskId),
        'task',
      );
      if (entryId !== null) await this.takeBack(manager, who, { entryId, task });
      await this.write(manager, who, { taskId, day, timer: { bankedSeconds, runningSince: since } });
      await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${who.personId}`] });
    });
    return this.read(who);
  }

  private async takeBack(
    manager: EntityManager,
    who: Who,
    { entryId, task }: { readonly entryId: string; readonly task: TaskToChange },
  ): Promise<void> {
    const sql = 'DELETE FROM time_entry WHERE id = $1 AND person_id = $2 AND task_id = $3 AND version = 1 RETURNING day, minutes';
    const gone = await firstRow<{ day: IsoDay; minutes: number }>(manager, sql, [entryId, who.personId, task.id]);
    if (gone === null)
      throw new Refusal('changed-meanwhile', 'The time that was logged has been changed or removed since. Correct it by hand.');
    const { day, minutes } = gone;
    await refuseClosed(manager, who, { days: [day], reason: undefined });
    await addToTask(manager, task.id, -minutes);
    const by = { actor: who, at: this.clock.now() };
    await refreshEngagement(manager, task.engagementId, { today: this.clock.today(), by, changed: [] });
    await recordTime(manager, by, {
      ...{ kind: 'time-removed', entryId, personId: who.personId as string, day, tasks: [task] },
      ...{ minutes: { from: minutes, to: null }, lateReason: null },
    });
  }

  private async finish(
    manager: EntityManager,
    who: Who,
    { row, tasks, input }: { readonly row: TimerRow; readonly tasks: readonly TaskToChange[]; readonly input: StopTimer },
  ): Promise<TimerStopped> {
    if (input.minutes === undefined && this.isLeft(row))
      throw new Refusal('wrong-moment', `Your timer on “${row.title}” ran for a long time. Say how much of it was work, or discard it.`, {
        field: 'minutes',
        details: { timer: this.toView(row) },
      });
    const minutes = input.minutes ?? minutesToLog(elapsedSeconds(toCore(row), this.now()));
    await rowsOf(manager, 'DELETE FROM timer WHERE person_id = $1', [who.personId]);
    let entryId: string | null = null;
    if (minutes > 0) {
      const reason = await refuseClosed(manager, who, { days: [row.day], reason: input.reason });
      const task = requireFound(
        tasks.find(({ id }) => id === row.taskId),
        'task',
      );
      const { day } = row;
      const startMinute = this.startOf(row, input);
      const { isChargeable } = task;
      const personId = who.personId as string;
      entryId = await writeTime(manager, { personId, task, day, minutes, startMinute, note: input.note ?? '', isChargeable });
      const by = { actor: who, at: this.clock.now() };
      await refreshEngagement(manager, task.engagementId, { today: this.clock.today(), by, changed: [] });
      await recordTime(manager, by, {
        ...{ kind: 'time-logged', entryId, personId, day, tasks: [task], minutes: { from: null, to: minutes }, lateReason: reason },
      });
    } else await announceChange(manager, { agencyId: who.agencyId, topics: [`person:${who.personId}`] });
    const { taskId, bankedSeconds } = row;
    const undo = { entryId, taskId, day: row.day, bankedSeconds, runningSince: row.runningSince?.toISOString() ?? null };
    return { minutes, day: row.day, title: row.title, undo };
  }

  /** When it began, where that tells when it was worked: not with pauses in between, nor when somebody says how much of it was work. */
  private startOf(row: TimerRow, input: StopTimer): number | null {
    return row.bankedSeconds > 0 || row.runningSince === null || input.minutes !== undefined
      ? null
      : this.clock.minuteOfDay(row.runningSince);
  }

  /**
   * The timer with the task it is on and, if named, another one, all locked: the tasks first,
   * as everybody does. Should the timer have gone to a third task meanwhile, it is done again.
   */
  private async lock(
    manager: EntityManager,
    who: Who,
    taskId?: string,
  ): Promise<{ readonly row: TimerRow | null; readonly tasks: readonly TaskToChange[] }> {
    await holdTimeBook(manager, who.agencyId, { isClosing: false });
    const seen = await firstRow<TimerRow>(manager, TIMER, [who.personId]);
    const ids = [...new Set([seen?.taskId, taskId].filter((id) => id !== undefined))];
    const tasks = await this.tasks.lockAnywhere(manager, who, ids);
    await lockPeople(manager, [who.personId as string]);
    const row = await firstRow<TimerRow>(manager, TIMER, [who.personId]);
    if (row !== null && !ids.includes(row.taskId)) throw new DoAgain();
    return { row, tasks };
  }

  private async write(
    manager: EntityManager,
    who: Who,
    { taskId, day, timer }: { readonly taskId: string; readonly day: IsoDay; readonly timer: CoreTimer },
  ): Promise<void> {
    await rowsOf(
      manager,
      `INSERT INTO timer (person_id, task_id, day, banked_seconds, running_since) VALUES ($1, $2, $3, $4, $5)
       ON CONFLICT (person_id) DO UPDATE SET task_id = excluded.task_id, day = excluded.day, banked_seconds = excluded.banked_seconds,
         running_since = excluded.running_since`,
      [who.personId, taskId, day, timer.bankedSeconds, timer.runningSince === null ? null : new Date(timer.runningSince)],
    );
  }

  private async view(manager: EntityManager, who: Who): Promise<TimerState> {
    const row = await firstRow<TimerRow>(manager, TIMER, [who.personId]);
    return { timer: row === null ? null : this.toView(row) };
  }

  private toView(row: TimerRow): TimerView {
    const seconds = elapsedSeconds(toCore(row), this.now());
    const isLeft = this.isLeft(row);
    return {
      task: { id: row.taskId, title: row.title, engagement: row.engagement },
      ...{ elapsedSeconds: seconds, isRunning: row.runningSince !== null, day: row.day, isLeft, isClosed: row.isClosed },
      guessMinutes: isLeft ? guessMinutes({ seconds, dayMinutes: row.dayMinutes, loggedMinutes: row.loggedMinutes }) : null,
    };
  }

  /** It ran past midnight, or for longer than anybody works: how much of it was work has to be said. Paused in time it is not left. */
  private isLeft(row: TimerRow): boolean {
    const isPastMidnight = row.runningSince !== null && row.day < this.clock.today();
    return isPastMidnight || elapsedSeconds(toCore(row), this.now()) > LONGEST_SECONDS;
  }

  private now(): number {
    return this.clock.now().getTime();
  }
}

/** Ten hours. */
const LONGEST_SECONDS = 36_000;

const toCore = ({ bankedSeconds, runningSince }: TimerRow): CoreTimer => ({ bankedSeconds, runningSince: runningSince?.getTime() ?? null });
