import { ENGAGEMENT_IN_COLOUR, isOpen, timeOffOf } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import type { CrewTime, PersonRef, TimeDay, TimeEntryView, TimeRow, WeekSheet } from '@crew/contract';
import {
  addDays,
  type CalendarInput,
  capacityOn,
  compileCalendar,
  daysBetween,
  findOverlaps,
  isTimeForgotten,
  parseDay,
  type PersonInput,
  readPerson,
  type IsoDay,
} from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { closedThrough } from './closed-time.ts';

interface Window {
  readonly from: IsoDay;
  readonly to: IsoDay;
}

interface PersonDays extends PersonInput, PersonRef {
  readonly id: string;
  readonly joinedOn: IsoDay | null;
}

const PEOPLE = `
  SELECT json_build_object('week', agency.week, 'closed',
      coalesce((SELECT json_agg(c.day ORDER BY c.day) FROM closed_day c WHERE c.agency_id = agency.id AND c.day BETWEEN $2 AND $3), '[]')) AS calendar,
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'initials', p.initials, 'week', p.week, 'joinedOn', p.joined_on,
        'off', ${timeOffOf('p', 'o.to_day >= $2 AND o.from_day <= $3')}) ORDER BY p.name)
      FROM person p WHERE p.agency_id = agency.id AND (p.id = $4 OR ($4::uuid IS NULL AND p.is_active))), '[]') AS people
  FROM agency WHERE agency.id = $1`;

/** Tasks with time in the week, the one on their timer, and every task that is open or lately was somebody's: rows to fill. */
const ROWS = `
  WITH at_hand AS (
    SELECT x.task_id AS id FROM time_entry x WHERE x.person_id = $2 AND x.day BETWEEN $3 AND $4
    UNION SELECT m.task_id FROM timer m WHERE m.person_id = $2),
  theirs AS (
    SELECT t.id FROM task_assignee a JOIN task t ON t.id = a.task_id JOIN engagement e ON e.id = t.engagement_id
    WHERE a.person_id = $2 AND t.kind NOT IN ('client', 'milestone') AND t.status <> 'dropped'
      AND (t.done_on >= $3::date - 30 OR (t.done_on IS NULL AND e.state IN ('proposal', 'open'))))
  SELECT json_build_object('id', t.id, 'title', t.title, 'isOpen', ${isOpen('t')}, 'isChargeable', t.is_chargeable) AS task,
    ${ENGAGEMENT_IN_COLOUR} AS engagement,
    coalesce(x.entries, '[]') AS entries,
    h.id IS NOT NULL OR (t.status NOT IN ('queued', 'done', 'dropped') AND t.start_day <= $4) AS "isAtHand"
  FROM (SELECT id FROM at_hand UNION SELECT id FROM theirs) r
  JOIN task t ON t.id = r.id JOIN engagement e ON e.id = t.engagement_id JOIN client c ON c.id = e.client_id
  LEFT JOIN at_hand h ON h.id = t.id
  LEFT JOIN LATERAL (SELECT json_agg(json_build_object('id', x.id, 'day', x.day, 'minutes', x.minutes, 'startMinute', x.start_minute, 'note', x.note,
      'isChargeable', x.is_chargeable, 'version', x.version) ORDER BY x.day, x.start_minute, x.id) AS entries
    FROM time_entry x WHERE x.task_id = t.id AND x.person_id = $2 AND x.day BETWEEN $3 AND $4) x ON true
  WHERE t.agency_id = $1 AND NOT t.is_group
  ORDER BY e.name, t.number`;

const LATE_CHANGES = `
  SELECT v.id::text AS id, v.at, w.name AS who, v.kind AS what, coalesce(o.name, '') AS whose, coalesce(v.facts->>'task', '') AS task,
    v.payload->>'day' AS day, v.payload->>'lateReason' AS reason,
    (v.payload->>'minutesBefore')::int AS "from", (v.payload->>'minutesAfter')::int AS "to"
  FROM event v LEFT JOIN account y ON y.id = v.account_id LEFT JOIN person w ON w.id = y.person_id
    LEFT JOIN person o ON o.id::text = v.payload->>'personId'
  WHERE v.agency_id = $1 AND v.payload->>'lateReason' IS NOT NULL ORDER BY v.id DESC LIMIT 50`;

/** Somebody's week, and what the whole crew logged. */
@Injectable()
export class ReadTime {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async week(who: Who, personId: string, window: Window): Promise<WeekSheet> {
    const { from, to } = window;
    const { calendar, people } = await this.peopleIn(who, window, personId);
    const person = requireFound(people[0] ?? null, 'person');
    const [rows, closed] = await Promise.all([
      this.database.rows<TimeRow>(ROWS, [who.agencyId, personId, from, to]),
      closedThrough(this.database.manager, who.agencyId),
    ]);
    const logged = new Map<IsoDay, TimeEntryView[]>();
    for (const entry of rows.flatMap((row) => row.entries)) logged.set(entry.day, [...(logged.get(entry.day) ?? []), entry]);
    return {
      person: { id: person.id, name: person.name, initials: person.initials },
      days: capacities(calendar, person, window).map(({ date, capacity }): TimeDay => {
        const minutes = (logged.get(date) ?? []).reduce((sum, entry) => sum + entry.minutes, 0);
        return {
          ...{ date, capacity, isOff: capacity === 0 },
          isLocked: closed !== null && date <= closed,
          isForgotten: date < this.clock.today() && date >= (person.joinedOn ?? date) && isTimeForgotten({ logged: minutes, capacity }),
        };
      }),
      rows,
      overlaps: [...logged].flatMap(([day, entries]) =>
        findOverlaps(entries.map(({ id, startMinute, minutes }) => ({ id, start: startMinute, minutes }))).map((overlap) => ({
          day,
          ...overlap,
        })),
      ),
      closedThrough: closed,
    };
  }

  async crew(who: Who, window: Window): Promise<CrewTime> {
    const { calendar, people } = await this.peopleIn(who, window, null);
    const [sums, closed, late] = await Promise.all([
      this.database.rows<{ personId: string; day: IsoDay; minutes: number; chargeable: number }>(
        `SELECT x.person_id AS "personId", x.day, sum(x.minutes)::int AS minutes, coalesce(sum(x.minutes) FILTER (WHERE x.is_chargeable), 0)::int AS chargeable
         FROM time_entry x JOIN person p ON p.id = x.person_id WHERE p.agency_id = $1 AND x.day BETWEEN $2 AND $3 GROUP BY 1, 2`,
        [who.agencyId, window.from, window.to],
      ),
      closedThrough(this.database.manager, who.agencyId),
      this.database.rows<CrewTime['lateChanges'][number]>(LATE_CHANGES, [who.agencyId]),
    ]);
    const minutesOn = new Map(sums.map((sum) => [`${sum.personId} ${sum.day}`, sum]));
    return {
      dates: datesIn(window),
      people: people.map((person) => {
        const days = capacities(calendar, person, window);
        const found = days.map(({ date }) => minutesOn.get(`${person.id} ${date}`));
        return {
          person: { id: person.id, name: person.name, initials: person.initials },
          minutes: found.map((sum) => sum?.minutes ?? 0),
          capacity: days.map((day) => day.capacity),
          chargeableMinutes: found.reduce((total, sum) => total + (sum?.chargeable ?? 0), 0),
        };
      }),
      closedThrough: closed,
      lateChanges: late,
    };
  }

  private async peopleIn(
    who: Who,
    { from, to }: Window,
    personId: string | null,
  ): Promise<{ readonly calendar: CalendarInput; readonly people: readonly PersonDays[] }> {
    const facts = await this.database.row<{ calendar: CalendarInput; people: readonly PersonDays[] }>(PEOPLE, [
      who.agencyId,
      from,
      to,
      personId,
    ]);
    return requireFound(facts, 'agency');
  }
}

function datesIn({ from, to }: Window): IsoDay[] {
  return Array.from({ length: daysBetween(from, to) + 1 }, (_, index) => addDays(from, index));
}

/** Available hours day by day; what somebody keeps in reserve for the unplanned is worked too. */
function capacities(
  calendarInput: CalendarInput,
  input: PersonInput,
  window: Window,
): { readonly date: IsoDay; readonly capacity: number }[] {
  const calendar = unwrap(compileCalendar(calendarInput));
  const person = readPerson({ ...input, reserve: 0 }, input.id);
  return datesIn(window).map((date) => ({ date, capacity: capacityOn(calendar, person, parseDay(date) as number) }));
}
