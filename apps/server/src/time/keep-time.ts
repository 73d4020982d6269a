import type { IsoDay } from '@crew/core';
import { Injectable } from '@nestjs/common';
import { of, type CorrectTime, type FieldChange, type LogTime, type RemoveTime, type TimeLogged, type TimeEntryView } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { affectedRows, Database, firstRow } from '../platform/database.ts';
import { DoAgain } from '../platform/database-faults.ts';
import { holdTimeBook, lockPeople } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import { refreshEngagement } from '../schedule/refresh-engagement.ts';
import { TaskRepository, type TaskToChange } from '../task/task.repository.ts';
import { refuseClosed } from './closed-time.ts';
import { recordTime, type TimeChange } from './record-time.ts';
import { addToTask, refuseFullDay, writeTime } from './write-time.ts';

interface EntryRow extends TimeEntryView {
  readonly personId: string;
  readonly taskId: string;
}

const ENTRY = `
  SELECT x.id, x.person_id AS "personId", x.task_id AS "taskId", x.day, x.minutes, x.start_minute AS "startMinute", x.note,
    x.is_chargeable AS "isChargeable", x.version
  FROM time_entry x JOIN person p ON p.id = x.person_id WHERE x.id = $1 AND p.agency_id = $2`;

/** Time by hand: logged, put right, taken out. Once a period is closed only leads do it, and why is kept. */
@Injectable()
export class KeepTime {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly clock: Clock;
  constructor(database: Database, tasks: TaskRepository, clock: Clock) {
    this.database = database;
    this.tasks = tasks;
    this.clock = clock;
  }

  /** For oneself, or as a lead for anybody. */
  log(who: Who, taskId: string, input: LogTime): Promise<TimeLogged> {
    this.refuseFuture(input.day);
    return this.database.transaction(async (manager) => {
      await holdTimeBook(manager, who.agencyId, { isClosing: false });
      const reason = await refuseClosed(manager, who, { days: [input.day], reason: input.reason });
      const task = requireFound(await this.tasks.lock(manager, who, taskId), 'task');
      refuseGroup(task);
      const { day, minutes, note = '', startMinute = null, isChargeable = task.isChargeable } = input;
      const personId = await whoseTime(manager, who, input.personId);
      const id = await writeTime(manager, { personId, task, day, minutes, startMinute, note, isChargeable });
      await this.settle(manager, who, {
        ...{ kind: 'time-logged', entryId: id, personId, day, tasks: [task], lateReason: reason },
        minutes: { from: null, to: minutes },
      });
      const sheet = requireFound(await this.tasks.findSheet(manager, who, taskId), 'task');
      const entry = requireFound(await firstRow<EntryRow>(manager, ENTRY, [id, who.agencyId]), 'time entry');
      return { ...sheet, entry: toView(entry) };
    });
  }

  /** One's own, or as a lead anybody's. A stale version changes nothing and says what is there now. */
  correct(who: Who, id: string, input: CorrectTime): Promise<TimeEntryView> {
    if (input.day !== undefined) this.refuseFuture(input.day);
    return this.database.transaction(async (manager) => {
      const { entry, tasks } = await this.lock(manager, who, { id, also: input.taskId });
      const next = nextEntry(entry, input);
      const reason = await refuseClosed(manager, who, { days: [entry.day, next.day], reason: input.reason });
      await refuseFullDay(manager, { personId: entry.personId, day: next.day, minutes: next.minutes, exceptId: id });
      const engagementId = (tasks.find((task) => task.id === next.taskId) as TaskToChange).engagementId;
      const written = await affectedRows(
        manager,
        `UPDATE time_entry SET task_id = $3, engagement_id = $4, day = $5, minutes = $6, start_minute = $7, note = $8, is_chargeable = $9, version = version + 1
         WHERE id = $1 AND version = $2`,
        [id, input.version, next.taskId, engagementId, next.day, next.minutes, next.startMinute, next.note, next.isChargeable],
      );
      if (written === 0) this.refuseStale(entry);
      await addToTask(manager, entry.taskId, -entry.minutes);
      await addToTask(manager, next.taskId, next.minutes);
      await this.settle(manager, who, {
        ...{ kind: 'time-corrected', entryId: id, personId: entry.personId, day: next.day, lateReason: reason },
        minutes: { from: entry.minutes, to: next.minutes },
        ...{ tasks: inOrder(tasks, next.taskId), changes: changesBetween(entry, next) },
      });
      return toView(requireFound(await firstRow<EntryRow>(manager, ENTRY, [id, who.agencyId]), 'time entry'));
    });
  }

  remove(who: Who, id: string, input: RemoveTime): Promise<void> {
    return this.database.transaction(async (manager) => {
      const { entry, tasks } = await this.lock(manager, who, { id });
      const reason = await refuseClosed(manager, who, { days: [entry.day], reason: input.reason });
      const gone = await affectedRows(manager, 'DELETE FROM time_entry WHERE id = $1 AND version = $2', [id, input.version]);
      if (gone === 0) this.refuseStale(entry);
      await addToTask(manager, entry.taskId, -entry.minutes);
      await this.settle(manager, who, {
        ...{ kind: 'time-removed', entryId: id, personId: entry.personId, day: entry.day, tasks, lateReason: reason },
        minutes: { from: entry.minutes, to: null },
      });
    });
  }

  private refuseFuture(day: IsoDay): void {
    if (day > this.clock.today())
      throw new Refusal('invalid-day', 'Time is logged for days that have come. Choose today or earlier.', { field: 'day' });
  }

  private async find(manager: EntityManager, who: Who, id: string): Promise<EntryRow> {
    const entry = requireFound(await firstRow<EntryRow>(manager, ENTRY, [id, who.agencyId]), 'time entry');
    requireCan(who, 'time.edit', {
      ...{ subject: of(entry.personId), words: 'This is somebody else’s time. Ask them or a lead to correct it.' },
    });
    return entry;
  }

  /**
   * An entry with its task, and the one it is to go to, all locked as everybody does: tasks
   * before people. Somebody's own entry may be on a task that is no longer theirs.
   */
  private async lock(
    manager: EntityManager,
    who: Who,
    { id, also }: { readonly id: string; readonly also?: string | undefined },
  ): Promise<{ readonly entry: EntryRow; readonly tasks: TaskToChange[] }> {
    await holdTimeBook(manager, who.agencyId, { isClosing: false });
    const seen = await this.find(manager, who, id);
    const ids = [...new Set([seen.taskId, also ?? seen.taskId])];
    const tasks = await this.tasks.lockAnywhere(manager, who, ids);
    if (tasks.length < ids.length) throw new Refusal('not-found', 'There is no task here, or it is not yours to see.');
    tasks.forEach(refuseGroup);
    await lockPeople(manager, [seen.personId]);
    const entry = await this.find(manager, who, id);
    if (entry.taskId !== seen.taskId) throw new DoAgain();
    return { entry, tasks };
  }

  private refuseStale(entry: EntryRow): never {
    throw new Refusal('changed-meanwhile', 'This time was corrected in the meantime. Reload to see it as it is now.', {
      details: { current: toView(entry) },
    });
  }

  private async settle(manager: EntityManager, who: Who, time: TimeChange): Promise<void> {
    const by = { actor: who, at: this.clock.now() };
    for (const engagementId of [...new Set(time.tasks.map((task) => task.engagementId))].sort())
      await refreshEngagement(manager, engagementId, { today: this.clock.today(), by, changed: [] });
    await recordTime(manager, by, time);
  }
}

/** The task the time is on now, then the one it was on. */
const inOrder = (tasks: readonly TaskToChange[], taskId: string): TaskToChange[] =>
  [...tasks].sort((left, right) => Number(right.id === taskId) - Number(left.id === taskId));

async function whoseTime(manager: EntityManager, who: Who, personId: string | undefined): Promise<string> {
  const own = who.personId as string;
  if (personId === undefined || personId === own) return own;
  requireCan(who, 'time.edit', { subject: of(personId), words: 'Only leads can log time for somebody else.', field: 'personId' });
  const found = await firstRow(manager, 'SELECT 1 FROM person WHERE id = $1 AND agency_id = $2', [personId, who.agencyId]);
  if (found === null) throw new Refusal('unknown-id', 'Nobody on the crew has this id. Choose from the list.', { field: 'personId' });
  return personId;
}

function refuseGroup(task: TaskToChange): void {
  if (task.isGroup)
    throw new Refusal('wrong-moment', `The work on “${task.title}” is in its subtasks. Log it on one of them.`, { field: 'taskId' });
}

function nextEntry(entry: EntryRow, input: CorrectTime): EntryRow {
  return {
    ...entry,
    taskId: input.taskId ?? entry.taskId,
    day: input.day ?? entry.day,
    minutes: input.minutes ?? entry.minutes,
    startMinute: input.startMinute === undefined ? entry.startMinute : input.startMinute,
    note: input.note ?? entry.note,
    isChargeable: input.isChargeable ?? entry.isChargeable,
  };
}

function changesBetween(entry: EntryRow, next: EntryRow): FieldChange[] {
  return (['day', 'startMinute', 'note', 'isChargeable', 'taskId'] as const)
    .filter((field) => entry[field] !== next[field])
    .map((field) => ({ field, from: entry[field], to: next[field] }));
}

const toView = ({ personId: _person, taskId: _task, ...view }: EntryRow): TimeEntryView => view;
