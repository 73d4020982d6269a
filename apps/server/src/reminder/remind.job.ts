import { Injectable } from '@nestjs/common';
import { waits, type CalendarInput, type PersonInput } from '@crew/core';
import type { EventPayloads } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record, type NewEvent } from '../activity/record.ts';
import type { By } from '../platform/actor.ts';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { holdEngagements } from '../platform/locks.ts';
import { unwrap } from '../platform/refusal.ts';
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

const CALENDARS = `SELECT g.id, ${calendarOf('g')} AS calendar FROM agency g`;

/**
 * Nothing gets stuck: whoever has held something for so many of their own working hours is reminded once, then the
 * lead. While somebody is away, their stand-in holds what they have. What the client owes, the client is asked for by
 * one mail for each engagement. It can run as often as it likes; who was told since it came to them is not told again.
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
    const calendars = await this.readCalendars();
    const held = await this.database.rows<Held>(HELD, [this.clock.zone, this.clock.now(), null]);
    const engagementIds = held.filter((one) => dueSteps(one, calendars).length > 0).map(({ engagementId }) => engagementId);
    for (const engagementId of new Set(engagementIds)) await this.remind(engagementId, calendars);
  }

  private async readCalendars(): Promise<ReadonlyMap<string, CalendarInput>> {
    const rows = await this.database.rows<{ id: string; calendar: CalendarInput }>(CALENDARS, []);
    return new Map(rows.map(({ id, calendar }) => [id, calendar]));
  }

  private remind(engagementId: string, calendars: ReadonlyMap<string, CalendarInput>): Promise<void> {
    return this.database.transaction(async (manager) => {
      // Somebody may have picked it up, or another process may have reminded them, a moment ago: it is read anew.
      if (!(await holdEngagements(manager, [engagementId])).has(engagementId)) return;
      const at = this.clock.now();
      const held = await rowsOf<Held>(manager, HELD, [this.clock.zone, at, engagementId]);
      const due = oncePerPerson(held.flatMap((one) => dueSteps(one, calendars)));
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

/** In the holder's own working minutes, of the client in the agency's; null for somebody who does not work. */
function minutesHeld({ of, holder, since, until }: Held, calendar: CalendarInput): number | null {
  const person: PersonInput = of === 'client' ? { id: 'client', week: calendar.week } : holder;
  const held = unwrap(waits({ calendar, person, from: since, to: until }));
  return 'minutes' in held ? held.minutes : null;
}

/** Who is to be told now; a lead who holds it was told as its holder. */
function dueSteps(held: Held, calendars: ReadonlyMap<string, CalendarInput>): Due[] {
  const { of, holder, lead, told, firstHours, leadHours } = held;
  const calendar = calendars.get(held.agencyId);
  const minutes = calendar === undefined || (firstHours === 0 && leadHours === 0) ? null : minutesHeld(held, calendar);
  if (minutes === null) return [];
  const first: Step = of === 'client' && held.isShownToClient ? 'client' : 'holder';
  const hasFirst = told.includes(`holder ${holder.id}`) || told.includes('client');
  const isLeadNext = (lead.id !== holder.id || (of === 'client' && firstHours === 0)) && !told.includes(`lead ${lead.id}`);
  return [
    ...(firstHours > 0 && minutes >= firstHours * 60 && !hasFirst ? [{ held, step: first, minutes }] : []),
    ...(leadHours > 0 && minutes >= leadHours * 60 && isLeadNext ? [{ held, step: 'lead' as const, minutes }] : []),
  ];
}

/** Of a task that several have, each is told once, and so is their lead. */
function oncePerPerson(due: readonly Due[]): Due[] {
  const told = new Map(
    due.map((one) => [`${one.held.of} ${one.held.id} ${one.step} ${one.step === 'holder' ? one.held.holder.id : ''}`, one]),
  );
  return [...told.values()];
}
