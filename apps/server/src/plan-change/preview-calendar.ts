import { Injectable } from '@nestjs/common';
import { LOOK_AHEAD_DAYS, type CalendarEffect, type PreviewCalendar as Input } from '@crew/contract';
import { addDays, type CalendarInput, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { newOverloads } from '../load/overloads.ts';
import { readLoadFacts, toLoadInput, type LoadTaskFacts } from '../load/load-facts.ts';
import { refOf } from '../load/people-touched.ts';
import { readPlanFacts } from '../schedule/plan-facts.ts';
import { computePlan } from '../schedule/refresh-engagement.ts';

const OPEN = `SELECT id, name, promised_day AS promise FROM engagement WHERE agency_id = $1 AND state IN ('proposal', 'open') ORDER BY name, id`;

interface Open {
  readonly id: string;
  readonly name: string;
  readonly promise: IsoDay | null;
}

interface Days {
  readonly start: IsoDay;
  readonly due: IsoDay;
}

/** What another calendar would do to the plans of everything open, and to everybody's load. Nothing is saved. */
@Injectable()
export class PreviewCalendar {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(who: Who, input: Input): Promise<CalendarEffect> {
    const { manager } = this.database;
    const today = this.clock.today();
    const load = await readLoadFacts(manager, who.agencyId, { today, to: '9999-12-31', comingTo: addDays(today, LOOK_AHEAD_DAYS) });
    const calendar = calendarAfter(load.calendar, input);
    const engagements: CalendarEffect['engagements'][number][] = [];
    const moved = new Map<string, Days>();
    for (const open of await rowsOf<Open>(manager, OPEN, [who.agencyId])) {
      const { effect, days } = await this.effectOn(open, { calendar, today, shut: new Set(input.close ?? []) });
      for (const [id, own] of days) moved.set(id, own);
      if (effect !== null) engagements.push(effect);
    }
    const tasks = load.tasks.map((task): LoadTaskFacts => ({ ...task, ...moved.get(task.id) }));
    const window = { today, from: today, to: addDays(today, LOOK_AHEAD_DAYS) };
    const people = new Map(load.people.map((person) => [person.id, refOf(person)]));
    const overloads = newOverloads(toLoadInput(load, window), toLoadInput({ ...load, calendar, tasks }, window));
    return {
      engagements,
      overloads: overloads.flatMap(({ personId, minutes, firstDay }) => {
        const person = people.get(personId);
        return person === undefined ? [] : [{ person, minutes, firstDay }];
      }),
    };
  }

  /** Days of a phase that has begun stay as they are; what lies ahead, and when all is done, follow the calendar. */
  private async effectOn(
    { id, name, promise }: Open,
    { calendar, today, shut }: { readonly calendar: CalendarInput; readonly today: IsoDay; readonly shut: ReadonlySet<string> },
  ): Promise<{ readonly effect: CalendarEffect['engagements'][number] | null; readonly days: ReadonlyMap<string, Days> }> {
    const facts = await readPlanFacts(this.database.manager, id);
    const before = computePlan(facts, { today, changed: [] }).schedule;
    const after = computePlan({ ...facts, calendar }, { today, changed: [] }).schedule;
    const was = new Map(before.tasks.map((task) => [task.id, task]));
    const ahead = new Set(facts.phases.filter(({ state }) => state === 'ahead').map((phase) => phase.id));
    const phaseOf = new Map(facts.tasks.map((task) => [task.id, task.phaseId]));
    const days = new Map(
      after.tasks
        .filter((task) => ahead.has(phaseOf.get(task.id) ?? '') && !isSame(task, was.get(task.id)))
        .map((task) => [task.id, { start: task.start, due: task.finish }]),
    );
    const fixed = facts.tasks.filter(
      ({ fixedDay, doneOn, status }) => fixedDay !== null && shut.has(fixedDay) && doneOn === null && status !== 'dropped',
    );
    const isTouched = days.size > 0 || fixed.length > 0 || before.finish !== after.finish;
    const effect = {
      ...{ id, name, promise, finish: { from: before.finish, to: after.finish }, moves: days.size },
      fixed: fixed.map((task) => ({ id: task.id, title: task.title, day: task.fixedDay as IsoDay })),
    };
    return { effect: isTouched ? effect : null, days };
  }
}

const isSame = (task: { readonly start: IsoDay; readonly finish: IsoDay }, before: typeof task | undefined): boolean =>
  before !== undefined && task.start === before.start && task.finish === before.finish;

function calendarAfter({ week, closed }: CalendarInput, input: Input): CalendarInput {
  if (input.week?.every((minutes) => minutes === 0) === true)
    throw new Refusal('invalid-input', 'A week needs at least one working day. Give one of them some hours.', { field: 'week' });
  const opened = new Set(input.open ?? []);
  return { week: input.week ?? week, closed: [...new Set([...closed.filter((day) => !opened.has(day)), ...(input.close ?? [])])].sort() };
}
