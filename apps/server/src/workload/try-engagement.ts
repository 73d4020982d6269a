import { Injectable } from '@nestjs/common';
import type { PersonRef, PlanEngagement, RoleNeed, TriedEngagement, TryEngagement as Input } from '@crew/contract';
import {
  compileCalendar,
  earliestStart,
  parseDay,
  remainingMinutes,
  toSchedulePlan,
  type LoadTaskInput,
  type PersonMinutes,
  workingDaysBetween,
} from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { refuseUnstartable } from '../template/refuse-unstartable.ts';
import { DryRunTemplate, TRIED, scheduledWork, workOfRole, type ScheduledTemplate } from '../template/dry-run.ts';
import { peopleTouched, refOf } from '../load/people-touched.ts';
import { toLoadInput } from '../load/load-facts.ts';
import { loadWindow, requireNear } from '../load/load-window.ts';

/** About a year of working days from today: who cannot start within it asks for less, and further ahead less and less is known. */
const SEARCHED_DAYS = 250;
/** A start late in that year is compared with some more anyway. */
const LEAST_SEARCHED_DAYS = 20;

/** Tries a new engagement on the real load: whom it would overload, and when it could start without that. Nothing is saved. */
@Injectable()
export class TryEngagement {
  private readonly database: Database;
  private readonly dryRun: DryRunTemplate;
  private readonly clock: Clock;
  constructor(database: Database, dryRun: DryRunTemplate, clock: Clock) {
    this.database = database;
    this.dryRun = dryRun;
    this.clock = clock;
  }

  async run(who: Who, input: Input): Promise<TriedEngagement> {
    const today = this.clock.today();
    if (input.start < today) throw new Refusal('invalid-day', 'That day is over. Choose today or a later one.', { field: 'start' });
    requireNear(input.start, today, 'start');
    const window = loadWindow(input, today);
    const plan: PlanEngagement = {
      templateId: input.templateId,
      start: input.start,
      ...(input.roles === undefined ? {} : { roles: input.roles }),
    };
    const { manager } = this.database;
    await refuseUnstartable(manager, who, input.templateId);
    const scheduled = await this.dryRun.schedule(manager, who, plan);
    const { roles, overloads, effortMinutes, unestimated, finish } = await this.dryRun.describe(manager, who, { plan, scheduled });
    return {
      ...{ start: input.start, finish, effortMinutes, unestimated, roles, searchedDays: SEARCHED_DAYS },
      unmannedMinutes: roles.reduce((sum, role) => sum + (role.chosen === null ? role.minutes : 0), 0),
      overloads: overloads.map(({ person, minutes, firstDay }) => ({ person, minutes, firstDay })),
      people: peopleTouched({ before: scheduled.load, after: withWork(scheduled, roles, input.likelihood), today, window }),
      earliest: this.earliest(scheduled, roles, input),
    };
  }

  /** Roles somebody was chosen for stay theirs; any holder may take the others, whoever is free then. */
  private earliest(scheduled: ScheduledTemplate, roles: readonly RoleNeed[], input: Input): TriedEngagement['earliest'] {
    const today = this.clock.today();
    const { from: _from, to: _to, ...load } = toLoadInput(scheduled.load, { today, from: input.start, to: input.start });
    const chosen = new Set((input.roles ?? []).map(({ roleId }) => roleId));
    const [theirs, open] = [roles.filter(({ roleId }) => chosen.has(roleId)), roles.filter(({ roleId }) => !chosen.has(roleId))];
    const days = unwrap(compileCalendar(scheduled.calendar));
    const ahead = workingDaysBetween(days, parseDay(today) as number, parseDay(input.start) as number);
    const found = unwrap(
      earliestStart({
        load,
        plan: { calendar: scheduled.calendar, ...toSchedulePlan(scheduled.template) },
        work: scheduledWork(scheduled, theirs).map((task) => ({
          ...workOf(scheduled, task),
          person: task.assignees[0]?.person ?? '',
        })),
        teams: open.map((role) => ({
          id: role.roleId,
          holders: holdersOf(scheduled, role),
          work: workOfRole(scheduled, role.roleId).map((task) => workOf(scheduled, task)),
        })),
        from: input.start,
        tries: Math.max(LEAST_SEARCHED_DAYS, SEARCHED_DAYS - ahead),
      }),
    );
    const people = new Map(scheduled.load.people.map((person) => [person.id, refOf(person)]));
    const named = (list: readonly PersonMinutes[]) =>
      list.map(({ person, minutes }) => ({ person: people.get(person) as PersonRef, minutes }));
    const { start, finish, fits, teams } = found;
    return {
      ...{ start, finish, fits, over: named(found.over), alone: named(found.alone) },
      roles: teams.map(({ id, person }) => ({ roleId: id, person: people.get(person) as PersonRef })),
    };
  }
}

const workOf = (scheduled: ScheduledTemplate, task: LoadTaskInput): { readonly task: string; readonly minutes: number } => ({
  task: task.id.slice(TRIED.length),
  minutes: remainingMinutes(task, scheduled.load.defaultMinutes),
});

/** All who hold a role, whoever is suggested for the day asked for first. */
function holdersOf({ load }: ScheduledTemplate, { roleId, suggestions }: RoleNeed): string[] {
  const suggested = suggestions.map(({ person }) => person.id);
  const others = load.people.filter((person) => person.roleIds.includes(roleId) && !suggested.includes(person.id));
  return [...suggested, ...others.map(({ id }) => id)];
}

/** All tasks with the new work, as far as it is likely. */
const withWork = (scheduled: ScheduledTemplate, roles: readonly RoleNeed[], likelihood = 100): readonly LoadTaskInput[] => [
  ...scheduled.load.tasks,
  ...scheduledWork(scheduled, roles).map((task) => ({ ...task, likelihood })),
];
