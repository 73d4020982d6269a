import { Injectable } from '@nestjs/common';
import { addDays, daysBetween, isPlannableDay, type IsoDay } from '@crew/core';
import {
  of,
  reachOf,
  NO_DAY,
  type AddClosedDays,
  type AddTimeOff,
  type AgencyCalendar,
  type CalendarFile,
  type EditCalendar,
  type EventPayloads,
  type FieldChange,
  type TaskInTimeOff,
  type TimeOffAdded,
  type TimeOffFile,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { addRefreshJobs } from '../platform/job-names.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import { requireCan, type Who } from '../platform/rights.ts';
import type { FileSpan } from './read-ical.ts';
import { readInWorker } from './read-in-worker.ts';

const CALENDAR = `
  SELECT a.week,
    coalesce((SELECT json_agg(json_build_object('day', c.day, 'name', c.name) ORDER BY c.day) FROM closed_day c WHERE c.agency_id = a.id AND c.day >= $2), '[]') AS closed,
    coalesce((SELECT json_agg(json_build_object('id', o.id, 'from', o.from_day, 'to', o.to_day, 'minutes', o.minutes, 'note', o.note,
        'person', json_build_object('id', p.id, 'name', p.name, 'initials', p.initials)) ORDER BY o.from_day, p.name)
      FROM time_off o JOIN person p ON p.id = o.person_id WHERE p.agency_id = a.id AND p.is_active AND o.to_day >= $3 AND ($4::uuid IS NULL OR p.id = $4)), '[]') AS "timeOff"
  FROM agency a WHERE a.id = $1`;

const IN_TIME_OFF = `
  SELECT t.id, t.number, t.title, t.start_day AS start, t.due_day AS due, json_build_object('id', e.id, 'name', e.name) AS engagement
  FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN engagement e ON e.id = t.engagement_id AND e.state IN ('proposal', 'open')
  WHERE a.person_id = $1 AND a.is_open AND NOT t.is_group AND t.start_day <= $3 AND t.due_day >= $2 ORDER BY t.start_day, t.number`;

const MOST_DAYS_OFF = 400;

/** The agency's week and closed days, and who is away. Plans of what runs follow what changes. */
@Injectable()
export class KeepCalendar {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** A freelancer sees of the absences only their own. */
  async read(who: Who): Promise<AgencyCalendar> {
    const today = this.clock.today();
    const since = `${Number(today.slice(0, 4)) - 1}-01-01`;
    return requireFound(
      await this.database.row<AgencyCalendar>(CALENDAR, [
        who.agencyId,
        since,
        today,
        reachOf(who, 'time-off.read') === 'all' ? null : who.personId,
      ]),
      'agency',
    );
  }

  /** The week of the agency. Refuses one without a working day. */
  async edit(who: Who, { week }: EditCalendar): Promise<AgencyCalendar> {
    if (week.every((minutes) => minutes === 0))
      throw new Refusal('invalid-input', 'A week needs at least one working day. Give one of them some hours.', { field: 'week' });
    await this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const before = await firstRow<{ week: number[] }>(manager, 'SELECT week FROM agency WHERE id = $1', [who.agencyId]);
      await rowsOf(manager, 'UPDATE agency SET week = $2 WHERE id = $1', [who.agencyId, week]);
      await this.planAnew(manager, who, { field: 'week', from: before?.week, to: week });
    });
    return this.read(who);
  }

  async close(who: Who, { days }: AddClosedDays): Promise<AgencyCalendar> {
    await this.database.transaction((manager) => this.closeDays(manager, who, days));
    return this.read(who);
  }

  /** Opens the closed days of a span again, all or none. */
  async reopen(who: Who, { from, to }: { readonly from: IsoDay; readonly to: IsoDay }): Promise<AgencyCalendar> {
    if (!isPlannableDay(from) || !isPlannableDay(to)) throw new Refusal('invalid-day', NO_DAY, { field: 'day' });
    await this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const sql = 'DELETE FROM closed_day WHERE agency_id = $1 AND day BETWEEN $2 AND $3 RETURNING day, name';
      const gone = await rowsOf<ClosedDay>(manager, sql, [who.agencyId, from, to]);
      requireFound(gone[0] ?? null, 'closed day');
      await this.planAnew(manager, who, { field: 'closedDays', from: gone, to: [] });
    });
    return this.read(who);
  }

  /** Closes the whole days of a calendar file; with `isTrial` it only says which. */
  async importClosed(who: Who, text: string, isTrial: boolean): Promise<CalendarFile> {
    const { spans, leftOut } = await readInWorker(text, this.clock.today());
    const whole = spans.filter((span) => span.minutes === null);
    const parts = spans.filter((span) => span.minutes !== null).map((span) => `“${span.note}” on ${span.from} is only a part of a day.`);
    const days = whole.flatMap((span) => daysOf(span).map((day) => ({ day, name: span.note })));
    return this.database.transaction(async (manager) => {
      if (!isTrial && days.length > 0) await this.closeDays(manager, who, days);
      return { days, spans: [], leftOut: [...leftOut, ...parts], isKept: !isTrial };
    });
  }

  /** Time off of somebody; answers the open work that falls in it. Everybody may enter their own, leads everybody's. */
  addTimeOff(who: Who, personId: string, input: AddTimeOff): Promise<TimeOffAdded> {
    const span = { from: input.from, to: input.to, minutes: input.minutes ?? null, note: input.note?.trim() ?? '' };
    return this.database.transaction((manager) => this.keepOff(manager, who, { personId, spans: [span] }));
  }

  /** The spans of a calendar file as somebody's time off; with `isTrial` it only says which. */
  async importTimeOff(
    who: Who,
    personId: string,
    { text, isTrial }: { readonly text: string; readonly isTrial: boolean },
  ): Promise<TimeOffFile> {
    await requireOwnOrLead(this.database.manager, who, personId);
    const { spans, leftOut } = await readInWorker(text, this.clock.today());
    return this.database.transaction(async (manager) => {
      const kept = isTrial ? { ids: [], tasks: [] } : await this.keepOff(manager, who, { personId, spans });
      return { days: [], spans, leftOut, isKept: !isTrial, ...kept };
    });
  }

  async removeTimeOff(who: Who, id: string): Promise<void> {
    await this.database.transaction(async (manager) => {
      const sql = `SELECT o.person_id AS "personId", o.from_day AS "from", o.to_day AS "to", o.minutes
         FROM time_off o JOIN person p ON p.id = o.person_id WHERE o.id = $1 AND p.agency_id = $2`;
      const { personId, ...span } = requireFound(await firstRow<Off>(manager, sql, [id, who.agencyId]), 'time off');
      refuseOthers(who, personId);
      await rowsOf(manager, 'DELETE FROM time_off WHERE id = $1', [id]);
      await this.recordOff(manager, who, { kind: 'time-off-removed', personId, spans: [span] });
    });
  }

  private async closeDays(manager: EntityManager, who: Who, days: AddClosedDays['days']): Promise<void> {
    await lockAgency(manager, who.agencyId);
    await rowsOf(
      manager,
      `INSERT INTO closed_day (agency_id, day, name) SELECT DISTINCT ON (v.day) $1::uuid, v.day, trim(v.name) FROM jsonb_to_recordset($2) AS v(day date, name text)
       ON CONFLICT (agency_id, day) DO UPDATE SET name = excluded.name`,
      [who.agencyId, JSON.stringify(days)],
    );
    await this.planAnew(manager, who, { field: 'closedDays', from: [], to: days });
  }

  private async keepOff(
    manager: EntityManager,
    who: Who,
    { personId, spans }: { readonly personId: string; readonly spans: readonly FileSpan[] },
  ): Promise<TimeOffAdded> {
    await requireOwnOrLead(manager, who, personId);
    for (const span of spans) refuseOddSpan(span);
    const rows = await rowsOf<{ id: string }>(
      manager,
      `INSERT INTO time_off (person_id, from_day, to_day, minutes, note)
       SELECT $1, v."from", v."to", v.minutes, v.note FROM jsonb_to_recordset($2) AS v("from" date, "to" date, minutes int, note text) RETURNING id`,
      [personId, JSON.stringify(spans)],
    );
    const tasks = new Map<string, TaskInTimeOff>();
    for (const span of spans)
      for (const task of await rowsOf<TaskInTimeOff>(manager, IN_TIME_OFF, [personId, span.from, span.to])) tasks.set(task.id, task);
    await this.recordOff(manager, who, { kind: 'time-off-added', personId, spans });
    return { ids: rows.map((row) => row.id), tasks: [...tasks.values()] };
  }

  /** Everything open is planned anew behind the change, by the queue. */
  private async planAnew(manager: EntityManager, who: Who, change: FieldChange): Promise<void> {
    const open = await rowsOf<{ id: string }>(manager, `SELECT id FROM engagement WHERE agency_id = $1 AND state IN ('proposal', 'open')`, [
      who.agencyId,
    ]);
    await addRefreshJobs(
      manager,
      open.map(({ id }) => id),
    );
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind: 'calendar-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId, changes: [change] },
    ]);
  }

  private recordOff(
    manager: EntityManager,
    who: Who,
    { kind, personId, spans }: { readonly kind: 'time-off-added' | 'time-off-removed'; readonly personId: string; readonly spans: Spans },
  ): Promise<void> {
    const payload = { spans: spans.map(({ from, to, minutes }) => ({ from, to, minutes })) };
    return record(manager, { actor: who, at: this.clock.now() }, [
      { kind, engagementId: null, subject: 'person', subjectId: personId, payload },
    ]);
  }
}

type ClosedDay = AddClosedDays['days'][number];
type Spans = EventPayloads['time-off-added']['spans'];
type Off = Spans[number] & { readonly personId: string };

/** Refuses somebody who is not of the crew, and another one than oneself unless one leads. */
async function requireOwnOrLead(manager: EntityManager, who: Who, personId: string): Promise<void> {
  const person = await firstRow(manager, 'SELECT 1 FROM person WHERE id = $1 AND agency_id = $2 AND is_active', [personId, who.agencyId]);
  requireFound(person, 'person');
  refuseOthers(who, personId);
}

const refuseOthers = (who: Who, personId: string): void =>
  requireCan(who, 'time-off.edit', {
    ...{ subject: of(personId), words: 'You can enter your own time off. Ask a lead for that of others.', field: 'personId' },
  });

function refuseOddSpan(span: FileSpan): void {
  if (span.to < span.from)
    throw new Refusal('invalid-day', 'Time off ends on or after the day it begins. Look at both days.', { field: 'to' });
  if (daysBetween(span.from, span.to) > MOST_DAYS_OFF)
    throw new Refusal(
      'invalid-day',
      `Time off of more than ${MOST_DAYS_OFF} days is no time off. Somebody who left is set so under Crew.`,
      { field: 'to' },
    );
}

function daysOf({ from, to }: FileSpan): IsoDay[] {
  return Array.from({ length: Math.min(daysBetween(from, to) + 1, MOST_DAYS_OFF) }, (_, index) => addDays(from, index));
}
