import { addDays, type Calendar, compileCalendar, formatDay, openOnOrAfter, parseDay, workingDaysBetween, type IsoDay } from '@crew/core';
import { LOOK_AHEAD_DAYS, type PersonRef, type PlanEffect } from '@crew/contract';
import { unwrap } from '../platform/refusal.ts';
import { briefDays } from '../schedule/brief-days.ts';
import type { PlanFacts } from '../schedule/plan-facts.ts';
import type { Refreshed } from '../schedule/refresh-engagement.ts';
import { toLoadInput, type LoadFacts } from '../load/load-facts.ts';
import { newOverloads } from '../load/overloads.ts';
import { refOf } from '../load/people-touched.ts';
import type { PlanEdit } from './plan-edit.ts';

/** The facts around a change, before and after it. */
export interface ChangeFacts {
  readonly before: PlanFacts;
  readonly refreshed: Refreshed;
  /** Left out when the change cannot overload anybody. */
  readonly load: { readonly before: LoadFacts; readonly after: LoadFacts } | null;
  readonly today: IsoDay;
  /** Days on which tasks were asked to begin. */
  readonly wishes: NonNullable<PlanEdit['wishes']>;
}

/**
 * What a change did: tasks that moved, fixed days newly missed, what cannot begin when it was
 * asked to, briefs due on another day, the finish against the promise, people newly over.
 */
export function planEffect({ before, refreshed, load, today, wishes }: ChangeFacts): PlanEffect {
  const calendar = unwrap(compileCalendar(refreshed.facts.calendar));
  const byId = new Map(before.tasks.map((task) => [task.id, task]));
  const conflicts = refreshed.schedule.conflicts.filter((conflict) => conflict.days > (byId.get(conflict.task)?.missedDays ?? 0));
  return {
    moves: refreshed.moves.map((move) => {
      const task = byId.get(move.id) ?? refreshed.facts.tasks.find((other) => other.id === move.id);
      return { id: move.id, number: task?.number ?? 0, title: task?.title ?? '', from: move.from, to: move.to };
    }),
    newConflicts: conflicts.map((conflict) => ({
      id: conflict.task,
      title: byId.get(conflict.task)?.title ?? '',
      days: conflict.days,
      fixedDay: refreshed.facts.tasks.find((task) => task.id === conflict.task)?.fixedDay ?? null,
    })),
    held: heldOf(refreshed, wishes, calendar),
    briefs: briefsOf(before, refreshed, today),
    finish: { from: before.finishDay ?? refreshed.schedule.finish, to: refreshed.schedule.finish },
    promise: refreshed.facts.promisedDay,
    promiseSlack: promiseSlack(before, refreshed, calendar),
    overloads: load === null ? [] : overloadsOf(load, today),
  };
}

/** Tasks that cannot begin on the day asked for, with the one that holds them longest. */
function heldOf({ facts, schedule }: Refreshed, wishes: ChangeFacts['wishes'], calendar: Calendar): PlanEffect['held'] {
  const placed = new Map(schedule.tasks.map((task) => [task.id, task]));
  return wishes.flatMap(({ id, notBefore }) => {
    const [task, at] = [facts.tasks.find((candidate) => candidate.id === id), placed.get(id)];
    if (task === undefined || at === undefined || task.fixedDay !== null) return [];
    const wanted = formatDay(openOnOrAfter(calendar, parseDay(notBefore) as number));
    if (at.start <= wanted || task.days === 0) return [];
    const holding = task.after
      .flatMap((link) => placed.get(link.task) ?? [])
      .sort((left, right) => (left.finish < right.finish ? 1 : -1))[0];
    const by =
      holding !== undefined && holding.finish >= wanted ? (facts.tasks.find((other) => other.id === holding.id)?.title ?? null) : null;
    return [{ id, title: task.title, wanted, start: at.start, by }];
  });
}

function briefsOf(before: PlanFacts, { facts, schedule }: Refreshed, today: IsoDay): PlanEffect['briefs'] {
  const days = briefDays(facts, schedule);
  const then = new Map(before.tasks.map((task) => [task.id, task.outside?.briefBy ?? null]));
  return facts.tasks.flatMap((task) => {
    const to = days.get(task.id);
    const from = then.get(task.id) ?? null;
    if (to === undefined || to === from || task.outside?.state !== 'to-brief') return [];
    return [{ id: task.id, title: task.title, from, to, isLate: to < today }];
  });
}

/** Days to spare before and after; what was not promised before is measured by what is promised now. */
function promiseSlack(before: PlanFacts, refreshed: Refreshed, calendar: Calendar): PlanEffect['promiseSlack'] {
  const promise = refreshed.facts.promisedDay;
  if (promise === null) return null;
  const slackTo = (finish: IsoDay, day: IsoDay): number =>
    workingDaysBetween(calendar, (parseDay(finish) as number) + 1, (parseDay(day) as number) + 1);
  const { finish } = refreshed.schedule;
  return { from: slackTo(before.finishDay ?? finish, before.promisedDay ?? promise), to: slackTo(finish, promise) };
}

function overloadsOf(load: NonNullable<ChangeFacts['load']>, today: IsoDay): PlanEffect['overloads'] {
  const window = { today, from: today, to: addDays(today, LOOK_AHEAD_DAYS) };
  const people = new Map(load.after.people.map((person) => [person.id, person]));
  return newOverloads(toLoadInput(load.before, window), toLoadInput(load.after, window)).map(({ personId, minutes, firstDay }) => ({
    person: refOf(people.get(personId) as PersonRef),
    minutes,
    firstDay,
  }));
}
