import { Injectable } from '@nestjs/common';
import { addDays, isPlannableDay, type IsoDay } from '@crew/core';
import {
  fullDay,
  reachOf,
  NO_DAY,
  type AddClosedDays,
  type AgencyCalendar,
  type CalendarChanged,
  type CalendarFile,
  type EditCalendar,
  type FieldChange,
} from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { changeIdOf, record } from '../activity/record.ts';
import { addRefreshJobs, addSeriesJobs } from '../platform/job-names.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import type { FileSpan } from './read-ical.ts';
import { readInWorker } from './read-in-worker.ts';

const CALENDAR = `
  SELECT a.week,
    coalesce((SELECT json_agg(json_build_object('day', c.day, 'name', c.name) ORDER BY c.day) FROM closed_day c WHERE c.agency_id = a.id AND c.day >= $2), '[]') AS closed,
    coalesce((SELECT json_agg(json_build_object('id', o.id, 'from', o.from_day, 'to', o.to_day, 'minutes', o.minutes, 'note', o.note,
        'person', json_build_object('id', p.id, 'name', p.name, 'initials', p.initials)) ORDER BY o.from_day, p.name)
      FROM time_off o JOIN person p ON p.id = o.person_id WHERE p.agency_id = a.id AND p.is_active AND o.to_day >= $3 AND ($4::uuid IS NULL OR p.id = $4)), '[]') AS "timeOff"
  FROM agency a WHERE a.id = $1`;

/** A closed day as it is stored; `fileKey` is its key in the calendar file it came from. */
export interface ClosedDay {
  readonly day: IsoDay;
  readonly name: string;
  readonly fileKey: string | null;
}

/** Closed days of agency $1 that are among days $2, or came from entries $3 of a calendar file. */
const CLOSED = `
  SELECT day, name, file_key AS "fileKey" FROM closed_day WHERE agency_id = $1 AND (day = ANY($2::date[]) OR file_key = ANY($3::text[])) ORDER BY day`;

const WRITE_CLOSED = `
  WITH gone AS (DELETE FROM closed_day WHERE agency_id = $1 AND day = ANY($2::date[]) AND day <> ALL(SELECT v.day FROM jsonb_to_recordset($3) AS v(day date)))
  INSERT INTO closed_day (agency_id, day, name, file_key) SELECT $1, v.day, v.name, v."fileKey" FROM jsonb_to_recordset($3) AS v(day date, name text, "fileKey" text)
  ON CONFLICT (agency_id, day) DO UPDATE SET name = excluded.name, file_key = excluded.file_key`;

/** The agency's week and closed days. Open plans follow each change, and each change can be undone. */
@Injectable()
export class KeepCalendar {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  /** A freelancer sees of the absences only their own. */
  read(who: Who): Promise<AgencyCalendar> {
    return this.readWithin(this.database.manager, who);
  }

  private async readWithin(manager: EntityManager, who: Who): Promise<AgencyCalendar> {
    const today = this.clock.today();
    const since = `${Number(today.slice(0, 4)) - 1}-01-01`;
    const ofPerson = reachOf(who, 'time-off.read') === 'all' ? null : who.personId;
    return requireFound(await firstRow<AgencyCalendar>(manager, CALENDAR, [who.agencyId, since, today, ofPerson]), 'agency');
  }

  /** The week of the agency. Refuses one without a working day. */
  edit(who: Who, { week }: EditCalendar): Promise<CalendarChanged> {
    if (week.every((minutes) => minutes === 0))
      throw new Refusal('invalid-input', 'A week needs at least one working day. Give one of them some hours.', { field: 'week' });
    return this.change(who, async (manager) => {
      const before = await firstRow<{ week: number[] }>(manager, 'SELECT week FROM agency WHERE id = $1', [who.agencyId]);
      if (before?.week.join() === week.join()) return;
      await this.apply(manager, who, { field: 'week', from: before?.week, to: week });
    });
  }

  close(who: Who, { days }: AddClosedDays): Promise<CalendarChanged> {
    const wanted = new Map(days.map(({ day, name }) => [day, { day, name: name.trim(), fileKey: null }]));
    return this.change(who, async (manager) => {
      const before = await rowsOf<ClosedDay>(manager, CLOSED, [who.agencyId, [...wanted.keys()], []]);
      await this.replaceClosed(manager, who, { from: before, to: [...wanted.values()] });
    });
  }

  /** Removes the closed days of a period again, all or none. */
  reopen(who: Who, { from, to }: { readonly from: IsoDay; readonly to: IsoDay }): Promise<CalendarChanged> {
    if (!isPlannableDay(from) || !isPlannableDay(to)) throw new Refusal('invalid-day', NO_DAY, { field: 'day' });
    return this.change(who, async (manager) => {
      const sql = 'SELECT day, name, file_key AS "fileKey" FROM closed_day WHERE agency_id = $1 AND day BETWEEN $2 AND $3 ORDER BY day';
      const before = await rowsOf<ClosedDay>(manager, sql, [who.agencyId, from, to]);
      requireFound(before[0] ?? null, 'closed day');
      await this.replaceClosed(manager, who, { from: before, to: [] });
    });
  }

  /**
   * Closes the whole days of a calendar file; with `isTrial` it only previews them. Days imported from
   * the file before are recognised: they are moved, removed or left as they are.
   */
  async importClosed(who: Who, text: string, isTrial: boolean): Promise<CalendarFile> {
    const { spans, leftOut, faults, calledOff } = await readInWorker(text, { today: this.clock.today(), zone: this.clock.zone });
    const parts = spans
      .filter((span) => span.minutes !== null)
      .map((span) => `“${span.note}” on ${fullDay(span.from)} is only a part of a day.`);
    const wanted = closedBy(spans.filter((span) => span.minutes === null));
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const keys = [...new Set([...wanted.values()].map(({ fileKey }) => fileKey)), ...calledOff];
      const before = await rowsOf<ClosedDay>(manager, CLOSED, [who.agencyId, [...wanted.keys()], keys]);
      const change = differenceOf(before, wanted, calledOff);
      if (!isTrial) await this.replaceClosed(manager, who, change);
      const added = change.to.map(({ day, name }) => ({ day, name }));
      const removed = change.from.filter(({ day }) => !change.to.some((other) => other.day === day));
      return {
        ...{ days: added, spans: [], unchanged: wanted.size - added.length, leftOut: [...leftOut, ...parts], faults, isKept: !isTrial },
        removed: removed.map(({ day, name }) => ({ from: day, to: day, note: name })),
        changeId: isTrial ? null : changeIdOf(manager),
      };
    });
  }

  /** Sets a field of the calendar from one value to another, records it and has everything open planned anew. */
  async apply(manager: EntityManager, who: Who, change: FieldChange): Promise<void> {
    if (change.field === 'week') await rowsOf(manager, 'UPDATE agency SET week = $2 WHERE id = $1', [who.agencyId, change.to]);
    else {
      const [from, to] = [change.from as readonly ClosedDay[], change.to as readonly ClosedDay[]];
      await rowsOf(manager, WRITE_CLOSED, [who.agencyId, from.map(({ day }) => day), JSON.stringify(to)]);
    }
    await this.planAnew(manager, who, change);
  }

  private async replaceClosed(
    manager: EntityManager,
    who: Who,
    { from, to }: { readonly from: readonly ClosedDay[]; readonly to: readonly ClosedDay[] },
  ): Promise<void> {
    if (JSON.stringify(from) !== JSON.stringify(to)) await this.apply(manager, who, { field: 'closedDays', from, to });
  }

  private change(who: Who, act: (manager: EntityManager) => Promise<void>): Promise<CalendarChanged> {
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      await act(manager);
      return { ...(await this.readWithin(manager, who)), changeId: changeIdOf(manager) };
    });
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
    await addSeriesJobs(manager, who);
    await record(manager, { actor: who, at: this.clock.now() }, [
      { kind: 'calendar-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId, changes: [change] },
    ]);
  }
}

/** A year and more: a file with one event of a century closes no century. */
const MOST_DAYS_OF_ONE = 400;

/** The days of spans; of two on one day the first. */
function closedBy(spans: readonly FileSpan[]): ReadonlyMap<IsoDay, ClosedDay> {
  const days = new Map<IsoDay, ClosedDay>();
  for (const { from, to, note, key } of spans)
    for (let day = from, count = 0; day <= to && count < MOST_DAYS_OF_ONE; day = addDays(day, 1), count++)
      if (!days.has(day)) days.set(day, { day, name: note, fileKey: key });
  return days;
}

/** What a file changes of the closed days there are: those closed by hand stay as they are. */
function differenceOf(
  before: readonly ClosedDay[],
  wanted: ReadonlyMap<IsoDay, ClosedDay>,
  calledOff: readonly string[],
): { readonly from: readonly ClosedDay[]; readonly to: readonly ClosedDay[] } {
  const there = new Map(before.map((closed) => [closed.day, closed]));
  const isSame = (one: ClosedDay): boolean => {
    const other = there.get(one.day);
    return other !== undefined && (other.fileKey === null || (other.fileKey === one.fileKey && other.name === one.name));
  };
  const to = [...wanted.values()].filter((one) => !isSame(one));
  const changed = new Set(to.map(({ day }) => day));
  const isGone = ({ day, fileKey }: ClosedDay): boolean => fileKey !== null && (!wanted.has(day) || calledOff.includes(fileKey));
  return { from: before.filter((closed) => changed.has(closed.day) || isGone(closed)), to };
}
