import { Injectable } from '@nestjs/common';
import type { TaskRoom } from '@crew/contract';
import { addDays, ownDays, type IsoDay, type OwnDay } from '@crew/core';
import type { LoadTaskFacts } from '../load/load-facts.ts';
import { KeepLoad } from '../load/keep-load.ts';
import { Clock } from '../platform/clock.ts';
import { unwrap } from '../platform/refusal.ts';

/** What is due later than this is not looked for a day yet. */
const LOOKED_DAYS = 60;
/** Days looked at for what is overdue. */
const LATE_DAYS = 7;

/** Where tasks fit into the days of whoever has them. */
@Injectable()
export class FindRoom {
  private readonly load: KeepLoad;
  private readonly clock: Clock;
  constructor(load: KeepLoad, clock: Clock) {
    this.load = load;
    this.clock = clock;
  }

  /** By task; those that are not open or not theirs are left out. */
  async run(agencyId: string, personId: string, taskIds: readonly string[]): Promise<ReadonlyMap<string, TaskRoom>> {
    if (taskIds.length === 0) return new Map();
    const today = this.clock.today();
    const to = addDays(today, LOOKED_DAYS);
    const facts = (await this.load.read(agencyId)).facts();
    const tasks = facts.tasks.filter(({ assignees }) => assignees.some(({ person }) => person === personId));
    const wanted = tasks.filter(({ id }) => taskIds.includes(id));
    if (wanted.length === 0) return new Map();
    const days = unwrap(ownDays({ ...facts, tasks, today, from: today, to }, personId));
    return new Map(wanted.map((task) => [task.id, roomFor(task, days, today)]));
  }
}

function roomFor({ id, start, due }: LoadTaskFacts, days: readonly OwnDay[], today: IsoDay): TaskRoom {
  const partOn = ({ parts }: OwnDay): number => parts.find(({ task }) => task === id)?.minutes ?? 0;
  const left = days.reduce((sum, day) => sum + partOn(day), 0);
  const last = due < today ? addDays(today, LATE_DAYS) : due;
  const free = days
    .filter(({ date }) => date >= start && date <= last)
    .map((day) => ({ date: day.date, freeMinutes: day.capacity - day.load + partOn(day) }));
  const onDue = days.find(({ date }) => date === due);
  return {
    isPlaced: days.some(({ parts }) => parts.some(({ task, isPlaced }) => task === id && isPlaced)),
    day: left === 0 ? null : (free.find(({ freeMinutes }) => freeMinutes >= left) ?? null),
    onDue: onDue === undefined ? null : { date: onDue.date, loadMinutes: onDue.load, capacityMinutes: onDue.capacity },
  };
}
