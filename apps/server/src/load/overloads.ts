import { LEAST_OVER, load, type LoadInput, type IsoDay } from '@crew/core';
import { unwrap } from '../platform/refusal.ts';

/** Somebody who is over after a change and was not, or not as much, before. */
export interface Overload {
  readonly personId: string;
  readonly minutes: number;
  readonly firstDay: IsoDay;
  readonly percent: number;
}

/** Who is newly overloaded: the minutes above capacity that the change adds, from when, and the fullest week in percent. */
export function newOverloads(before: LoadInput, after: LoadInput): readonly Overload[] {
  const was = new Map(unwrap(load(before)).people.map((person) => [person.id, person.days]));
  return unwrap(load(after)).people.flatMap((person): Overload[] => {
    const old = was.get(person.id) ?? [];
    const added = person.days.filter((day, index) => day.over > (old[index]?.over ?? 0));
    const minutes =
      added.reduce((sum, day) => sum + day.over, 0) -
      added.reduce((sum, day) => sum + (old.find((other) => other.date === day.date)?.over ?? 0), 0);
    const first = added[0];
    if (first === undefined || minutes < LEAST_OVER) return [];
    return [{ personId: person.id, minutes, firstDay: first.date, percent: fullestWeek(person.days) }];
  });
}

function fullestWeek(days: readonly { readonly load: number; readonly capacity: number }[]): number {
  let fullest = 0;
  for (let first = 0; first < days.length; first += 7) {
    const week = days.slice(first, first + 7);
    const capacity = week.reduce((sum, day) => sum + day.capacity, 0);
    const planned = week.reduce((sum, day) => sum + day.load, 0);
    if (capacity > 0) fullest = Math.max(fullest, Math.round((planned * 100) / capacity));
  }
  return fullest;
}
