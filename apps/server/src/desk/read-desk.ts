import { Injectable } from '@nestjs/common';
import type { Desk, DeskDay, DeskTask, PersonRef } from '@crew/contract';
import { formatDay, load, parseDay, weekdayOf, type LoadInput } from '@crew/core';
import { HandoffRepository } from '../handoff/handoff.repository.ts';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound, unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { readLoadFacts, toLoadInput, type LoadTaskFacts } from '../workload/load-facts.ts';

interface DeskRow extends DeskTask {
  readonly isBegun: boolean;
  readonly openPredecessors: number;
  readonly assignedBy: string | null;
  readonly isSeen: boolean;
  readonly lastTouch: string | null;
}

const ROWS = `
  SELECT t.id, t.number, t.title, t.status, t.version, p.name AS phase, t.start_day AS start, t.due_day AS due, t.estimate_minutes AS "estimateMinutes",
    t.logged_minutes AS "loggedMinutes", t.open_predecessors AS "openPredecessors", p.state <> 'ahead' AS "isBegun", a.seen_at IS NOT NULL AS "isSeen",
    json_build_object('id', e.id, 'name', e.name, 'client', json_build_object('name', c.name, 'hue', c.hue)) AS engagement,
    greatest(0, coalesce(t.estimate_minutes, agency.default_minutes) - t.logged_minutes) AS "remainingMinutes",
    b.name AS "assignedBy", t.waiting_since AS since,
    CASE WHEN t.status = 'waiting' THEN t.waiting_on
         ELSE (SELECT 'after ' || coalesce(split_part(q.name, ' ', 1), CASE WHEN o.kind = 'client' THEN 'the client' ELSE '“' || o.title || '”' END)
               FROM task_link l JOIN task o ON o.id = l.predecessor_id LEFT JOIN task_assignee oa ON oa.task_id = o.id AND oa.position = 0
               LEFT JOIN person q ON q.id = oa.person_id
               WHERE l.successor_id = t.id AND o.status NOT IN ('done', 'dropped') ORDER BY o.due_day DESC LIMIT 1) END AS "waitingFor",
    (SELECT count(*)::int FROM task_link l JOIN task o ON o.id = l.successor_id
     WHERE l.predecessor_id = t.id AND o.status NOT IN ('done', 'dropped')) AS "holdsUp",
    (SELECT max(x.day) FROM time_entry x WHERE x.task_id = t.id AND x.person_id = a.person_id) AS "lastTouch"
  FROM task_assignee a
  JOIN task t ON t.id = a.task_id
  JOIN phase p ON p.id = t.phase_id
  JOIN engagement e ON e.id = t.engagement_id
  JOIN client c ON c.id = e.client_id
  JOIN agency ON agency.id = t.agency_id
  LEFT JOIN person b ON b.id = a.assigned_by_id
  WHERE a.person_id = $1 AND t.agency_id = $2 AND t.status NOT IN ('done', 'dropped') AND e.state IN ('proposal', 'open')
  ORDER BY t.due_day, t.priority = 'high' DESC, t.number`;

/**
 * One person's work. Now is the task under way that was worked on last; ready has nothing
 * open in front of it and its phase has begun; waiting says on whom; overdue was due before today.
 */
@Injectable()
export class ReadDesk {
  private readonly database: Database;
  private readonly handoffs: HandoffRepository;
  private readonly clock: Clock;
  constructor(database: Database, handoffs: HandoffRepository, clock: Clock) {
    this.database = database;
    this.handoffs = handoffs;
    this.clock = clock;
  }

  async run(who: Who, personId: string): Promise<Desk> {
    const today = this.clock.today();
    const person = requireFound(
      await this.database.row<PersonRef>('SELECT id, name, initials FROM person WHERE id = $1 AND agency_id = $2', [
        personId,
        who.agencyId,
      ]),
      'person',
    );
    const [rows, handoffs, week] = await Promise.all([
      this.database.rows<DeskRow>(ROWS, [personId, who.agencyId]),
      this.handoffs.listFor(who, personId, today),
      this.readWeek(who, personId),
    ]);
    const begun = rows.filter((row) => row.isBegun);
    const now = begun.filter((row) => row.status === 'active').sort(byLastTouch)[0] ?? null;
    const rest = begun.filter((row) => row !== now);
    const isFree = (row: DeskRow): boolean => row.openPredecessors === 0 && row.status !== 'waiting';
    return {
      person,
      now: now === null ? null : toTask(now),
      overdue: rest.filter((row) => row.due < today && isFree(row)).map(toTask),
      ready: rest.filter((row) => row.due >= today && isFree(row)).map(toTask),
      waiting: rest.filter((row) => !isFree(row)).map(toTask),
      fresh: begun
        .filter((row) => !row.isSeen)
        .map((row) => ({ ...toTask(row), waitingFor: row.assignedBy === null ? null : `from ${row.assignedBy.split(' ')[0]}` })),
      handoffs,
      ...week,
    };
  }

  /** This week by days, with the tasks the load puts on each. */
  private async readWeek(who: Who, personId: string): Promise<Pick<Desk, 'days' | 'week'>> {
    const today = this.clock.today();
    const monday = (parseDay(today) as number) - weekdayOf(parseDay(today) as number);
    const window = { today, from: formatDay(monday), to: formatDay(monday + 6) };
    const facts = await readLoadFacts(this.database.manager, who.agencyId, { today: window.from, to: window.to });
    const input = toLoadInput({ ...facts, people: facts.people.filter((person) => person.id === personId), tasks: [] }, window);
    const mine = facts.tasks.filter((task) => task.assignees.some((assignee) => assignee.person === personId));
    const planned = mine.map((task) => ({ task, days: partOf(input, task, personId) }));
    const capacity = unwrap(load(input)).people[0]?.days ?? [];
    const days = capacity
      .map((day, index): DeskDay => {
        const tasks = planned.flatMap(({ task, days: parts }) => (parts[index] ? [toDayTask(task, parts[index] as number, day.date)] : []));
        const minutes = tasks.reduce((sum, task) => sum + task.minutes, 0);
        return { date: day.date, capacity: day.capacity, load: minutes, over: Math.max(0, minutes - day.capacity), tasks };
      })
      .filter((day, index) => index < 5 || day.load > 0 || day.capacity > 0);
    const logged = await this.database.row<{ minutes: number }>(
      'SELECT coalesce(sum(minutes), 0)::int AS minutes FROM time_entry WHERE person_id = $1 AND day BETWEEN $2 AND $3',
      [personId, window.from, window.to],
    );
    const total = (pick: (day: DeskDay) => number): number => days.reduce((sum, day) => sum + pick(day), 0);
    return {
      days,
      week: {
        plannedMinutes: total((day) => day.load),
        capacityMinutes: total((day) => day.capacity),
        loggedMinutes: logged?.minutes ?? 0,
      },
    };
  }
}

/** What one task puts on each day of the week for one person: the core's load of that task alone. */
function partOf(input: LoadInput, task: LoadTaskFacts, personId: string): readonly number[] {
  const others = task.assignees
    .filter((assignee) => assignee.person !== personId)
    .map((assignee) => ({ id: assignee.person, week: [0, 0, 0, 0, 0, 0, 0] }));
  const alone = unwrap(load({ ...input, people: [...input.people, ...others], tasks: [task] }));
  return alone.people[0]?.days.map((day) => day.load) ?? [];
}

function toDayTask(task: LoadTaskFacts, minutes: number, date: string): DeskDay['tasks'][number] {
  return { id: task.id, title: task.title, engagement: task.engagement, hue: task.hue, minutes, isDue: task.due === date };
}

function byLastTouch(left: DeskRow, right: DeskRow): number {
  return (right.lastTouch ?? '').localeCompare(left.lastTouch ?? '') || left.due.localeCompare(right.due);
}

function toTask({
  isBegun: _begun,
  openPredecessors: _open,
  assignedBy: _by,
  isSeen: _seen,
  lastTouch: _touch,
  ...task
}: DeskRow): DeskTask {
  return task;
}
