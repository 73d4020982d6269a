import { formatDay, parseDay } from '@crew/core';
import type { PersonRef, PlanEffect } from '@crew/contract';
import type { PlanFacts } from '../schedule/plan-facts.ts';
import type { Refreshed } from '../schedule/refresh-engagement.ts';
import { toLoadInput, type LoadFacts } from '../workload/load-facts.ts';
import { newOverloads } from '../workload/overloads.ts';

/** The facts around a change, before and after it. */
export interface ChangeFacts {
  readonly before: PlanFacts;
  readonly refreshed: Refreshed;
  /** Left out when the change cannot overload anybody. */
  readonly load: { readonly before: LoadFacts; readonly after: LoadFacts } | null;
  readonly today: string;
}

const LOOK_AHEAD_DAYS = 120;

/** What a change did: tasks that moved, fixed days newly missed, the finish against the promise, people newly over. */
export function planEffect({ before, refreshed, load, today }: ChangeFacts): PlanEffect {
  const byId = new Map(before.tasks.map((task) => [task.id, task]));
  const conflicts = refreshed.schedule.conflicts.filter((conflict) => conflict.days > (byId.get(conflict.task)?.missedDays ?? 0));
  return {
    moves: refreshed.moves.map((move) => {
      const task = byId.get(move.id) ?? refreshed.facts.tasks.find((other) => other.id === move.id);
      return { id: move.id, number: task?.number ?? 0, title: task?.title ?? '', from: move.from, to: move.to };
    }),
    newConflicts: conflicts.map((conflict) => ({ id: conflict.task, title: byId.get(conflict.task)?.title ?? '', days: conflict.days })),
    finish: { from: before.finishDay ?? refreshed.schedule.finish, to: refreshed.schedule.finish },
    promise: before.promisedDay,
    overloads: load === null ? [] : overloadsOf(load, today),
  };
}

function overloadsOf(load: NonNullable<ChangeFacts['load']>, today: string): PlanEffect['overloads'] {
  const window = { today, from: today, to: formatDay((parseDay(today) as number) + LOOK_AHEAD_DAYS) };
  const people = new Map(load.after.people.map((person) => [person.id, person]));
  return newOverloads(toLoadInput(load.before, window), toLoadInput(load.after, window)).map(({ personId, minutes, firstDay }) => ({
    person: refOf(people.get(personId) as PersonRef),
    minutes,
    firstDay,
  }));
}

const refOf = ({ id, name, initials }: PersonRef): PersonRef => ({ id, name, initials });
