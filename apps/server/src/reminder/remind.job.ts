import { Injectable } from '@nestjs/common';
import { waitCounter, type CalendarInput, type PersonInput } from '@crew/core';
import type { EventPayloads } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type NewEvent } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { lockEngagements } from '../platform/locks.ts';
import { calendarOf } from '../platform/sql-words.ts';
import { HELD, type Held } from './held-things.ts';
import { askClient, readContact, type AskedContact } from './ask-client.ts';

type Step = EventPayloads['reminded']['step'];

/** A reminder that is due: of what, to whom, and for how long it has been held. */
interface Due {
  readonly held: Held;
  readonly step: Step;
  readonly minutes: number;
}

interface AgencyCalendar {
  readonly id: string;
  readonly calendar: CalendarInput;
}

const CALENDARS = `SELECT g.id, ${calendarOf('g')} AS calendar FROM agency g`;

/**
 * Reminds whoever has held something for so many of their own working hours, once, and then the lead.
 * While somebody is away, their stand-in holds what they have. The client is asked for what it owes by
 * one mail for each engagement. It can run as often as it likes: nobody is reminded twice of the same
 * thing.
 */
@Injectable()
export class RemindJob {
  private readonly database: Database;
  private readonly clock: Clock;
  constructor(database: Database, clock: Clock) {
    this.database = database;
    this.clock = clock;
  }

  async run(): Promise<void> {
    const minutesHeld = countMinutes(await this.database.rows<AgencyCalendar>(CALENDARS, []));
    const held = await this.database.rows<Held>(HELD, [this.clock.zone, this.clock.now(), null]);
    const engagementIds = held.filter((one) => dueSteps(one, minutesHeld).length > 0).map(({ engagementId }) => engagementId);
    const failed: unknown[] = [];
    // An engagement in which it fails holds up no other.
    for (const engagementId of new Set(engagementIds))
      await this.remind(engagementId, minutesHeld).catch((error: unknown) => failed.push(error));
    if (failed.length > 0) throw failed[0];
  }

  private remind(engagementId: string, minutesHeld: MinutesHeld): Promise<void> {
    return this.database.transaction(async (manager) => {
      // Somebody may have picked it up, or another process may have reminded them, a moment ago: it is read anew.
      if ((await lockEngagements(manager, [engagementId])).length === 0) return;
      const at = this.clock.now();
      const held = await rowsOf<Held>(manager, HELD, [this.clock.zone, at, engagementId]);
      const due = oncePerPerson(held.flatMap((one) => dueSteps(one, minutesHeld)));
      if (due.length > 0) await this.tell(manager, due, at);
    });
  }

  private async tell(manager: EntityManager, due: readonly Due[], at: Date): Promise<void> {
    const by: By = { actor: { job: 'remind' }, at };
    const asks = due.filter(({ step }) => step === 'client').map(({ held }) => held);
    const [first] = asks;
    const contact = first === undefined ? null : await readContact(manager, first.engagementId);
    if (contact !== null) await askClient(manager, by, { contact, asks });
    await record(
      manager,
      by,
      oncePerPerson(due.map((one) => reachable(one, contact))).map((one) => toEvent(one, contact)),
    );
  }
}

/** Where the client cannot be mailed, whoever asked them is reminded. */
const reachable = (due: Due, contact: AskedContact | null): Due =>
  due.step === 'client' && contact === null ? { ...due, step: 'holder' } : due;

function toEvent({ held, step, minutes }: Due, contact: AskedContact | null): NewEvent {
  const { engagementId, subject, id: subjectId, holder } = held;
  const to = step === 'lead' ? held.lead : holder;
  const told = step === 'client' ? { personId: null, name: contact?.name ?? '' } : { personId: to.id, name: to.name };
  return { kind: 'reminded', engagementId, subject, subjectId, payload: { of: held.of, ...told, step, holder: holder.name, minutes } };
}

type MinutesHeld = (held: Held) => number;

/** For how long something has been held: in the holder's own working minutes, of the client's things in the agency's. What somebody works is read once. */
function countMinutes(agencies: readonly AgencyCalendar[]): MinutesHeld {
  const calendars = new Map(agencies.map(({ id, calendar }) => [id, calendar]));
  const counters = new Map<string, ReturnType<typeof waitCounter>>();
  return ({ of, agencyId, holder, since, until }) => {
    const calendar = calendars.get(agencyId);
    // Settings changed a moment ago: it is looked at the next time.
    if (calendar === undefined) return 0;
    const person: PersonInput = of === 'client' ? { id: `client of ${agencyId}`, week: calendar.week } : holder;
    const counter = counters.get(person.id) ?? waitCounter({ calendar, person });
    counters.set(person.id, counter);
    return counter(since, until);
  };
}

/** Who is to be told now; a lead who holds it was told as its holder. */
function dueSteps(held: Held, minutesHeld: MinutesHeld): Due[] {
  const { of, holder, lead, told, firstHours, leadHours } = held;
  const first: Step = of === 'client' && held.isShownToClient ? 'client' : 'holder';
  const hasFirst = told.includes(`holder ${holder.id}`) || told.includes('client');
  const isLeadNext = (lead.id !== holder.id || (of === 'client' && firstHours === 0)) && !told.includes(`lead ${lead.id}`);
  const open = [
    ...(firstHours > 0 && !hasFirst ? [{ step: first, hours: firstHours }] : []),
    ...(leadHours > 0 && isLeadNext ? [{ step: 'lead' as const, hours: leadHours }] : []),
  ];
  if (open.length === 0) return [];
  const minutes = minutesHeld(held);
  return open.filter(({ hours }) => minutes >= hours * 60).map(({ step }) => ({ held, step, minutes }));
}

/** Of a task that several have, each is told once, and so is their lead. */
function oncePerPerson(due: readonly Due[]): Due[] {
  const told = new Map(
    due.map((one) => [`${one.held.of} ${one.held.id} ${one.step} ${one.step === 'holder' ? one.held.holder.id : ''}`, one]),
  );
  return [...told.values()];
}
