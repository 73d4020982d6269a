import { Injectable } from '@nestjs/common';
import type { Baton, ClientEngagement, EngagementTrack, HandoffState, PlanPhase, PlanTask, Standing } from '@crew/contract';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy } from '../platform/visible.ts';
import { batonOf } from '../handoff/baton.ts';
import { standingOf, type StandingFacts } from './standing.ts';

const PERSON = (alias: string): string => `json_build_object('id', ${alias}.id, 'name', ${alias}.name, 'initials', ${alias}.initials)`;

/** The gate of a phase counted in SQL by the same rules as the core's \`evaluateGate\`; tested to agree. */
const GATE = (phase: string): string => `
  (SELECT json_build_object('all', count(*)::int, 'clear', count(*) FILTER (WHERE CASE g.kind
      WHEN 'word' THEN g.given_at IS NOT NULL
      ELSE NOT EXISTS (SELECT 1 FROM task o WHERE o.phase_id = ${phase}.id AND o.status NOT IN ('done', 'dropped') AND (o.kind = 'client') = (g.kind = 'client-done'))
    END)::int) FROM gate_check g WHERE g.phase_id = ${phase}.id)`;

const PHASES = `
  (SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'state', p.state, 'start', coalesce(p.started_on, p.planned_start),
      'finish', coalesce(p.finished_on, p.planned_finish), 'percent', p.percent, 'stateLine', p.state_line,
      'handoff', h.state, 'handoffId', h.id, 'startedOn', p.started_on, 'finishedOn', p.finished_on, 'rounds', p.rounds, 'roleId', p.role_id, 'role', r.name,
      'gate', CASE WHEN p.state = 'running' THEN ${GATE('p')} ELSE json_build_object('clear', 0, 'all', 0) END) ORDER BY p.position)
   FROM phase p LEFT JOIN role r ON r.id = p.role_id
   LEFT JOIN LATERAL (SELECT h.id, h.state FROM handoff h WHERE h.from_phase_id = p.id ORDER BY h.state = 'picked-up' LIMIT 1) h ON true
   WHERE p.engagement_id = e.id)`;

const TRACK_COLUMNS = `
  e.id, e.name, e.state, e.start_day AS start, e.promised_day AS promise, s.finish_day AS finish, s.percent, s.logged_minutes AS "loggedMinutes",
  s.effort_minutes AS "effortMinutes", s.overdue_tasks AS overdue, s.late_days AS "lateDays", s.waiting_title AS "waitingTitle",
  s.waiting_since AS "waitingSince", json_build_object('name', c.name, 'hue', c.hue) AS client, ${PERSON('l')} AS lead,
  (SELECT json_build_object('state', h.state, 'since', h.since, 'question', h.question) FROM handoff h
   WHERE h.engagement_id = e.id AND h.state IN ('handed-off', 'sent-back') ORDER BY h.state DESC, h.since LIMIT 1) AS flight,
  ${PHASES} AS phases`;

const TRACK_JOINS = `
  JOIN engagement_summary s ON s.engagement_id = e.id
  JOIN client c ON c.id = e.client_id
  JOIN person l ON l.id = e.lead_id`;

interface TrackRow extends Omit<EngagementTrack, 'phases' | 'standing'>, StandingFacts {
  readonly phases: readonly (Omit<PlanPhase, 'baton'> & { readonly handoff: HandoffState | null })[];
}

/** Reads of engagements: one statement each, one JSON document back. */
@Injectable()
export class EngagementRepository {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  /** Open engagements and proposals as tracks, or the finished ones. */
  async listTracks(who: Who, show: { readonly isFinished: boolean; readonly today: string }): Promise<EngagementTrack[]> {
    const seen = engagementSeenBy(who, 1);
    const states = show.isFinished ? `('finished', 'dropped')` : `('proposal', 'open')`;
    const rows = await this.database.rows<TrackRow>(
      `SELECT ${TRACK_COLUMNS} FROM engagement e ${TRACK_JOINS} WHERE ${seen.sql} AND e.state IN ${states}
       ORDER BY c.is_own, e.promised_day IS NULL, e.start_day, e.name LIMIT 500`,
      seen.values,
    );
    return rows.map((row) => toTrack(row, show.today));
  }

  /** One engagement with its phases in full, or null when it may not be seen. */
  async findPlan(who: Who, engagementId: string, today: string): Promise<{ engagement: PlanEngagementRow; phases: PlanPhase[] } | null> {
    const seen = engagementSeenBy(who, 2);
    const row = await this.database.row<TrackRow & PlanExtras>(
      `SELECT ${TRACK_COLUMNS}, e.version, k.name AS contact,
         CASE WHEN t.id IS NULL THEN NULL ELSE json_build_object('id', t.id, 'name', t.name, 'version', e.template_version) END AS template
       FROM engagement e ${TRACK_JOINS} LEFT JOIN contact k ON k.id = e.contact_id LEFT JOIN template t ON t.id = e.template_id
       WHERE e.id = $1 AND ${seen.sql}`,
      [engagementId, ...seen.values],
    );
    if (row === null) return null;
    const { version, contact, template } = row;
    return {
      engagement: { ...toTrack(row, today), version, contact, template },
      phases: row.phases.map((phase) => withBaton(phase, today)),
    };
  }

  /** The tasks of an engagement in plan order. */
  async listTasks(engagementId: string): Promise<PlanTask[]> {
    const row = await this.database.row<{ tasks: PlanTask[] }>(
      `SELECT coalesce(json_agg(${PLAN_TASK} ORDER BY p.position, t.position, t.number), '[]') AS tasks
       FROM task t JOIN phase p ON p.id = t.phase_id LEFT JOIN role r ON r.id = t.role_id WHERE t.engagement_id = $1`,
      [engagementId],
    );
    return row?.tasks ?? [];
  }

  /** A client's own engagements: only what is marked for them leaves the database. */
  listForClient(who: Who): Promise<ClientEngagement[]> {
    const seen = engagementSeenBy(who, 1);
    return this.database.rows<ClientEngagement>(
      `SELECT e.id, e.name, e.promised_day AS promise,
         coalesce((SELECT json_agg(json_build_object('name', p.name, 'state', p.state, 'stateLine', p.state_line) ORDER BY p.position)
           FROM phase p WHERE p.engagement_id = e.id), '[]') AS phases,
         coalesce((SELECT json_agg(json_build_object('id', t.id, 'title', t.title, 'isOurs', t.kind <> 'client', 'status', t.status, 'due', t.due_day)
             ORDER BY t.due_day, t.number)
           FROM task t JOIN phase p ON p.id = t.phase_id
           WHERE t.engagement_id = e.id AND t.is_shown_to_client AND t.status <> 'dropped' AND p.state <> 'ahead'), '[]') AS tasks
       FROM engagement e WHERE ${seen.sql} AND e.state IN ('proposal', 'open') ORDER BY e.start_day`,
      seen.values,
    );
  }
}

interface PlanExtras {
  readonly version: number;
  readonly contact: string | null;
  readonly template: { readonly id: string; readonly name: string; readonly version: number } | null;
}
type PlanEngagementRow = EngagementTrack & PlanExtras;

/** A task of the plan as JSON, from aliases t and r. */
export const PLAN_TASK = `json_build_object('id', t.id, 'number', t.number, 'phaseId', t.phase_id, 'title', t.title, 'kind', t.kind, 'role', r.name,
  'status', t.status, 'waitingOn', t.waiting_on, 'waitingSince', t.waiting_since, 'priority', t.priority, 'start', t.start_day, 'due', t.due_day,
  'days', t.days, 'slack', t.slack, 'isCritical', t.is_critical, 'missedDays', t.missed_days, 'fixedDay', t.fixed_day,
  'estimateMinutes', t.estimate_minutes, 'loggedMinutes', t.logged_minutes, 'stepsDone', t.steps_done, 'stepsAll', t.steps_all,
  'openPredecessors', t.open_predecessors, 'isShownToClient', t.is_shown_to_client, 'version', t.version,
  'assignees', coalesce((SELECT json_agg(${PERSON('q')} ORDER BY a.position) FROM task_assignee a JOIN person q ON q.id = a.person_id WHERE a.task_id = t.id), '[]'),
  'after', coalesce((SELECT json_agg(b.number ORDER BY b.number) FROM task_link l JOIN task b ON b.id = l.predecessor_id WHERE l.successor_id = t.id), '[]'))`;

function toTrack(row: TrackRow, today: string): EngagementTrack {
  const standing: Standing = standingOf(row, today);
  const { id, name, client, lead, state, start, promise, finish, percent, loggedMinutes, effortMinutes, overdue } = row;
  const phases = row.phases.map((phase) => {
    const { id: phaseId, name: title, state: phaseState, percent: done, stateLine } = phase;
    return {
      id: phaseId,
      name: title,
      state: phaseState,
      start: phase.start,
      finish: phase.finish,
      percent: done,
      stateLine,
      baton: withBaton(phase, today).baton,
    };
  });
  return { id, name, client, lead, state, start, promise, finish, percent, loggedMinutes, effortMinutes, overdue, standing, phases };
}

function withBaton(phase: TrackRow['phases'][number], today: string): PlanPhase {
  const { handoff, ...rest } = phase;
  const baton: Baton = batonOf({ handoff, phaseState: phase.state, finish: phase.finish, today });
  return { ...rest, baton };
}
