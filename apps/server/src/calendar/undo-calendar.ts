import { Injectable } from '@nestjs/common';
import { can, type EventKind, type FieldChange, type TimeOffSpan } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import type { EventToUndo, WentBack } from '../activity/undoable.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepCalendar, type ClosedDay } from './keep-calendar.ts';
import { KeepTimeOff, refuseOthers } from './keep-time-off.ts';

/** Events of the calendar: they concern no engagement, and go back by their own rules. */
export const CALENDAR_EVENTS: readonly EventKind[] = ['calendar-changed', 'time-off-added', 'time-off-removed'];

/** Takes back what a change did to the calendar, day by day: a day goes back where it is still as the change left it. */
@Injectable()
export class UndoCalendar {
  private readonly calendar: KeepCalendar;
  private readonly timeOff: KeepTimeOff;
  constructor(calendar: KeepCalendar, timeOff: KeepTimeOff) {
    this.calendar = calendar;
    this.timeOff = timeOff;
  }

  /** The agency is locked. Answers whether anything could be restored. */
  async run(manager: EntityManager, who: Who, events: readonly EventToUndo[]): Promise<WentBack> {
    let isAny = false;
    for (const event of [...events].reverse()) {
      const isBack =
        event.kind === 'calendar-changed' ? await this.undoChange(manager, who, event) : await this.undoTimeOff(manager, who, event);
      isAny = isAny || isBack;
    }
    return { isAny, kept: [] };
  }

  private async undoChange(manager: EntityManager, who: Who, { changes }: EventToUndo): Promise<boolean> {
    if (!can(who, 'calendar.edit')) throw new Refusal('not-allowed', 'Only a lead can undo this. Ask one of them.');
    const [change] = changes;
    const back =
      change === undefined ? null : change.field === 'week' ? await weekBack(manager, who, change) : await daysBack(manager, who, change);
    if (back === null) return false;
    await this.calendar.apply(manager, who, back);
    return true;
  }

  private async undoTimeOff(manager: EntityManager, who: Who, { kind, subjectId, payload }: EventToUndo): Promise<boolean> {
    refuseOthers(who, subjectId);
    const spans = (payload['spans'] as readonly TimeOffSpan[]).filter(({ id }) => typeof id === 'string');
    const isAdded = kind === 'time-off-added';
    return this.timeOff.apply(manager, who, { personId: subjectId, removed: isAdded ? spans : [], added: isAdded ? [] : spans });
  }
}

async function weekBack(manager: EntityManager, { agencyId }: Who, { from, to }: FieldChange): Promise<FieldChange | null> {
  const now = await firstRow<{ week: number[] }>(manager, 'SELECT week FROM agency WHERE id = $1', [agencyId]);
  return now?.week.join() === (to as number[]).join() ? { field: 'week', from: to, to: from } : null;
}

/** Of the days a change touched, those that are still as it left them. */
async function daysBack(manager: EntityManager, { agencyId }: Who, change: FieldChange): Promise<FieldChange | null> {
  const byDay = (value: unknown): ReadonlyMap<string, ClosedDay> =>
    new Map((value as readonly ClosedDay[]).map((closed) => [closed.day, closed]));
  const [from, to] = [byDay(change.from), byDay(change.to)];
  const days = [...new Set([...from.keys(), ...to.keys()])];
  const sql = 'SELECT day, name, file_key AS "fileKey" FROM closed_day WHERE agency_id = $1 AND day = ANY($2::date[])';
  const now = new Map((await rowsOf<ClosedDay>(manager, sql, [agencyId, days])).map((closed) => [closed.day as string, closed]));
  const untouched = days.filter((day) => now.get(day)?.name === to.get(day)?.name);
  if (untouched.length === 0) return null;
  const of = (side: ReadonlyMap<string, ClosedDay>): ClosedDay[] => untouched.flatMap((day) => side.get(day) ?? []);
  return { field: 'closedDays', from: of(now), to: of(from).map((closed) => ({ ...closed, fileKey: closed.fileKey ?? null })) };
}
