import { calendarOf, isOpen, isWork, timeOffOf } from '../platform/sql-words.ts';
import { taskList } from '../task/query/select-tasks.ts';
import { READY_FROM, TASK_COLUMN } from '../task/query/task-columns.ts';
import { Values } from '../task/query/values.ts';
import type { CalendarInput, LoadInput, LoadTaskInput, PersonInput, IsoDay } from '@crew/core';
import type { ClientHue, TaskFilter } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { firstRow } from '../platform/database.ts';

/** A person with week, time off and roles, as the load reads them. */
export interface PersonFacts extends PersonInput {
  readonly name: string;
  readonly initials: string;
  readonly roleIds: readonly string[];
  readonly roles: readonly string[];
  readonly off: readonly { readonly from: IsoDay; readonly to: IsoDay; readonly minutes?: number }[];
}

/** What the week's planning needs of a task beside its load. */
export interface WeekFacts {
  readonly number: number;
  readonly isHigh: boolean;
  readonly openPredecessors: number;
  /** From which day on somebody could work on it; missing while that is open. */
  readonly readyFrom?: IsoDay;
  readonly plannedWeek?: IsoDay;
  readonly carried: number;
  /** All it was given to, in their order, also who has left since. */
  readonly assigneeIds: readonly string[];
}

/** An open task with what the load, its grid and the week's planning need. */
export interface LoadTaskFacts extends LoadTaskInput {
  readonly title: string;
  readonly engagementId: string;
  readonly engagement: string;
  readonly hue: ClientHue;
  readonly clientId: string;
  readonly promise?: IsoDay;
  readonly roleId?: string;
  /** Working days: the planned length, and what is left before the promise moves. */
  readonly days: number;
  readonly slack: number;
  readonly fixedDay?: IsoDay;
  readonly isBegun: boolean;
  readonly version: number;
  readonly week: WeekFacts;
  /** Of a unit a series has not created yet: it counts, and nothing can be done with it. Its engagement is the series. */
  readonly isComing?: true;
}

/** What the load of an agency is computed from. */
export interface LoadFacts {
  readonly calendar: CalendarInput;
  readonly defaultMinutes: number;
  readonly people: readonly PersonFacts[];
  readonly tasks: readonly LoadTaskFacts[];
}

/** Agency $1 with its calendar and people; time off from $2 on. */
const CREW = `
  SELECT ${calendarOf('agency')} AS calendar,
    agency.default_minutes AS "defaultMinutes",
    coalesce((SELECT json_agg(json_build_object('id', p.id, 'name', p.name, 'initials', p.initials, 'week', p.week, 'reserve', p.reserve,
        'roleIds', coalesce((SELECT json_agg(h.role_id ORDER BY h.position) FROM person_role h WHERE h.person_id = p.id), '[]'),
        'roles', coalesce((SELECT json_agg(r.name ORDER BY h.position) FROM person_role h JOIN role r ON r.id = h.role_id WHERE h.person_id = p.id), '[]'),
        'off', ${timeOffOf('p', 'o.to_day >= $2')}) ORDER BY p.name)
      FROM person p WHERE p.agency_id = agency.id AND p.is_active), '[]') AS people`;

/** Of task t with its phase p, as `WeekFacts`. */
const WEEK_OF_TASK = `json_build_object('number', t.number, 'isHigh', t.priority = 'high', 'openPredecessors', t.open_predecessors,
  'readyFrom', ${READY_FROM}, 'plannedWeek', t.planned_week, 'carried', t.carried, 'assigneeIds', ${TASK_COLUMN.assigneeIds.sql})`;

/** Of work nobody has made yet: it stands in no week. */
const NO_WEEK = `json_build_object('number', 0, 'isHigh', false, 'openPredecessors', 0, 'carried', 0, 'assigneeIds', '[]'::json)`;

/** Open work of the agency as the load reads it, as far as a filter says. */
const tasksOf = (values: Values, filter: TaskFilter): string =>
  taskList(
    {
      columns: {
        ...{ id: 'id', title: 'title', engagementId: 'engagementId', engagement: 'engagementName', hue: 'hue', clientId: 'clientId' },
        ...{
          promise: 'promise',
          roleId: 'roleId',
          days: 'days',
          slack: 'slack',
          fixedDay: 'fixedDay',
          isBegun: 'isBegun',
          version: 'version',
        },
        ...{
          estimate: 'estimateMinutes',
          logged: 'loggedMinutes',
          start: 'start',
          due: 'due',
          likelihood: 'likelihood',
          assignees: 'shares',
        },
      },
      extra: { week: WEEK_OF_TASK },
      filter: { isOpen: true, engagementStates: ['proposal', 'open'], ...filter },
      and: ['t.agency_id = agency.id', isWork('t')],
      ...{ needs: ['p'], order: 't.due_day, t.id', dropsNulls: true },
    },
    values,
  );

/** Work of units that are not created yet, of agency `agency`, as far as a condition on alias k says. */
const comingOf = (condition: string): string => `
  coalesce((SELECT json_agg(json_strip_nulls(json_build_object('id', k.id, 'title', k.title, 'engagementId', k.series_id, 'engagement', k.unit, 'hue', c.hue,
      'clientId', z.client_id, 'roleId', k.role_id, 'days', 1, 'slack', 0, 'isBegun', false, 'version', 0, 'week', ${NO_WEEK}, 'estimate', k.estimate_minutes, 'start', k.start_day, 'due', k.due_day,
      'assignees', CASE WHEN k.person_id IS NULL THEN '[]'::json ELSE json_build_array(json_build_object('person', k.person_id)) END, 'isComing', true)) ORDER BY k.due_day, k.id)
    FROM series_coming k JOIN engagement_series z ON z.id = k.series_id JOIN client c ON c.id = z.client_id
    LEFT JOIN person q ON q.id = k.person_id WHERE z.agency_id = agency.id AND coalesce(q.is_active, true) AND ${condition}), '[]')`;

/** What people put on days of their own, from $3 on, as one text for each engagement: putting it there changes no task. */
const PLACES = `
  SELECT t.engagement_id, md5(string_agg(concat_ws(' ', x.person_id, x.task_id, x.day, x.minutes), ',' ORDER BY x.person_id, x.task_id, x.day)) AS mark
  FROM desk_place x JOIN task t ON t.id = x.task_id WHERE t.agency_id = $1 AND x.day >= $3 GROUP BY t.engagement_id`;

/** What of an agency's work stands in a week, as one text for each engagement: putting it there changes no plan. */
const WEEKS = `
  SELECT t.engagement_id, md5(string_agg(concat_ws(' ', t.id, t.planned_week, t.carried), ',' ORDER BY t.id)) AS mark
  FROM task t WHERE t.agency_id = $1 AND t.planned_week IS NOT NULL AND ${isOpen('t')} GROUP BY t.engagement_id`;

/** With each open engagement a mark that is another as soon as anything of it that is kept has changed. */
const CREW_AND_MARKS = `${CREW}, coalesce((SELECT json_agg(json_build_object('id', e.id, 'mark',
      concat_ws(' ', s.revision, e.version, e.state, e.likelihood, e.promised_day, e.name, c.hue, d.mark, w.mark)))
    FROM engagement e JOIN client c ON c.id = e.client_id LEFT JOIN engagement_summary s ON s.engagement_id = e.id
    LEFT JOIN (${PLACES}) d ON d.engagement_id = e.id LEFT JOIN (${WEEKS}) w ON w.engagement_id = e.id
    WHERE e.agency_id = agency.id AND e.state IN ('proposal', 'open')), '[]') AS marks,
    coalesce((SELECT json_agg(json_build_object('id', z.id, 'mark', concat_ws(' ', z.coming_mark, c.hue)))
      FROM engagement_series z JOIN client c ON c.id = z.client_id WHERE z.agency_id = agency.id), '[]') AS "seriesMarks"
  FROM agency WHERE agency.id = $1`;

/** The crew, and how far each open engagement and each series is. */
export interface CrewAndMarks extends Omit<LoadFacts, 'tasks'> {
  readonly marks: readonly { readonly id: string; readonly mark: string }[];
}

export const readCrewAndMarks = (
  manager: EntityManager,
  agencyId: string,
  { offFrom, today }: { readonly offFrom: IsoDay; readonly today: IsoDay },
): Promise<CrewAndMarks | null> =>
  firstRow<CrewAndMarks & { readonly seriesMarks: CrewAndMarks['marks'] }>(manager, CREW_AND_MARKS, [agencyId, offFrom, today]).then(
    (row) => {
      if (row === null) return null;
      const { seriesMarks, ...crew } = row;
      return { ...crew, marks: [...crew.marks, ...seriesMarks] };
    },
  );

/** The open work of some engagements, and the coming work of some series. */
export async function readTasksOf(manager: EntityManager, agencyId: string, ids: readonly string[]): Promise<readonly LoadTaskFacts[]> {
  const values = new Values([agencyId, [...ids]]);
  const sql = `SELECT (${tasksOf(values, { engagementIds: [...ids] })}) AS tasks, ${comingOf('k.series_id = ANY($2)')} AS coming FROM agency WHERE agency.id = $1`;
  const row = await firstRow<Pick<LoadFacts, 'tasks'> & { readonly coming: LoadFacts['tasks'] }>(manager, sql, values.list);
  return [...(row?.tasks ?? []), ...(row?.coming ?? [])];
}

/** Reads people and their open work; tasks that begin after `to` are left out, and of units not created yet those after `comingTo`, as what repeats goes on for years. */
export async function readLoadFacts(
  manager: EntityManager,
  agencyId: string,
  window: { readonly today: IsoDay; readonly to: string; readonly comingTo?: IsoDay },
): Promise<LoadFacts> {
  const values = new Values([agencyId, window.today]);
  const sql = `${CREW}, (${tasksOf(values, { startTo: window.to })}) AS tasks, ${comingOf(`k.start_day <= ${values.add(window.comingTo ?? window.to)}`)} AS coming FROM agency WHERE agency.id = $1`;
  const row = await firstRow<LoadFacts & { readonly coming: LoadFacts['tasks'] }>(manager, sql, values.list);
  if (row === null) throw new Error(`agency ${agencyId} vanished`);
  const { coming, ...facts } = row;
  return { ...facts, tasks: [...facts.tasks, ...coming] };
}

/** People with their work, whether it is there or only thought of. */
export type AnyLoad = Omit<LoadFacts, 'tasks'> & { readonly tasks: readonly LoadTaskInput[] };

/** The facts as the core's load wants them. */
export function toLoadInput(facts: AnyLoad, window: { readonly today: IsoDay; readonly from: IsoDay; readonly to: IsoDay }): LoadInput {
  return { calendar: facts.calendar, ...window, defaultMinutes: facts.defaultMinutes, people: facts.people, tasks: facts.tasks };
}
