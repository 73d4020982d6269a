import { Injectable } from '@nestjs/common';
import type { Workload, WorkloadRow, WorkloadTask } from '@crew/contract';
import { capacityOn, compileCalendar, isOpen, load, parseDay, readPerson, remainingMinutes, type Calendar, type LoadDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { readLoadFacts, toLoadInput, type LoadFacts, type LoadTaskFacts, type PersonFacts } from './load-facts.ts';

/** The load grid of the crew, computed by the core from rows. */
@Injectable()
export class ReadWorkload {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(who: Who, window: { readonly from: string; readonly to: string }): Promise<Workload> {
    const today = this.clock.today();
    const facts = await readLoadFacts(this.database.manager, who.agencyId, {
      today: window.from < today ? window.from : today,
      to: window.to,
    });
    const input = toLoadInput(facts, { today, ...window });
    const computed = unwrap(load(input));
    const calendar = unwrap(compileCalendar(facts.calendar));
    const inWindow = facts.tasks.filter((task) => task.due >= window.from || task.due < today);
    const asTask = (task: LoadTaskFacts): WorkloadTask => toTask(task, facts.defaultMinutes);
    return {
      ...window,
      dates: (computed.people[0]?.days ?? []).map(({ date }) => ({ date, isClosed: !isOpen(calendar, parseDay(date) as number) })),
      rows: facts.people.map((person, index) =>
        toRow({
          person,
          calendar,
          days: computed.people[index]?.days ?? [],
          tasks: inWindow.filter((task) => isGivenTo(task, person)).map(asTask),
        }),
      ),
      unassigned: inWindow.filter((task) => task.assignees.length === 0).map(asTask),
      unestimated: countUnestimated(facts, window),
      defaultMinutes: facts.defaultMinutes,
    };
  }
}

const isGivenTo = (task: LoadTaskFacts, person: PersonFacts): boolean => task.assignees.some((assignee) => assignee.person === person.id);

/** Only what this window shows: a note about tasks nobody sees here would be noise. */
function countUnestimated(facts: LoadFacts, window: { readonly from: string; readonly to: string }): number {
  return facts.tasks.filter((task) => task.estimate === undefined && task.start <= window.to && task.due >= window.from).length;
}

function toTask(task: LoadTaskFacts, defaultMinutes: number): WorkloadTask {
  const { id, title, engagementId, engagement, hue, start, due } = task;
  return {
    id,
    title,
    engagement: { id: engagementId, name: engagement, hue },
    start,
    due,
    minutes: remainingMinutes(task, defaultMinutes),
  };
}

interface RowFacts {
  readonly person: PersonFacts;
  readonly calendar: Calendar;
  readonly days: readonly LoadDay[];
  readonly tasks: readonly WorkloadTask[];
}

function toRow({ person, calendar, days, tasks }: RowFacts): WorkloadRow {
  const always = readPerson({ ...person, off: [] }, person.id);
  return {
    person: { id: person.id, name: person.name, initials: person.initials },
    roles: person.roles,
    days: days.map((day) => {
      const date = parseDay(day.date) as number;
      const usual = capacityOn(calendar, always, date);
      // Away, or a weekday the agency works and this person never does.
      return { ...day, isOff: day.capacity < usual || (usual === 0 && isOpen(calendar, date)) };
    }),
    tasks,
  };
}
