import { readCalendar, rank, select, type Calendar, type CalendarInput } from '../calendar/calendar.ts';
import { formatDay, weekdayOf, type DayNumber, type IsoDay } from '../calendar/day.ts';
import { requireDay, requireWhole } from '../check.ts';
import { attempt, ProblemError, type Result } from '../result.ts';
import { schedule, scheduleBack } from '../schedule/schedule.ts';
import type { Schedule, ScheduleInput } from '../schedule/types.ts';

/** The effort a task of one unit needs from a role; minutes. */
export interface LineWork {
  readonly task: string;
  readonly role: string;
  readonly minutes: number;
}

/** One unit of a line: its plan, and whether its day is its start or its promise. */
export interface LineUnit {
  readonly calendar: CalendarInput;
  readonly plan: Omit<ScheduleInput, 'start' | 'today' | 'calendar' | 'promise'>;
  readonly places: 'start' | 'promise';
}

/** A unit scheduled on the calendar. */
export interface ScheduledUnit {
  readonly day: IsoDay;
  readonly schedule: Schedule;
}

/** Schedules a unit on each day; units of one day are scheduled alike. */
export function scheduleUnits(unit: LineUnit, days: readonly IsoDay[]): Result<ScheduledUnit[]> {
  return attempt(() =>
    days.map((day) => {
      const plan = { ...unit.plan, calendar: unit.calendar };
      const scheduled = unit.places === 'start' ? schedule({ ...plan, start: day }) : scheduleBack({ ...plan, promise: day });
      if (!scheduled.ok) throw new ProblemError(scheduled.problem);
      return { day, schedule: scheduled.value };
    }),
  );
}

/** Minutes of each role in each week; weeks are their Mondays. */
export interface RoleWeeks {
  readonly role: string;
  readonly minutes: readonly number[];
}

/**
 * The effort scheduled units need from each role in each of the weeks: a task's minutes evenly on its
 * open days (the first days get what does not divide), summed by week. `units` may hold a scheduled
 * unit several times. Roles in the order in which `work` names them.
 */
export function lineHours(input: {
  readonly calendar: CalendarInput;
  readonly work: readonly LineWork[];
  readonly units: readonly ScheduledUnit[];
  readonly weeks: readonly IsoDay[];
}): Result<RoleWeeks[]> {
  return attempt(() => {
    const calendar = readCalendar(input.calendar, 'calendar');
    const places = new Map(input.weeks.map((monday, index) => [mondayOf(requireDay(monday, `weeks[${index}]`)), index]));
    const sums = new Map(input.work.map(({ role }) => [role, new Array<number>(input.weeks.length).fill(0)]));
    for (const unit of input.units) {
      const dates = new Map(unit.schedule.tasks.map((task) => [task.id, task]));
      for (const { task, role, minutes } of input.work) {
        const at = dates.get(task);
        if (at === undefined) continue;
        const span = { first: requireDay(at.start, 'start'), last: requireDay(at.finish, 'finish') };
        for (const part of spreadEvenly(calendar, span, requireWhole(minutes, `work[${task}].minutes`, 0))) {
          const week = places.get(mondayOf(part.day));
          if (week !== undefined) (sums.get(role) as number[])[week] = ((sums.get(role) as number[])[week] as number) + part.minutes;
        }
      }
    }
    return [...sums].map(([role, minutes]) => ({ role, minutes }));
  });
}

const mondayOf = (day: DayNumber): DayNumber => day - weekdayOf(day);

function spreadEvenly(
  calendar: Calendar,
  span: { readonly first: DayNumber; readonly last: DayNumber },
  minutes: number,
): { readonly day: DayNumber; readonly minutes: number }[] {
  const from = rank(calendar, span.first);
  const count = Math.max(1, rank(calendar, span.last + 1) - from);
  const [share, rest] = [Math.floor(minutes / count), minutes % count];
  return Array.from({ length: count }, (_, index) => ({ day: select(calendar, from + index), minutes: share + (index < rest ? 1 : 0) }));
}

/** The Mondays of so many weeks from the week of a day on. */
export function weeksFrom(day: DayNumber, count: number): IsoDay[] {
  const first = mondayOf(day);
  return Array.from({ length: count }, (_, index) => formatDay(first + index * 7));
}
