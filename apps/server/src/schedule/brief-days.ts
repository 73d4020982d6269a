import { briefBy, type CalendarInput, type Schedule, type IsoDay } from '@crew/core';
import { unwrap } from '../platform/refusal.ts';
import type { PlanFacts, TaskFacts } from './plan-facts.ts';
import { isOpen } from './summarise.ts';

/** The last day to send each outside maker's brief, by task. */
export function briefDays(facts: PlanFacts, schedule: Pick<Schedule, 'tasks'>): ReadonlyMap<string, IsoDay> {
  const dated = new Map(schedule.tasks.map((task) => [task.id, task]));
  return new Map(
    facts.tasks.flatMap((task) => {
      const needed = task.outside === null ? null : neededOn(task, facts.tasks, dated);
      return needed === null || task.outside === null ? [] : [[task.id, briefDay(facts.calendar, needed, task.outside)] as const];
    }),
  );
}

function briefDay(calendar: CalendarInput, needed: IsoDay, outside: NonNullable<TaskFacts['outside']>): IsoDay {
  return unwrap(briefBy({ calendar, needed, turnaround: outside.turnaroundDays, buffer: outside.bufferDays })).briefBy;
}

/** Given by hand; else when the first open task that waits for it begins; else when it is due itself. */
function neededOn(
  task: TaskFacts,
  all: readonly TaskFacts[],
  dated: ReadonlyMap<string, { readonly start: IsoDay; readonly finish: IsoDay }>,
): IsoDay | null {
  if (task.outside?.neededOn) return task.outside.neededOn;
  const waiting = all.filter((other) => isOpen(other) && other.after.some((link) => link.task === task.id));
  const starts = waiting.flatMap((other) => dated.get(other.id)?.start ?? []).sort();
  return starts[0] ?? dated.get(task.id)?.finish ?? null;
}
