import { Injectable } from '@nestjs/common';
import { addDays, daysBetween, type Occurrence, type IsoDay } from '@crew/core';
import type { EntityManager } from 'typeorm';
import { StartEngagement } from '../engagement/start-engagement.ts';
import { isJob, type Actor } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { firstRow, rowsOf } from '../platform/database.ts';
import { addSeriesJobs } from '../platform/job-names.ts';
import { lockEngagements, lockKept } from '../platform/locks.ts';
import type { Who } from '../platform/rights.ts';
import { deleteEngagements } from '../task/delete-tasks.ts';
import { DryRunTemplate } from '../template/dry-run.ts';
import { TemplateRepository } from '../template/template.repository.ts';
import { keepComing } from './keep-coming.ts';
import { daysOfSeries, MOST_AT_ONCE, nameOfUnit, refuseTooMany, readEngagementSeries, type EngagementSeriesFacts } from './series-facts.ts';

/** The next one is made even when it is further off than that: a lead sees that it goes on. */
const NEXT_WITHIN_DAYS = 400;

/** What settling a series did. */
export interface Settled {
  readonly removed: number;
  readonly made: number;
}

/**
 * Makes the engagements of a series as far ahead as it says, and takes away those ahead that
 * nobody has touched and that no rhythm has a place for any more. Numbers go on without gaps
 * among what is left. Doing it twice changes nothing.
 */
@Injectable()
export class SettleUnits {
  private readonly starting: StartEngagement;
  private readonly dryRun: DryRunTemplate;
  private readonly templates: TemplateRepository;
  private readonly clock: Clock;
  constructor(starting: StartEngagement, dryRun: DryRunTemplate, templates: TemplateRepository, clock: Clock) {
    this.starting = starting;
    this.dryRun = dryRun;
    this.templates = templates;
    this.clock = clock;
  }

  /**
   * The series is locked, so that two processes cannot make the same unit. A job makes as many
   * as are made at once and is asked for again; somebody who asks for more is refused.
   */
  async run(manager: EntityManager, seriesId: string, actor: Actor): Promise<Settled> {
    const today = this.clock.today();
    await lockKept(manager, 'engagement_series', seriesId);
    const before = await readEngagementSeries(manager, null, seriesId);
    if (before === null) return { removed: 0, made: 0 };
    const gone = withoutPlace(
      before,
      before.made.filter((unit) => unit.isUntouched && unit.start > today),
    );
    const removed = await removeUntouched(manager, before, gone);
    const series = { ...before, made: before.made.filter(({ id }) => !removed.includes(id)) };
    const who = await leadOf(manager, series);
    const to = await this.horizon(manager, who, series);
    const days = series.madeUntil === null ? firstOf(series) : addDays(series.madeUntil, 1);
    const wanted = to < days ? [] : daysOfSeries(series, { from: days, to });
    if (!isJob(actor)) refuseTooMany(wanted.reduce((sum, { each }) => sum + each, 0));
    const now = isJob(actor) ? firstOnes(wanted, MOST_AT_ONCE) : wanted;
    const made = await this.make(manager, who, { series, wanted: now, actor });
    const rest = wanted[now.length];
    await rowsOf(
      manager,
      'UPDATE engagement_series SET made_until = greatest(made_until, $2), settled_on = coalesce($3, settled_on) WHERE id = $1',
      rest === undefined ? [seriesId, to, today] : [seriesId, addDays(rest.day, -1), null],
    );
    if (isJob(actor)) await this.keepComing(manager, who, seriesId);
    else await addSeriesJobs(manager, { agencyId: series.agencyId, seriesId });
    return { removed: removed.length, made };
  }

  /** What is not created yet counts in the load anyway; working it out is the job's, so that nobody waits for it. */
  private async keepComing(manager: EntityManager, who: Who, seriesId: string): Promise<void> {
    const series = await readEngagementSeries(manager, null, seriesId);
    if (series === null) return;
    const template = await this.templates.find(manager, who.agencyId, { templateId: series.templateId });
    if (template !== null) await keepComing(manager, series, { template, today: this.clock.today() });
  }

  /** Up to which day of the rule units are made: so far ahead of their start, and the next one in any case. */
  private async horizon(manager: EntityManager, who: Who, series: EngagementSeriesFacts): Promise<IsoDay> {
    const today = this.clock.today();
    const ahead = addDays(today, series.aheadDays + (series.places === 'start' ? 0 : await this.unitDays(manager, who, series)));
    const next = daysOfSeries(series, { from: addDays(today, 1), to: addDays(today, NEXT_WITHIN_DAYS) })[0]?.day ?? ahead;
    return next > ahead ? next : ahead;
  }

  /** Calendar days a unit lasts, as it would from today. */
  private async unitDays(manager: EntityManager, who: Who, series: EngagementSeriesFacts): Promise<number> {
    const start = this.clock.today();
    const scheduled = await this.dryRun.schedule(manager, who, { templateId: series.templateId, start });
    return daysBetween(start, scheduled.schedule.finish) + 1;
  }

  private async make(
    manager: EntityManager,
    who: Who,
    { series, wanted, actor }: { readonly series: EngagementSeriesFacts; readonly wanted: readonly Occurrence[]; readonly actor: Actor },
  ): Promise<number> {
    const there = new Set(series.made.map(({ day, place }) => `${day} ${place}`));
    let number = series.made.reduce((most, unit) => Math.max(most, unit.number), 0);
    let made = 0;
    for (const { day, on, each } of wanted) {
      for (let index = 1; index <= each; index++) {
        if (there.has(`${day} ${index}`)) continue;
        number++;
        made++;
        await this.makeOne(manager, who, { series, number, day, on, place: index, actor });
      }
    }
    return made;
  }

  private async makeOne(
    manager: EntityManager,
    who: Who,
    unit: {
      readonly series: EngagementSeriesFacts;
      readonly number: number;
      readonly day: IsoDay;
      readonly on: IsoDay;
      readonly place: number;
      readonly actor: Actor;
    },
  ): Promise<void> {
    const { series, number, day, on, place, actor } = unit;
    const { id } = await this.starting.within(manager, who, {
      made: { seriesId: series.id, actor },
      input: {
        templateId: series.templateId,
        clientId: series.clientId,
        ...(series.contactId === null ? {} : { contactId: series.contactId }),
        name: nameOfUnit(series.unitName, { number, day }),
        ...(series.places === 'start' ? { start: on } : { promise: on }),
        roles: series.roles.map((choice) => ({ ...choice })),
      },
    });
    await rowsOf(
      manager,
      'UPDATE engagement SET series_id = $2, series_number = $3, series_day = $4, series_place = $5, agreed_minutes = $6, agreed_carry = $7 WHERE id = $1',
      [...[id, series.id, number, day, place, series.retainerMinutes], series.retainerMinutes === null ? null : series.carry],
    );
  }
}

/** The first days that come to no more than so many units, but at least one day. */
function firstOnes(days: readonly Occurrence[], most: number): Occurrence[] {
  let count = 0;
  return days.filter(({ each }, index) => (count += each) <= most || index === 0);
}

/** Removes units, but for those that somebody has touched by the time they are locked. Answers the ids of those that are gone. */
export async function removeUntouched(manager: EntityManager, series: EngagementSeriesFacts, ids: readonly string[]): Promise<string[]> {
  if (ids.length === 0) return [];
  await lockEngagements(manager, ids, 'remove');
  const now = await readEngagementSeries(manager, null, series.id);
  const untouched = (now?.made ?? []).filter((unit) => unit.isUntouched && ids.includes(unit.id)).map(({ id }) => id);
  await deleteEngagements(manager, untouched);
  return untouched;
}

const firstOf = (series: EngagementSeriesFacts): IsoDay => [...series.rhythms.map(({ from }) => from), ...series.extra].sort()[0] as IsoDay;

/** The ids of units that no rhythm has a place for any more. */
function withoutPlace(series: EngagementSeriesFacts, units: EngagementSeriesFacts['made']): string[] {
  const days = units.map(({ day }) => day).sort();
  const [from, to] = [days[0], days.at(-1)];
  if (from === undefined || to === undefined) return [];
  const placesOn = new Map(daysOfSeries(series, { from, to }).map(({ day, each }) => [day, each]));
  return units.filter((unit) => unit.place > (placesOn.get(unit.day) ?? 0)).map(({ id }) => id);
}

/** Who starts them: the lead of the series, whether or not she can still sign in. */
async function leadOf(manager: EntityManager, series: EngagementSeriesFacts): Promise<Who> {
  const who = await firstRow<Who>(
    manager,
    `SELECT a.id AS "accountId", p.agency_id AS "agencyId", y.name AS "agencyName", p.access, p.name, p.initials, p.id AS "personId", NULL AS "clientId", '{}'::uuid[] AS "clientIds", NULL AS "clientName"
     FROM person p JOIN agency y ON y.id = p.agency_id LEFT JOIN account a ON a.person_id = p.id WHERE p.id = $1`,
    [series.leadId],
  );
  if (who === null) throw new Error(`the lead of series ${series.id} vanished`);
  return who;
}
