import { refOf } from '../load/people-touched.ts';
import { Injectable } from '@nestjs/common';
import type { PersonRef, SuggestedAssignee, WhoShouldDoIt } from '@crew/contract';
import { load, remainingMinutes, suggestPeople, type LoadDay, type IsoDay } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { taskSeenBy } from '../platform/visible.ts';
import { KeepLoad } from './keep-load.ts';
import { readKnown } from '../load/known.ts';
import { toLoadInput, type LoadFacts, type PersonFacts } from '../load/load-facts.ts';

interface AskedTask {
  readonly id: string;
  readonly engagementId: string;
  readonly clientId: string;
  readonly roleId: string | null;
  readonly role: string | null;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly minutes: number | null;
  readonly logged: number;
  readonly assigneeIds: readonly string[];
}

const TASK = `
  SELECT t.id, e.id AS "engagementId", e.client_id AS "clientId", t.role_id AS "roleId", r.name AS role, t.start_day AS start, t.due_day AS due,
    t.estimate_minutes AS minutes, t.logged_minutes AS logged, ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id) AS "assigneeIds"
  FROM task t JOIN engagement e ON e.id = t.engagement_id LEFT JOIN role r ON r.id = t.role_id WHERE t.id = $1`;

/** Who should do a task: holders of its role, most room in its days first, with the reason (B7). */
@Injectable()
export class SuggestAssignees {
  private readonly database: Database;
  private readonly keeping: KeepLoad;
  private readonly clock: Clock;
  constructor(database: Database, keeping: KeepLoad, clock: Clock) {
    this.database = database;
    this.keeping = keeping;
    this.clock = clock;
  }

  async run(who: Who, taskId: string): Promise<WhoShouldDoIt> {
    const seen = taskSeenBy(who, 2);
    const found = await this.database.row<AskedTask>(`${TASK} AND ${seen.sql}`, [taskId, ...seen.values]);
    const task = requireFound(found, 'task');
    const today = this.clock.today();
    const { manager } = this.database;
    const [{ facts }, known] = await Promise.all([this.keeping.read(who.agencyId), readKnown(manager, who.agencyId)]);
    const span = { from: task.start < today ? today : task.start, to: task.due < today ? today : task.due };
    const holders = facts.people.filter((person) => task.roleId === null || person.roleIds.includes(task.roleId));
    const rooms = new Map(roomsOf(facts, { task, today, span }).map((room) => [room.id, room]));
    const minutes = remainingMinutes(
      { ...(task.minutes === null ? {} : { estimate: task.minutes }), logged: task.logged },
      facts.defaultMinutes,
    );
    const asked = holders.map((person) =>
      candidateOf(person, { room: rooms.get(person.id) as Room, known: known.get(person.id) ?? [], task }),
    );
    const ranked = suggestPeople(asked, minutes);
    const byId = new Map(asked.map((candidate) => [candidate.id, candidate]));
    return {
      role: task.role,
      start: span.from,
      due: span.to,
      people: ranked.map(({ id, freeMinutes, neededMinutes, isFull }): SuggestedAssignee => {
        const { person, knows, awayMinutes } = byId.get(id) as Asked;
        return { person, freeMinutes, neededMinutes, isFull, knows, awayMinutes, isAssigned: task.assigneeIds.includes(id) };
      }),
      away: asked.filter((candidate) => candidate.capacityMinutes === 0).map((candidate) => candidate.person),
    };
  }
}

interface Room {
  readonly id: string;
  readonly capacity: number;
  readonly planned: number;
  readonly away: number;
}

interface Asking {
  readonly task: AskedTask;
  readonly today: IsoDay;
  readonly span: { readonly from: IsoDay; readonly to: IsoDay };
}

/** What everybody has open and planned in the task's days, the task itself left out. */
function roomsOf(facts: LoadFacts, { task, today, span }: Asking): Room[] {
  const without = { ...facts, tasks: facts.tasks.filter((other) => other.id !== task.id) };
  const sum = (days: readonly LoadDay[], field: 'capacity' | 'load'): number => days.reduce((total, day) => total + day[field], 0);
  const planned = unwrap(load(toLoadInput(without, { today, ...span }))).people;
  const always = unwrap(
    load({ ...toLoadInput(without, { today, ...span }), tasks: [], people: facts.people.map((person) => ({ ...person, off: [] })) }),
  ).people;
  return planned.map(({ id, days }, index) => {
    const capacity = sum(days, 'capacity');
    return { id, capacity, planned: sum(days, 'load'), away: sum(always[index]?.days ?? [], 'capacity') - capacity };
  });
}

interface Asked {
  readonly id: string;
  readonly person: PersonRef;
  readonly capacityMinutes: number;
  readonly plannedMinutes: number;
  readonly pastEngagements: number;
  readonly knows: SuggestedAssignee['knows'];
  readonly awayMinutes: number;
}

function candidateOf(
  person: PersonFacts,
  { room, known, task }: { readonly room: Room; readonly known: readonly string[]; readonly task: AskedTask },
): Asked {
  const knows = known.includes(task.engagementId) ? 'engagement' : known.includes(task.clientId) ? 'client' : null;
  return {
    id: person.id,
    person: refOf(person),
    capacityMinutes: room.capacity,
    plannedMinutes: room.planned,
    pastEngagements: knows === null ? 0 : 1,
    knows,
    awayMinutes: room.away,
  };
}
