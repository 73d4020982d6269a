import { assigneesOf, CLIENT, ENGAGEMENT, ENGAGEMENT_IN_COLOUR, PERSON } from '../../platform/sql-words.ts';

/** A table beside the task that a column is read from: phase, engagement, client, role, agency. */
export type Beside = 'p' | 'e' | 'c' | 'r' | 'g';

interface Column {
  readonly sql: string;
  readonly needs?: readonly Beside[];
}

/** How each of them is joined to task t, in the order in which they need each other. */
export const JOINS: Readonly<Record<Beside, string>> = {
  p: 'JOIN phase p ON p.id = t.phase_id',
  e: 'JOIN engagement e ON e.id = t.engagement_id',
  c: 'JOIN client c ON c.id = e.client_id',
  r: 'LEFT JOIN role r ON r.id = t.role_id',
  g: 'JOIN agency g ON g.id = t.agency_id',
};

/** The part of task t an outside maker does. */
const OUTSIDE = `CASE WHEN t.outside_maker IS NOT NULL THEN json_build_object('maker', t.outside_maker, 'turnaroundDays', t.outside_turnaround,
    'bufferDays', t.outside_buffer, 'neededOn', t.outside_needed_on, 'state', t.outside_state, 'briefBy', t.brief_by) END`;

/** Assignees of task t as `what` of alias a and person q, in their order. */
const assignees = (what: string, and = ''): string => assigneesOf('t', what, and);

/** What assignee a put on days of their own week, of task t; null where nothing. */
const PLACED = `(SELECT json_agg(json_build_object('day', x.day, 'minutes', x.minutes) ORDER BY x.day)
  FROM desk_place x WHERE x.person_id = a.person_id AND x.task_id = t.id)`;

const plain = (sql: string): Column => ({ sql: `t.${sql}` });

/** Everything lists read of a task, by the name it has in answers. */
export const TASK_COLUMN = {
  ...{ id: plain('id'), number: plain('number'), title: plain('title'), kind: plain('kind'), version: plain('version') },
  ...{ phaseId: plain('phase_id'), parentId: plain('parent_id'), isGroup: plain('is_group'), deliverableId: plain('deliverable_id') },
  ...{ labels: plain('labels'), roleId: plain('role_id'), status: plain('status'), priority: plain('priority') },
  ...{ waitingOn: plain('waiting_on'), waitingSince: plain('waiting_since'), seriesId: plain('series_id') },
  ...{ start: plain('start_day'), expected: plain('expected_day'), days: plain('days'), slack: plain('slack') },
  ...{ isCritical: plain('is_critical'), missedDays: plain('missed_days'), fixedDay: plain('fixed_day'), notBefore: plain('not_before') },
  ...{
    realStart: plain('real_start'),
    doneOn: plain('done_on'),
    baselineStart: plain('baseline_start'),
    baselineDue: plain('baseline_due'),
  },
  ...{ estimateMinutes: plain('estimate_minutes'), loggedMinutes: plain('logged_minutes'), stepsDone: plain('steps_done') },
  ...{ stepsAll: plain('steps_all'), openPredecessors: plain('open_predecessors'), isShownToClient: plain('is_shown_to_client') },
  ...{ isChargeable: plain('is_chargeable'), mayStartEarly: plain('may_start_early'), plannedWeek: plain('planned_week') },
  ...{ carried: plain('carried'), engagementId: plain('engagement_id') },
  /** What is done shows the day it was done, not the one it was planned for. */
  due: { sql: `CASE WHEN t.status = 'done' THEN greatest(t.start_day, t.expected_day) ELSE t.due_day END` },
  outside: { sql: OUTSIDE },
  role: { sql: 'r.name', needs: ['r'] },
  phase: { sql: 'p.name', needs: ['p'] },
  engagement: { sql: ENGAGEMENT, needs: ['e', 'c'] },
  engagementInColour: { sql: ENGAGEMENT_IN_COLOUR, needs: ['e', 'c'] },
  engagementName: { sql: 'e.name', needs: ['e'] },
  promise: { sql: 'e.promised_day', needs: ['e'] },
  /** How likely a proposal is to come; null for what is agreed. */
  likelihood: { sql: `CASE WHEN e.state = 'proposal' THEN e.likelihood END`, needs: ['e'] },
  client: { sql: CLIENT, needs: ['e', 'c'] },
  clientId: { sql: 'e.client_id', needs: ['e'] },
  hue: { sql: 'c.hue', needs: ['e', 'c'] },
  isBegun: { sql: 't.real_start IS NOT NULL' },
  remainingMinutes: { sql: 'greatest(0, coalesce(t.estimate_minutes, g.default_minutes) - t.logged_minutes)', needs: ['g'] },
  assignees: { sql: assignees(PERSON('q')) },
  assigneeIds: { sql: 'ARRAY(SELECT a.person_id FROM task_assignee a WHERE a.task_id = t.id ORDER BY a.position)' },
  /** Those who are still of the crew, with how much of it each does and what they put on days of their own. */
  shares: { sql: assignees(`json_build_object('person', a.person_id, 'share', a.share, 'placed', ${PLACED})`, ' AND q.is_active') },
  after: {
    sql: `coalesce((SELECT json_agg(json_build_object('id', b.id, 'number', b.number, 'type', l.type, 'lag', l.lag) ORDER BY b.number)
      FROM task_dependency l JOIN task b ON b.id = l.predecessor_id WHERE l.successor_id = t.id), '[]')`,
  },
} as const satisfies Readonly<Record<string, Column>>;

export type TaskColumn = keyof typeof TASK_COLUMN;

/** The columns of a plan. */
export const PLAN_COLUMNS = [
  ...([
    'id',
    'number',
    'phaseId',
    'parentId',
    'isGroup',
    'deliverableId',
    'labels',
    'title',
    'kind',
    'role',
    'status',
    'waitingOn',
  ] as const),
  ...([
    'waitingSince',
    'priority',
    'start',
    'due',
    'expected',
    'days',
    'slack',
    'isCritical',
    'missedDays',
    'fixedDay',
    'notBefore',
  ] as const),
  ...(['realStart', 'baselineStart', 'baselineDue', 'outside', 'estimateMinutes', 'loggedMinutes', 'stepsDone', 'stepsAll'] as const),
  ...(['openPredecessors', 'isShownToClient', 'isChargeable', 'mayStartEarly', 'seriesId', 'version', 'assignees', 'after'] as const),
] as const satisfies readonly TaskColumn[];

/** What work as task t usually took: the middle of other runs of the same template task, else its estimate. */
export const USUAL_MINUTES = `coalesce((SELECT percentile_disc(0.5) WITHIN GROUP (ORDER BY o.logged_minutes) FROM task o
  WHERE o.template_task_id = t.template_task_id AND o.id <> t.id AND o.status = 'done' AND o.logged_minutes > 0), t.estimate_minutes)`;

/** Where only "already" counts and no day is known. */
const LONG_AGO = `date '0001-01-01'`;

/**
 * The first day on which the work of task t may go on: its phase p has begun by then, or it may begin
 * before that; what repeats goes on from its own day. Null while that is open.
 */
const MAY_BEGIN_FROM = `CASE WHEN t.may_start_early OR p.state <> 'ahead' THEN greatest(${LONG_AGO},
    CASE WHEN NOT t.may_start_early THEN p.started_on END, CASE WHEN t.series_id IS NOT NULL THEN t.start_day END) END`;

/** From which day on somebody could work on task t with phase p: nothing open in front of it, not waiting, and it may begin. Null while that is open. */
export const READY_FROM = `CASE WHEN t.open_predecessors = 0 AND t.status <> 'waiting' THEN ${MAY_BEGIN_FROM} END`;

/** Whether the work of task t may go on by a day, given as SQL. */
export const mayBeginBy = (day: string): string => `coalesce(${MAY_BEGIN_FROM} <= ${day}, false)`;

/** Whether somebody could work on task t by a day, given as SQL. */
export const isReadyBy = (day: string): string => `coalesce(${READY_FROM} <= ${day}, false)`;
