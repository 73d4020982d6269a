import { Injectable } from '@nestjs/common';
import { reachOf } from '@crew/contract';
import type {
  Baton,
  ClientEngagement,
  EngagementPlan,
  EngagementTrack,
  HandoffState,
  PhaseState,
  PlanPhase,
  RoleStand,
  TrackPhase,
} from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { Database } from '../platform/database.ts';
import { jsonOf, type Json } from '../platform/json.ts';
import type { Who } from '../platform/rights.ts';
import { engagementSeenBy, type Condition } from '../platform/visible.ts';
import { calendarOf, CLIENT, isOpen, PERSON, stateLineOf } from '../platform/sql-words.ts';
import { taskList } from '../task/query/select-tasks.ts';
import { PLAN_COLUMNS } from '../task/query/task-columns.ts';
import { Values } from '../task/query/values.ts';
import { batonOf } from '../handoff/baton.ts';
import { gateOf, judgeGate, type GateRow } from '../handoff/gate-facts.ts';
import { cutPlan } from './cut-plan.ts';
import { standingsOf, type StandingFacts } from './standing.ts';

/** The day a phase began: before the one it was picked up on, when some of it was done earlier. */
const PHASE_START = 'least(p.started_on, p.planned_start)';

/** A phase as tracks show it, with the handoff that ends it: an open one before one that is through. */
const PHASE_COLUMNS = `'id', p.id, 'name', p.name, 'state', p.state, 'start', ${PHASE_START},
  'finish', coalesce(p.finished_on, p.planned_finish), 'percent', p.percent, 'stateLine', ${stateLineOf('p')}, 'handoff', h.state`;

const HANDOFF_OF_PHASE = `
  LEFT JOIN LATERAL (SELECT h.id, h.state FROM handoff h WHERE h.from_phase_id = p.id ORDER BY h.state = 'picked-up' LIMIT 1) h ON true`;

/** As rows of values, because a list has hundreds of them. What lies ahead has handed nothing on. */
const TRACK_PHASES = `
  (SELECT json_agg(json_build_array(p.id, p.name, p.state, ${PHASE_START}, coalesce(p.finished_on, p.planned_finish), p.percent,
     ${stateLineOf('p')}, CASE WHEN p.state <> 'ahead' THEN
       (SELECT h.state FROM handoff h WHERE h.from_phase_id = p.id ORDER BY h.state = 'picked-up' LIMIT 1) END) ORDER BY p.position)
   FROM phase p WHERE p.engagement_id = e.id)`;

type PhaseValues = readonly [
  ...[id: string, name: string, state: PhaseState, start: IsoDay, finish: IsoDay, percent: number, stateLine: string],
  handoff: HandoffState | null,
];

function toPhaseRow([id, name, state, start, finish, percent, stateLine, handoff]: PhaseValues): PhaseRow {
  return { id, name, state, start, finish, percent, stateLine, handoff };
}

/** For the plan a running phase also brings what its gate is judged by. */
const PLAN_PHASES = `
  (SELECT json_agg(json_build_object(${PHASE_COLUMNS}, 'handoffId', h.id, 'startedOn', p.started_on, 'finishedOn', p.finished_on, 'rounds', p.rounds, 'round', p.round,
      'baselineStart', p.baseline_start, 'baselineFinish', p.baseline_finish,
      'roleId', p.role_id, 'role', r.name,
      'gateFacts', CASE WHEN p.state = 'running' THEN ${gateOf('p')} END) ORDER BY p.position)
   FROM phase p LEFT JOIN role r ON r.id = p.role_id ${HANDOFF_OF_PHASE} WHERE p.engagement_id = e.id)`;

const TRACK_COLUMNS = `
  e.id, e.name, e.client_id AS "clientId", e.state, e.closed_on AS "closedOn", e.closed_reason AS "closedReason", e.closed_ending AS "closedEnding", least(e.start_day, (SELECT min(p.planned_start) FROM phase p WHERE p.engagement_id = e.id AND p.state <> 'ahead')) AS start, e.promised_day AS promise, s.finish_day AS finish, s.percent, s.logged_minutes AS "loggedMinutes",
  s.effort_minutes AS "effortMinutes", s.overdue_tasks AS overdue, s.late_days AS "lateDays", s.missed_days AS "missedDays", s.waiting_title AS "waitingTitle",
  s.waiting_since AS "waitingSince", ${CLIENT} AS client, ${PERSON('l')} AS lead,
  (SELECT json_build_object('likely', f.answer->'dates'->>'p50', 'safe', f.answer->'dates'->>'p80', 'chance', (f.answer->>'chance')::int)
   FROM forecast f WHERE f.engagement_id = e.id AND e.state IN ('proposal', 'open')) AS forecast,
  (SELECT json_build_object('id', z.id, 'name', z.name) FROM engagement_series z WHERE z.id = e.series_id) AS series,
  (SELECT json_build_object('state', h.state, 'since', h.since, 'question', h.question) FROM handoff h
   WHERE h.engagement_id = e.id AND h.state IN ('handed-off', 'sent-back') ORDER BY h.state DESC, h.since LIMIT 1) AS flight`;

const TRACK_JOINS = `
  JOIN engagement_summary s ON s.engagement_id = e.id
  JOIN client c ON c.id = e.client_id
  JOIN person l ON l.id = e.lead_id`;

/** The phase in which engagement e stands with some roles as of a day: one that runs, else one that is handed to them. Placeholders start at `first`. */
const standsWith = (first: number, roleIds: readonly string[] | null, today: IsoDay): Condition => ({
  sql: `JOIN LATERAL (
    SELECT q.id, q.name, q.state, ${stateLineOf('q')} AS state_line, q.planned_finish, theirs.ids FROM phase q
    CROSS JOIN (SELECT $${first}::uuid[] AS roles) asked
    CROSS JOIN LATERAL (SELECT json_agg(o.id) AS ids FROM phase o WHERE o.engagement_id = e.id AND o.role_id = ANY(asked.roles)) theirs
    WHERE q.engagement_id = e.id AND q.role_id = ANY(asked.roles) AND ((q.state = 'running' AND coalesce(q.started_on <= $${first + 1}::date, true)) OR EXISTS (
      SELECT 1 FROM handoff h WHERE h.to_phase_id = q.id AND h.state = 'handed-off'))
    ORDER BY q.state = 'running' DESC, q.position LIMIT 1) own ON true
  CROSS JOIN LATERAL (
    SELECT count(*)::int AS "openTasks", min(t.due_day) AS "nextDue" FROM task t
    WHERE t.phase_id = own.id AND t.role_id = ANY($${first}::uuid[]) AND NOT t.is_group AND ${isOpen('t')}) todo`,
  values: [roleIds, today],
});

const STANDS = `json_build_object('phase', own.name, 'stateLine', own.state_line, 'isComing', own.state = 'ahead',
    'until', own.planned_finish, 'openTasks', todo."openTasks", 'nextDue', todo."nextDue", 'phaseIds', own.ids)`;

/** The tasks of a plan in its order; as text, because nothing on the server reads them. */
const PLAN_TASKS = taskList(
  { columns: PLAN_COLUMNS, needs: ['p'], and: ['t.engagement_id = e.id'], order: 'p.position, t.position, t.number' },
  new Values(),
);

/** The whole plan in one statement; its tasks as text, because nothing on the server reads them. */
export const PLAN_DOCUMENT = `
  SELECT ${TRACK_COLUMNS}, ${PLAN_PHASES} AS phases, e.version, e.contact_id AS "contactId", e.likelihood, k.name AS contact,
    CASE WHEN m.id IS NULL THEN NULL ELSE json_build_object('id', m.id, 'name', m.name, 'version', e.template_version, 'newest', m.version) END AS template,
    (SELECT ${calendarOf('y')} FROM agency y WHERE y.id = e.agency_id) AS calendar,
    json_build_object('keptOn', e.baseline_on, 'finish', e.baseline_finish, 'promise', e.baseline_promise) AS baseline,
    coalesce((SELECT json_agg(json_build_object('id', d.id, 'name', d.name) ORDER BY d.position, d.name) FROM deliverable d WHERE d.engagement_id = e.id), '[]') AS deliverables,
    (${PLAN_TASKS})::text AS tasks
  FROM engagement e ${TRACK_JOINS} LEFT JOIN contact k ON k.id = e.contact_id LEFT JOIN template m ON m.id = e.template_id
  WHERE e.id = $1`;

interface PhaseRow extends Omit<TrackPhase, 'baton'> {
  readonly handoff: HandoffState | null;
}
interface TrackRow extends Omit<EngagementTrack, 'phases' | 'standing' | 'stands'>, StandingFacts {
  readonly phases: readonly PhaseRow[];
}
interface PlanPhaseRow extends Omit<PlanPhase, 'baton' | 'gate'> {
  readonly handoff: HandoffState | null;
  readonly gateFacts: GateRow | null;
}
interface PlanRow
  extends
    Omit<TrackRow, 'phases'>,
    Pick<EngagementPlan['engagement'], 'version' | 'contactId' | 'contact' | 'likelihood' | 'template'>,
    Pick<EngagementPlan, 'deliverables' | 'baseline' | 'calendar'> {
  readonly phases: readonly PlanPhaseRow[];
  readonly tasks: string;
}

/** Reads of engagements: one statement each, one JSON document back. */
@Injectable()
export class EngagementRepository {
  private readonly database: Database;
  constructor(database: Database) {
    this.database = database;
  }

  /** Open engagements and proposals as tracks, or the finished ones; with roles only those that run in, or now go on to, a phase one of them owns. */
  async listTracks(
    who: Who,
    show: {
      readonly isFinished: boolean;
      readonly since?: IsoDay | undefined;
      readonly roleIds: readonly string[] | null;
      readonly today: IsoDay;
    },
  ): Promise<EngagementTrack[]> {
    const values = new Values();
    const seen = values.addCondition((first) => engagementSeenBy(who, first));
    const states = show.isFinished ? `('finished', 'dropped')` : `('proposal', 'open')`;
    const closed = show.isFinished && show.since !== undefined ? `AND e.closed_on >= ${values.add(show.since)}` : '';
    const roles = show.roleIds === null ? null : values.addCondition((first) => standsWith(first, show.roleIds, show.today));
    type Row = Omit<TrackRow, 'phases'> & { readonly phases: readonly PhaseValues[]; readonly stands: RoleStand | null };
    const rows = await this.database.rows<Row>(
      `SELECT ${TRACK_COLUMNS}, ${TRACK_PHASES} AS phases, ${roles === null ? 'NULL' : STANDS} AS stands FROM engagement e ${TRACK_JOINS} ${roles ?? ''}
       WHERE ${seen} AND e.state IN ${states} ${closed} ORDER BY c.is_own, e.promised_day IS NULL, e.start_day, e.name`,
      values.list,
    );
    return rows.map((row) => ({ ...toTrack({ ...row, phases: row.phases.map(toPhaseRow) }, show.today), stands: row.stands }));
  }

  /** The plan of an engagement as JSON, cut to their own tasks for who sees only those; null when it may not be seen. */
  async findPlan(who: Who, engagementId: string, today: IsoDay): Promise<Json<EngagementPlan> | null> {
    const seen = engagementSeenBy(who, 2);
    const row = await this.database.row<PlanRow>(`${PLAN_DOCUMENT} AND ${seen.sql}`, [engagementId, ...seen.values]);
    if (row === null) return null;
    const { version, contactId, contact, likelihood, template } = row;
    const engagement: EngagementPlan['engagement'] = {
      ...toTrack(row, today),
      version,
      contactId,
      contact,
      likelihood,
      template,
    };
    const phases = row.phases.map((phase) => toPlanPhase(phase, today));
    const { deliverables, baseline, calendar } = row;
    if (reachOf(who, 'engagement.read-plan') === 'own') {
      const tasks = JSON.parse(row.tasks) as EngagementPlan['tasks'];
      return jsonOf(
        JSON.stringify(cutPlan({ engagement, phases, deliverables, baseline, calendar, tasks }, { personId: who.personId, today })),
      );
    }
    return jsonOf(`${JSON.stringify({ engagement, phases, deliverables, baseline, calendar }).slice(0, -1)},"tasks":${row.tasks}}`);
  }

  /** A client's own engagements: only what is shown to them leaves the database. */
  listForClient(who: Who): Promise<ClientEngagement[]> {
    const seen = engagementSeenBy(who, 1);
    return this.database.rows<ClientEngagement>(
      `SELECT e.id, e.name, e.promised_day AS promise,
         coalesce((SELECT json_agg(json_build_object('name', p.name, 'state', p.state, 'stateLine', ${stateLineOf('p')}) ORDER BY p.position)
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

function toTrack(
  row: Omit<TrackRow, 'phases'> & { readonly phases: readonly PhaseRow[] | readonly PlanPhaseRow[] },
  today: IsoDay,
): EngagementTrack {
  const standing = standingsOf(row, today);
  const {
    id,
    name,
    clientId,
    client,
    lead,
    series,
    state,
    start,
    promise,
    finish,
    percent,
    loggedMinutes,
    effortMinutes,
    overdue,
    forecast,
  } = row;
  const phases = row.phases.map((phase): TrackPhase => ({
    id: phase.id,
    name: phase.name,
    state: phase.state,
    start: phase.start,
    finish: phase.finish,
    percent: phase.percent,
    stateLine: phase.stateLine,
    baton: batonOn(phase, today),
  }));
  return {
    id,
    name,
    clientId,
    client,
    lead,
    series,
    state,
    start,
    promise,
    // What was completed or closed ended on that day, whatever was left open.
    finish: row.closedOn ?? finish,
    percent,
    loggedMinutes,
    effortMinutes,
    overdue,
    standing,
    forecast,
    phases,
    stands: null,
  };
}

function toPlanPhase({ handoff, gateFacts, ...phase }: PlanPhaseRow, today: IsoDay): PlanPhase {
  const results = gateFacts === null ? [] : judgeGate(gateFacts);
  const gate = { clear: results.filter((result) => result.isClear).length, all: results.length };
  return { ...phase, gate, baton: batonOn({ ...phase, handoff }, today) };
}

const batonOn = (
  phase: { readonly handoff: HandoffState | null; readonly state: PhaseState; readonly finish: IsoDay },
  today: IsoDay,
): Baton => batonOf({ handoff: phase.handoff, phaseState: phase.state, finish: phase.finish, today });
