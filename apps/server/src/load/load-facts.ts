import { calendarOf, isWork, timeOffOf } from '../platform/sql-words.ts';
import { taskList } from '../task/query/select-tasks.ts';
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

/** An open task with what the load and its grid need. */
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
      filter: { isOpen: true, engagementStates: ['proposal', 'open'], ...filter },
      and: ['t.agency_id = agency.id', isWork('t')],
      ...{ order: 't.due_day, t.id', dropsNulls: true },
    },
    values,
  );

/** What people put on days of their own, from $3 on, as one text for each engagement: putting it there changes no task. */
const PLACES = `
  SELECT t.engagement_id, md5(string_agg(concat_ws(' ', x.person_id, x.task_id, x.day, x.minutes), ',' ORDER BY x.person_id, x.task_id, x.day)) AS mark
  FROM desk_place x JOIN task t ON t.id = x.task_id WHERE t.agency_id = $1 AND x.day >= $3 GROUP BY t.engagement_id`;

/** With each open engagement a mark that is another as soon as anything of it that the load is computed from has changed. */
const CREW_AND_MARKS = `${CREW}, coalesce((SELECT json_agg(json_build_object('id', e.id, 'mark',
      concat_ws(' ', s.revision, e.version, e.state, e.likelihood, e.promised_day, e.name, c.hue, d.mark)))
    FROM engagement e JOIN client c ON c.id = e.client_id LEFT JOIN engagement_summary s ON s.engagement_id = e.id
    LEFT JOIN (${PLACES}) d ON d.engagement_id = e.id
    WHERE e.agency_id = agency.id AND e.state IN ('proposal', 'open')), '[]') AS marks
  FROM agency WHERE agency.id = $1`;

/** The crew, and how far each open engagement is. */
export interface CrewAndMarks extends Omit<LoadFacts, 'tasks'> {
  readonly marks: readonly { readonly id: string; readonly mark: string }[];
}

export const readCrewAndMarks = (
  manager: EntityManager,
  agencyId: string,
  { offFrom, today }: { readonly offFrom: IsoDay; readonly today: IsoDay },
): Promise<CrewAndMarks | null> => firstRow<CrewAndMarks>(manager, CREW_AND_MARKS, [agencyId, offFrom, today]);

/** The open work of some engagements. */
export async function readTasksOf(
  manager: EntityManager,
  agencyId: string,
  engagementIds: readonly string[],
): Promise<readonly LoadTaskFacts[]> {
  const values = new Values([agencyId]);
  const sql = `SELECT (${tasksOf(values, { engagementIds: [...engagementIds] })}) AS tasks FROM agency WHERE agency.id = $1`;
  return (await firstRow<Pick<LoadFacts, 'tasks'>>(manager, sql, values.list))?.tasks ?? [];
}

/** Reads people and their open work; tasks that begin after `to` are left out. */
export async function readLoadFacts(
  manager: EntityManager,
  agencyId: string,
  window: { readonly today: IsoDay; readonly to: string },
): Promise<LoadFacts> {
  const values = new Values([agencyId, window.today]);
  const sql = `${CREW}, (${tasksOf(values, { startTo: window.to })}) AS tasks FROM agency WHERE agency.id = $1`;
  const facts = await firstRow<LoadFacts>(manager, sql, values.list);
  if (facts === null) throw new Error(`agency ${agencyId} vanished`);
  return facts;
}

/** People with their work, whether it is there or only thought of. */
export type AnyLoad = Omit<LoadFacts, 'tasks'> & { readonly tasks: readonly LoadTaskInput[] };

/** The facts as the core's load wants them. */
export function toLoadInput(facts: AnyLoad, window: { readonly today: IsoDay; readonly from: IsoDay; readonly to: IsoDay }): LoadInput {
  return { calendar: facts.calendar, ...window, defaultMinutes: facts.defaultMinutes, people: facts.people, tasks: facts.tasks };
}
