import { Injectable } from '@nestjs/common';
import type { LineRole, PersonRef, RhythmTried, TryRhythm as Input } from '@crew/contract';
import {
  addDays,
  earliestChange,
  type EarliestChange,
  type ScheduledUnit,
  lineHours,
  load,
  type LoadTaskInput,
  type CalendarInput,
  mondayOf,
  weekdayOf,
  parseDay,
  weeksFrom,
  type IsoDay,
} from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { DryRunTemplate, TRIED } from '../template/dry-run.ts';
import { peopleTouched, refOf } from '../load/people-touched.ts';
import { toLoadInput, type LoadFacts } from '../load/load-facts.ts';
import { loadWindow } from '../load/load-window.ts';
import { LineOnCalendar } from './line-on-calendar.ts';
import { daysOfSeries, readEngagementSeries, requireRhythm, type EngagementSeriesFacts } from './series-facts.ts';

/** How many weeks are told, and how long each change goes on when the earliest is searched. */
const WEEKS = 12;
const SEARCHED_WEEKS = 26;

type Rhythms = EngagementSeriesFacts['rhythms'];

/** The two ways it could go on. */
interface Both {
  readonly before: readonly ScheduledUnit[];
  readonly after: readonly ScheduledUnit[];
}

/**
 * Tries another rhythm of a series on the real load: hours by role in each week before and after,
 * beside what other work leaves of the people with the role; whose days fill; and from when it would
 * put nobody further over. Nothing is saved.
 */
@Injectable()
export class TryRhythm {
  private readonly database: Database;
  private readonly dryRun: DryRunTemplate;
  private readonly clock: Clock;
  constructor(database: Database, dryRun: DryRunTemplate, clock: Clock) {
    this.database = database;
    this.dryRun = dryRun;
    this.clock = clock;
  }

  async run(who: Who, id: string, input: Input): Promise<RhythmTried> {
    const { manager } = this.database;
    const today = this.clock.today();
    const series = requireFound(await readEngagementSeries(manager, who.agencyId, id), 'series');
    requireRhythm(series, input, today);
    const scheduled = await this.dryRun.schedule(manager, who, { templateId: series.templateId, start: input.from });
    const line = new LineOnCalendar(series, scheduled, input.from);
    const weeks = weeksFrom(parseDay(input.from) as number, WEEKS);
    const last = addDays(weeks.at(-1) as IsoDay, 6);
    refuseTooFast(daysOfSeries({ ...series, rhythms: changedOn(series, input, input.from) }, { from: input.from, to: last }));
    const units: Both = { before: line.coming(series.rhythms, last), after: line.coming(changedOn(series, input, input.from), last) };
    const facts = withoutUnits(scheduled.load, series, line.replaced);
    const found = this.earliest(line, { facts, input, today });
    const people = new Map(facts.people.map((person) => [person.id, refOf(person)]));
    const countIn = (coming: readonly ScheduledUnit[]): number[] => {
      const all = [...line.kept(), ...coming];
      return weeks.map((monday) => all.filter((unit) => mondayOf(unit.day) === monday).length);
    };
    return {
      ...{ from: input.from, weeks, unitsBefore: countIn(units.before), unitsAfter: countIn(units.after), searchedWeeks: SEARCHED_WEEKS },
      roles: rolesOf(line, { weeks, units, today, settled: settledUnits(series, changedOn(series, input, input.from), input.from) }),
      people: peopleTouched({
        ...{ before: { ...facts, tasks: [...facts.tasks, ...tasksOf(line, units.before)] }, today },
        after: [...facts.tasks, ...tasksOf(line, units.after)],
        window: loadWindow({ from: input.shownFrom, to: input.shownTo }, today),
      }),
      earliest: found.from,
      alone: found.alone.map(({ person, minutes }) => ({ person: people.get(person) as PersonRef, minutes })),
    };
  }

  private earliest(
    line: LineOnCalendar,
    { facts, input, today }: { readonly facts: LoadFacts; readonly input: Input; readonly today: IsoDay },
  ): EarliestChange {
    const { series } = line;
    const { from: _from, to: _to, ...base } = toLoadInput(facts, { today, from: today, to: today });
    const starts = weeksFrom(parseDay(input.from) as number, SEARCHED_WEEKS).map((monday) => (monday < input.from ? input.from : monday));
    return unwrap(
      earliestChange({
        load: base,
        candidates: starts.map((from) => {
          const to = addDays(from, WEEKS * 7);
          return {
            from,
            before: line.worksOf(line.coming(series.rhythms, to)),
            after: line.worksOf(line.coming(changedOn(series, input, from), to)),
          };
        }),
      }),
    );
  }
}

/** More in twelve weeks than a crew of forty could do. */
const MOST_TRIED = 500;

function refuseTooFast(days: readonly { readonly each: number }[]): void {
  const count = days.reduce((sum, { each }) => sum + each, 0);
  if (count > MOST_TRIED)
    throw new Refusal('too-large', `This is ${count} in ${WEEKS} weeks; at most ${MOST_TRIED} can be tried. Choose a slower pace.`, {
      field: 'rule',
    });
}

/** The rhythms as they would be with the change on a day. */
function changedOn(series: EngagementSeriesFacts, input: Pick<Input, 'rule' | 'each'>, from: IsoDay): Rhythms {
  const kept = series.rhythms.filter((rhythm) => rhythm.from !== from);
  return [...kept, { from, rule: input.rule, each: input.each ?? 1 }];
}

/** The load without the work of these units of a series, and of those it has not made. */
function withoutUnits(facts: LoadFacts, series: { readonly id: string }, units: readonly { readonly id: string }[]): LoadFacts {
  const gone = new Set([series.id, ...units.map(({ id }) => id)]);
  return { ...facts, tasks: facts.tasks.filter((task) => !gone.has(task.engagementId)) };
}

/** The work of scheduled units as tasks of the load. */
const tasksOf = (line: LineOnCalendar, units: readonly ScheduledUnit[]): LoadTaskInput[] =>
  line
    .worksOf(units)
    .map(({ person, minutes, start, due }, index) => ({ id: `${TRIED}${index}`, assignees: [{ person }], estimate: minutes, start, due }));

/** Units in an ordinary week. */
interface SettledUnits {
  readonly before: number;
  readonly after: number;
}

const YEAR_WEEKS = 52;

/** How many units a week each way comes to in the long run: over a year without closed days, what is skipped and what is added. */
function settledUnits(series: EngagementSeriesFacts, changed: Rhythms, from: IsoDay): SettledUnits {
  const plain = { ...series, calendar: { ...series.calendar, closed: [] }, skipped: [], extra: [], stoppedOn: null };
  const first = mondayOf(addDays(from, 7));
  const window = { from: first, to: addDays(first, YEAR_WEEKS * 7 - 1) };
  const perWeek = (rhythms: Rhythms): number =>
    daysOfSeries({ ...plain, rhythms }, window).reduce((sum, { each }) => sum + each, 0) / YEAR_WEEKS;
  return { before: perWeek(series.rhythms), after: perWeek(changed) };
}

/** Places of the weeks in which no open day is closed, of the later half by which a change has settled; all of that half where there is none. */
function ordinaryWeeks(weeks: readonly IsoDay[], { week, closed }: CalendarInput): number[] {
  const shut = new Set(closed.filter((day) => (week[weekdayOf(parseDay(day) as number)] ?? 0) > 0).map(mondayOf));
  const late = weeks.map((_, index) => index).slice(Math.floor(weeks.length / 2));
  const ordinary = late.filter((index) => !shut.has(weeks[index] as IsoDay));
  return ordinary.length > 0 ? ordinary : late;
}

const meanOf = (minutes: readonly number[]): number =>
  Math.round(minutes.reduce((sum, week) => sum + week, 0) / Math.max(1, minutes.length));

/** What the line asks of each role in each week, both ways, and what other work leaves of those who hold it. */
function rolesOf(
  line: LineOnCalendar,
  {
    weeks,
    units,
    today,
    settled,
  }: { readonly weeks: readonly IsoDay[]; readonly units: Both; readonly today: IsoDay; readonly settled: SettledUnits },
): LineRole[] {
  const { scheduled, series, work } = line;
  const kept = line.kept();
  const hoursOf = (coming: readonly ScheduledUnit[]): ReadonlyMap<string, readonly number[]> => {
    const sums = unwrap(lineHours({ calendar: scheduled.calendar, work, units: [...kept, ...coming], weeks }));
    return new Map(sums.map(({ role, minutes }) => [role, minutes]));
  };
  const [before, after] = [hoursOf(units.before), hoursOf(units.after)];
  const first = weeks[0] as IsoDay;
  const window = { today, from: first < today ? today : first, to: addDays(weeks.at(-1) as IsoDay, 6) };
  const others = unwrap(load(toLoadInput(withoutUnits(scheduled.load, series, series.made), window))).people;
  const ordinary = ordinaryWeeks(weeks, scheduled.calendar);
  const names = new Map(scheduled.template.tasks.map((task) => [task.roleId ?? '', task.role ?? 'No role']));
  return [...new Set(work.map(({ role }) => role))].map((role): LineRole => {
    const holders = scheduled.load.people.flatMap((person, index) => (person.roleIds.includes(role) ? (others[index]?.days ?? []) : []));
    const isHeld = scheduled.load.people.some((person) => person.roleIds.includes(role));
    const roomIn = (monday: IsoDay): number =>
      holders.reduce((sum, day) => sum + (mondayOf(day.date) === monday ? Math.max(0, day.capacity - day.load) : 0), 0);
    const unitMinutes = work.reduce((sum, one) => sum + (one.role === role ? one.minutes : 0), 0);
    const room = isHeld ? weeks.map(roomIn) : null;
    return {
      ...{ roleId: role === '' ? null : role, role: names.get(role) ?? 'No role', unitMinutes, room },
      ...{ before: before.get(role) ?? [], after: after.get(role) ?? [] },
      settled: {
        before: Math.round(unitMinutes * settled.before),
        after: Math.round(unitMinutes * settled.after),
        room: room === null ? null : meanOf(ordinary.map((index) => room[index] as number)),
      },
    };
  });
}
