import { Injectable } from '@nestjs/common';
import type { Workload, WorkloadRow, WorkloadTask } from '@crew/contract';
import {
  capacityOn,
  compileCalendar,
  isOpen,
  load,
  parseDay,
  readPerson,
  remainingMinutes,
  type Calendar,
  type LoadDay,
  type IsoDay,
} from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { isLikely, KeepLoad } from '../load/keep-load.ts';
import { toLoadInput, type LoadTaskFacts, type PersonFacts } from '../load/load-facts.ts';

/** The load grid of the crew, from the load that is kept. */
@Injectable()
export class ReadWorkload {
  private readonly keeping: KeepLoad;
  private readonly clock: Clock;
  constructor(keeping: KeepLoad, clock: Clock) {
    this.keeping = keeping;
    this.clock = clock;
  }

  async run(who: Who, window: { readonly from: IsoDay; readonly to: IsoDay }): Promise<Workload> {
    const today = this.clock.today();
    const now = await this.keeping.read(who.agencyId);
    const all = now.facts();
    const facts = { ...all, tasks: all.tasks.filter((task) => task.start <= window.to) };
    const daysOf = (tasks: readonly LoadTaskFacts[]): LoadDay[][] =>
      unwrap(load(toLoadInput({ ...facts, tasks }, { today, ...window }))).people.map((person) => [...person.days]);
    const days = now.days(window) ?? daysOf(facts.tasks);
    const likely = now.likelyDays(window) ?? daysOf(facts.tasks.filter(isLikely));
    const calendar = unwrap(compileCalendar(facts.calendar));
    const inWindow = facts.tasks.filter((task) => task.due >= window.from || task.due < today);
    const tasks = new Map(inWindow.map((task) => [task.id, toTask(task, facts.defaultMinutes)]));
    const viewsOf = (chosen: readonly LoadTaskFacts[]): WorkloadTask[] => chosen.map((task) => tasks.get(task.id) as WorkloadTask);
    return {
      ...window,
      dates: (days[0] ?? []).map(({ date }) => ({ date, isClosed: !isOpen(calendar, parseDay(date) as number) })),
      rows: facts.people.map((person, index) =>
        toRow({
          person,
          calendar,
          days: days[index] ?? [],
          likely: likely[index] ?? [],
          tasks: viewsOf(inWindow.filter((task) => isGivenTo(task, person))),
        }),
      ),
      unassigned: viewsOf(inWindow.filter((task) => task.assignees.length === 0)),
      unestimated: viewsOf(inWindow.filter((task) => task.estimate === undefined)),
      defaultMinutes: facts.defaultMinutes,
    };
  }
}

const isGivenTo = (task: LoadTaskFacts, person: PersonFacts): boolean => task.assignees.some((assignee) => assignee.person === person.id);

function toTask(task: LoadTaskFacts, defaultMinutes: number): WorkloadTask {
  const { id, title, engagementId, engagement, hue, start, due, days, slack, isBegun, version } = task;
  return {
    ...{ id, title, start, due, days, slack, isBegun, version },
    engagement: { id: engagementId, name: engagement, hue },
    minutes: remainingMinutes(task, defaultMinutes),
    hasEstimate: task.estimate !== undefined,
    likelihood: task.likelihood ?? null,
    assigneeIds: task.assignees.map((assignee) => assignee.person),
    roleId: task.roleId ?? null,
    fixedDay: task.fixedDay ?? null,
    isComing: task.isComing === true,
  };
}

interface RowFacts {
  readonly person: PersonFacts;
  readonly calendar: Calendar;
  readonly days: readonly LoadDay[];
  readonly likely: readonly LoadDay[];
  readonly tasks: readonly WorkloadTask[];
}

function toRow({ person, calendar, days, likely, tasks }: RowFacts): WorkloadRow {
  const always = readPerson({ ...person, off: [] }, person.id);
  const isOff = (day: LoadDay): boolean => {
    const date = parseDay(day.date) as number;
    const usual = capacityOn(calendar, always, date);
    // Away, or a weekday the agency works and this person never does.
    return day.capacity < usual || (usual === 0 && isOpen(calendar, date));
  };
  return {
    person: { id: person.id, name: person.name, initials: person.initials },
    roles: person.roles,
    roleIds: person.roleIds,
    capacity: days.map((day) => day.capacity),
    load: days.map((day) => day.load),
    likely: likely.map((day) => day.load),
    off: days.flatMap((day, index) => (isOff(day) ? [index] : [])),
    tasks,
  };
}
