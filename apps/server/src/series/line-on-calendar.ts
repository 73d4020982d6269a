import { addDays, type DatedWork, type ScheduledUnit, scheduleUnits, type LineWork, toSchedulePlan, type IsoDay } from '@crew/core';
import { unwrap } from '../platform/refusal.ts';
import type { ScheduledTemplate } from '../template/dry-run.ts';
import { daysOfSeries, type EngagementSeriesFacts, type MadeUnit } from './series-facts.ts';

type Rhythms = EngagementSeriesFacts['rhythms'];

/** The units of a series on the calendar: those that were made, and those a rhythm would make. */
export class LineOnCalendar {
  readonly series: EngagementSeriesFacts;
  readonly scheduled: ScheduledTemplate;
  /** What one unit asks of each role; what has no role counts under none. */
  readonly work: readonly LineWork[];
  private readonly from: IsoDay;
  private readonly known = new Map<string, ScheduledUnit>();

  /** From `from` on, units that nobody has touched would be made anew. */
  constructor(series: EngagementSeriesFacts, scheduled: ScheduledTemplate, from: IsoDay) {
    this.series = series;
    this.scheduled = scheduled;
    this.from = from;
    this.work = scheduled.template.tasks
      .filter((task) => !task.isGroup && task.kind !== 'client' && task.kind !== 'milestone')
      .map((task) => ({ task: task.id, role: task.roleId ?? '', minutes: task.estimateMinutes ?? scheduled.load.defaultMinutes }));
  }

  /** Units that would go, were the rhythm another one. */
  get replaced(): readonly MadeUnit[] {
    return this.series.made.filter((unit) => unit.isUntouched && unit.day >= this.from);
  }

  /** Units that stay, scheduled as they were to be. */
  kept(): ScheduledUnit[] {
    const replaced = new Set(this.replaced.map(({ id }) => id));
    const { made, places } = this.series;
    return made.filter(({ id }) => !replaced.has(id)).map((unit) => this.unitOn(places === 'start' ? unit.start : unit.day));
  }

  /** Units a rhythm has up to a day that are not made for good, each as often as its day has it. */
  coming(rhythms: Rhythms, to: IsoDay): ScheduledUnit[] {
    const { madeUntil } = this.series;
    const first = madeUntil === null || madeUntil >= this.from ? this.from : addDays(madeUntil, 1);
    const replaced = new Set(this.replaced.map(({ id }) => id));
    const kept = new Set(this.series.made.filter(({ id }) => !replaced.has(id)).map(({ day, place }) => `${day} ${place}`));
    return daysOfSeries({ ...this.series, rhythms }, { from: first, to }).flatMap(({ day, on, each }) =>
      Array.from({ length: each }, (_, index) => index + 1)
        .filter((index) => !kept.has(`${day} ${index}`))
        .map(() => this.unitOn(on)),
    );
  }

  /** The work of units that a person is chosen for. */
  worksOf(units: readonly ScheduledUnit[]): DatedWork[] {
    const personOf = new Map(this.series.roles.map(({ roleId, personId }) => [roleId, personId]));
    const there = new Set(this.scheduled.load.people.map(({ id }) => id));
    const work = this.work.flatMap(({ task, role, minutes }) => {
      const person = personOf.get(role) ?? null;
      return person === null || !there.has(person) ? [] : [{ task, person, minutes }];
    });
    return units.flatMap(({ schedule }) => {
      const dates = new Map(schedule.tasks.map((task) => [task.id, task]));
      return work.flatMap(({ task, person, minutes }) => {
        const at = dates.get(task);
        return at === undefined ? [] : [{ person, minutes, start: at.start, due: at.finish }];
      });
    });
  }

  private unitOn(day: IsoDay): ScheduledUnit {
    const known = this.known.get(day);
    if (known !== undefined) return known;
    const { scheduled, series } = this;
    const [unit] = unwrap(
      scheduleUnits({ calendar: scheduled.calendar, plan: toSchedulePlan(scheduled.template), places: series.places }, [day]),
    );
    this.known.set(day, unit as ScheduledUnit);
    return unit as ScheduledUnit;
  }
}
