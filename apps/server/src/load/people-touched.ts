import { LOOK_AHEAD_DAYS, type LoadEffect, type PersonRef, type PlansTried } from '@crew/contract';
import { addDays, compareLoad, type EaseEffect, type LoadTaskInput, type IsoDay } from '@crew/core';
import { unwrap } from '../platform/refusal.ts';
import { toLoadInput, type AnyLoad } from './load-facts.ts';
import type { LoadWindow } from './load-window.ts';

export const refOf = ({ id, name, initials }: PersonRef): PersonRef => ({ id, name, initials });

/** The core's effect on somebody, with their name. */
export function toEffect({ person, before, after }: EaseEffect, people: ReadonlyMap<string, PersonRef>): LoadEffect {
  return { person: refOf(people.get(person) as PersonRef), before, after };
}

interface Touching {
  readonly before: AnyLoad;
  /** The tasks as they would be. */
  readonly after: readonly LoadTaskInput[];
  readonly today: IsoDay;
  readonly window: LoadWindow;
}

/** Everybody whose work on some day differs, with their load over the window as it would be. */
export function peopleTouched({ before, after, today, window }: Touching): PlansTried['people'] {
  const ahead = { from: today, to: addDays(today, LOOK_AHEAD_DAYS) };
  const { from: _from, to: _to, ...load } = toLoadInput(before, { today, ...ahead });
  const people = new Map(before.people.map((person) => [person.id, person]));
  return unwrap(compareLoad({ load, tasks: after, ahead, shown: window })).map(({ load: days, ...effect }) => ({
    ...toEffect(effect, people),
    load: days,
  }));
}
