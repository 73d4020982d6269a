import { Injectable } from '@nestjs/common';
import type { PersonRef, PlanEngagement, RoleNeed, TriedEngagement, TryEngagement as Input } from '@crew/contract';
import { earliestStart, remainingMinutes, toSchedulePlan, type LoadTaskInput, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { Refusal, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { DryRunTemplate, TRIED, scheduledWork, type ScheduledTemplate } from '../template/dry-run.ts';
import { peopleTouched, refOf } from '../load/people-touched.ts';
import { toLoadInput } from '../load/load-facts.ts';
import { loadWindow, requireNear } from '../load/load-window.ts';

/** About a year of working days: who cannot start within it asks for less. */
const SEARCHED_DAYS = 250;

/** Lays a new engagement over the real load: whom it would overload, and when it could start without. Nothing is saved. */
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
    const scheduled = await this.dryRun.schedule(manager, who, plan);
    const { roles, overloads, effortMinutes, unestimated, finish } = await this.dryRun.describe(manager, who, { plan, scheduled });
    return {
      ...{ start: input.start, finish, effortMinutes, unestimated, roles, searchedDays: SEARCHED_DAYS },
      unmannedMinutes: roles.reduce((sum, role) => sum + (role.chosen === null ? role.minutes : 0), 0),
      overloads: overloads.map(({ person, minutes, firstDay }) => ({ person, minutes, firstDay })),
      people: peopleTouched({ before: scheduled.load, after: withWork(scheduled, roles, input.likelihood), today, window }),
      earliest: this.earliest(scheduled, roles, input.start),
    };
  }

  private earliest(scheduled: ScheduledTemplate, roles: readonly RoleNeed[], from: IsoDay): TriedEngagement['earliest'] {
    const { from: _from, to: _to, ...load } = toLoadInput(scheduled.load, { today: this.clock.today(), from, to: from });
    const work = scheduledWork(scheduled, roles).map((task) => ({
      task: task.id.slice(TRIED.length),
      person: task.assignees[0]?.person ?? '',
      minutes: remainingMinutes(task, scheduled.load.defaultMinutes),
    }));
    const found = unwrap(
      earliestStart({
        load,
        plan: { calendar: scheduled.calendar, ...toSchedulePlan(scheduled.template) },
        work,
        from,
        tries: SEARCHED_DAYS,
      }),
    );
    if (found === null) return null;
    const people = new Map(scheduled.load.people.map((person) => [person.id, refOf(person)]));
    const alone = found.alone.map(({ person, minutes }) => ({ person: people.get(person) as PersonRef, minutes }));
    return { start: found.start, finish: found.finish, alone };
  }
}

/** All tasks with the new work, as far as it is likely. */
const withWork = (scheduled: ScheduledTemplate, roles: readonly RoleNeed[], likelihood = 100): readonly LoadTaskInput[] => [
  ...scheduled.load.tasks,
  ...scheduledWork(scheduled, roles).map((task) => ({ ...task, likelihood })),
];
