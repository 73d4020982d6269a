import type { IsoDay } from '@crew/core';
import { holdsRole, isOpen } from '../platform/sql-words.ts';
import { Injectable } from '@nestjs/common';
import { reachOf, type HandoffSheet } from '@crew/contract';
import { Clock } from '../platform/clock.ts';
import { Database } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { readPlanFacts, type PlanFacts } from '../schedule/plan-facts.ts';
import { computePlan } from '../schedule/refresh-engagement.ts';
import type { KeptPacket } from './handoff.entity.ts';
import { HandoffRepository } from './handoff.repository.ts';
import { gatherPacket } from './packet.ts';

/** The sheet of a handoff: its packet, its turns, and what picking it up today would do. */
@Injectable()
export class ReadHandoff {
  private readonly database: Database;
  private readonly handoffs: HandoffRepository;
  private readonly clock: Clock;
  constructor(database: Database, handoffs: HandoffRepository, clock: Clock) {
    this.database = database;
    this.handoffs = handoffs;
    this.clock = clock;
  }

  async run(who: Who, id: string): Promise<HandoffSheet> {
    const today = this.clock.today();
    const { line, gate, row } = requireFound(await this.handoffs.find(this.database.manager, who, { id, today }), 'handoff');
    // Once it is handed off, the packet stays as the receiver got it.
    const isKept = row.packet !== null && (line.state === 'handed-off' || line.state === 'picked-up');
    const [turns, ways, packet, receivers, onPickUp] = await Promise.all([
      this.handoffs.listTurns(who, id),
      this.handoffs.listWays(line.from.id),
      isKept ? (row.packet as KeptPacket) : gatherPacket(this.database.manager, { line, row }),
      this.handoffs.listReceivers(who, { phaseId: line.to?.id ?? null, today }),
      line.to === null || line.state === 'picked-up' ? null : this.lookAhead(who, line.engagement.id, line.to.id),
    ]);
    // Packets kept before these were gathered have none.
    const { doneTasks, openTasks, decisions = [], questions = [], files, involved } = packet;
    return {
      ...line,
      ...{ gate, words: row.words, turns, ways, doneTasks, openTasks, decisions, questions, files, involved },
      packetAt: isKept ? (row.packet?.at ?? null) : null,
      onPickUp,
      receivers,
    };
  }

  /** The next phase as it would be if it started today. */
  private async lookAhead(who: Who, engagementId: string, phaseId: string): Promise<HandoffSheet['onPickUp']> {
    const today = this.clock.today();
    const facts = startedToday(await readPlanFacts(this.database.manager, engagementId), phaseId, today);
    const { schedule } = computePlan(facts, { today, changed: [] });
    const phase = schedule.phases.find((candidate) => candidate.id === phaseId);
    const people = await this.database.rows<NonNullable<HandoffSheet['onPickUp']>['people'][number]>(
      `SELECT json_build_object('id', p.id, 'name', p.name, 'initials', p.initials) AS person, count(*)::int AS tasks,
         coalesce(sum(t.estimate_minutes), 0)::int AS minutes
       FROM task t LEFT JOIN LATERAL (SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position LIMIT 1) a ON true
       LEFT JOIN engagement_role er ON er.engagement_id = t.engagement_id AND er.role_id = t.role_id AND ${holdsRole('er.person_id', 'er.role_id')}
       JOIN person p ON p.id = coalesce(a.person_id, er.person_id)
       WHERE t.phase_id = $1 AND NOT t.is_group AND ${isOpen('t')} GROUP BY p.id ORDER BY 2 DESC, p.name`,
      [phaseId],
    );
    const ours = facts.tasks.filter((task) => task.phaseId === phaseId && !task.isGroup && task.status !== 'dropped');
    const given = people.reduce((sum, person) => sum + person.tasks, 0);
    const clients = ours.filter((task) => task.kind === 'client' || task.kind === 'milestone').length;
    return {
      start: phase?.start ?? today,
      finish: phase?.finish ?? today,
      tasks: ours.length,
      // A freelancer reads their own part of it, not what others are to do.
      people: reachOf(who, 'handoff.read') === 'all' ? people : people.filter(({ person }) => person.id === who.personId),
      unassigned: Math.max(0, ours.length - given - clients),
    };
  }
}

/** The facts with one phase begun today and what comes before it over. */
function startedToday(facts: PlanFacts, phaseId: string, today: IsoDay): PlanFacts {
  return {
    ...facts,
    phases: facts.phases.map((phase) => (phase.id === phaseId ? { ...phase, state: 'running', startedOn: today } : phase)),
  };
}
