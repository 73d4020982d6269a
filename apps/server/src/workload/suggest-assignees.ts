import { refOf } from '../load/people-touched.ts';
import { Injectable } from '@nestjs/common';
import type { PersonRef, SuggestedAssignee, WhoShouldDoIt } from '@crew/contract';
import { addDays, load, openRooms, remainingMinutes, suggestPeople, type IsoDay, type LoadTaskInput, type Room } from '@crew/core';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { taskSeenBy } from '../platform/visible.ts';
import { KeepLoad } from '../load/keep-load.ts';
import { readKnown } from '../load/known.ts';
import { toLoadInput, type LoadFacts, type PersonFacts } from '../load/load-facts.ts';

/** Work somebody is wanted for. */
export interface AskedTask {
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
    return this.rank(who.agencyId, requireFound(found, 'task'));
  }

  /** The same for work of an agency that need not be a task yet. */
  async rank(agencyId: string, task: AskedTask): Promise<WhoShouldDoIt> {
    const today = this.clock.today();
    const { manager } = this.database;
    const [now, known] = await Promise.all([this.keeping.read(agencyId), readKnown(manager, agencyId)]);
    const facts = now.facts();
    const span = { from: task.start < today ? today : task.start, to: task.due < today ? today : task.due };
    const holders = facts.people.filter((person) => task.roleId === null || person.roleIds.includes(task.roleId));
    const work = { ...(task.minutes === null ? {} : { estimate: task.minutes }), logged: task.logged };
    const minutes = remainingMinutes(work, facts.defaultMinutes);
    const { id, start, due } = task;
    const rooms = roomsOf(facts, { work: { id, assignees: [], start, due, ...work }, holders, today, span });
    const asked = holders.map((person, index) =>
      candidateOf(person, { room: rooms[index] as RoomNow, known: known.get(person.id) ?? [], task }),
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
      away: asked.filter((candidate) => candidate.capacity === 0).map((candidate) => candidate.person),
    };
  }
}

/** What the task would leave somebody, and how much of its days they are off. */
interface RoomNow extends Room {
  readonly away: number;
}

interface Asking {
  readonly work: LoadTaskInput;
  readonly holders: readonly PersonFacts[];
  readonly today: IsoDay;
  readonly span: { readonly from: IsoDay; readonly to: IsoDay };
}

/** Work its own days have no room for falls behind them: this far is looked. */
const BEHIND_DAYS = 60;

/** What the task would leave each of its holders, and how much of their usual time on its days is time off. */
function roomsOf(facts: LoadFacts, { work, holders, today, span }: Asking): RoomNow[] {
  const without = { ...facts, tasks: facts.tasks.filter((other) => other.id !== work.id) };
  const ask = unwrap(openRooms(toLoadInput(without, { today, from: span.from, to: addDays(span.to, BEHIND_DAYS) })));
  const always = holders.map((person) => ({ ...person, off: [] }));
  const usual = unwrap(load({ ...toLoadInput(without, { today, ...span }), tasks: [], people: always })).people;
  return unwrap(
    ask(
      [work],
      holders.map(({ id }) => id),
    ),
  ).map((room, index) => {
    const open = (usual[index]?.days ?? []).reduce((sum, day) => sum + day.capacity, 0);
    return { ...room, away: open - room.capacity };
  });
}

interface Asked extends Room {
  readonly person: PersonRef;
  readonly pastEngagements: number;
  readonly knows: SuggestedAssignee['knows'];
  readonly awayMinutes: number;
}

function candidateOf(
  person: PersonFacts,
  { room, known, task }: { readonly room: RoomNow; readonly known: readonly string[]; readonly task: AskedTask },
): Asked {
  const knows = known.includes(task.engagementId) ? 'engagement' : known.includes(task.clientId) ? 'client' : null;
  return {
    ...{ id: room.id, capacity: room.capacity, free: room.free, over: room.over },
    person: refOf(person),
    pastEngagements: knows === null ? 0 : 1,
    knows,
    awayMinutes: room.away,
  };
}
