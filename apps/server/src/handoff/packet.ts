import type { HandoffPacket } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
import { isOpen } from '../platform/sql-words.ts';
import { DECIDE } from '../plan-change/decision-task.ts';
import type { HandoffFacts } from './handoff.repository.ts';

/** Who worked in a phase, with the minutes they logged. */
const INVOLVED = `
  SELECT json_build_object('id', p.id, 'name', p.name, 'initials', p.initials) AS person, coalesce(sum(m.minutes), 0)::int AS minutes
  FROM (SELECT a.person_id, NULL::int AS minutes FROM task t JOIN task_assignee a ON a.task_id = t.id WHERE t.phase_id = $1 AND t.status = 'done'
        UNION ALL SELECT x.person_id, x.minutes FROM task t JOIN time_entry x ON x.task_id = t.id WHERE t.phase_id = $1) m
  JOIN person p ON p.id = m.person_id GROUP BY p.id ORDER BY 2 DESC, p.name`;

const FILES = `
  SELECT DISTINCT ON (t.position, t.number, x.position, f.id) f.id, f.name, f.bytes, t.title AS task
  FROM task t JOIN task_file x ON x.task_id = t.id JOIN file f ON f.id = x.file_id
  WHERE t.phase_id = $1 AND t.status <> 'dropped' AND t.series_id IS NULL ORDER BY t.position, t.number, x.position, f.id`;

/** Whether task t asks somebody for an answer rather than for work; decisions rules and leads ask for have a title of their own. */
const IS_ASKED = `NOT t.is_group AND (t.kind IN ('review', 'client') OR starts_with(t.title, '${DECIDE}'))`;
const ASKED_TEXT = `CASE WHEN starts_with(t.title, '${DECIDE}') THEN substr(t.title, ${DECIDE.length + 1}) ELSE t.title END`;
/** Who answers: of the client's tasks the client, else its first person. */
const ANSWERER = `CASE WHEN t.kind = 'client' THEN c.name ELSE (SELECT p.name FROM task_assignee a JOIN person p ON p.id = a.person_id WHERE a.task_id = t.id ORDER BY a.position LIMIT 1) END`;
const TASKS = 'task t JOIN engagement e ON e.id = t.engagement_id JOIN client c ON c.id = e.client_id';

const DECISIONS = `
  SELECT id, kind, text, by, day::text AS day FROM (
    SELECT t.id::text AS id, CASE t.kind WHEN 'client' THEN 'answered' ELSE 'decided' END AS kind, ${ASKED_TEXT} AS text, ${ANSWERER} AS by, t.done_on AS day FROM ${TASKS} WHERE t.phase_id = $1 AND t.status = 'done' AND ${IS_ASKED}
    UNION ALL SELECT k.id::text, 'confirmed', k.text, p.name, (k.given_at AT TIME ZONE g.zone)::date
      FROM gate_check k JOIN person p ON p.id = k.given_by_id JOIN agency g ON g.id = p.agency_id WHERE k.phase_id = $1
    UNION ALL SELECT v.batch_id::text, 'round', 'round ' || (v.payload->>'round') || ', ' || (v.payload->>'reason'), w.name, (v.at AT TIME ZONE g.zone)::date
      FROM event v JOIN agency g ON g.id = v.agency_id LEFT JOIN account y ON y.id = v.account_id LEFT JOIN person w ON w.id = y.person_id
      WHERE v.subject_id = $1 AND v.kind = 'round-started' AND v.batch_id IS NOT NULL AND v.payload->>'reason' <> '' AND v.undone_by_id IS NULL AND v.undoes_id IS NULL) decided
  ORDER BY day, text`;

const WAITS_FOR = `CASE t.waiting_on WHEN 'client' THEN c.name WHEN 'colleague' THEN 'a colleague' WHEN 'supplier' THEN 'a supplier' ELSE ${ANSWERER} END`;
const QUESTIONS = `
  SELECT t.id::text AS id, ${ASKED_TEXT} AS text, ${WAITS_FOR} AS who FROM ${TASKS}
  WHERE t.phase_id = $1 AND ${isOpen('t')} AND NOT t.is_group AND (t.status = 'waiting' OR ${IS_ASKED}) ORDER BY t.number`;

/** Puts together what goes along with a handoff as things are now; nobody types it. */
export async function gatherPacket(manager: EntityManager, { line, row }: Pick<HandoffFacts, 'line' | 'row'>): Promise<HandoffPacket> {
  // One query after the other: a transaction has one connection.
  const read = <Row>(sql: string): Promise<Row[]> => rowsOf<Row>(manager, sql, [line.from.id]);
  const decisions = await read<HandoffPacket['decisions'][number]>(DECISIONS);
  const questions = await read<HandoffPacket['questions'][number]>(QUESTIONS);
  const files = await read<HandoffPacket['files'][number]>(FILES);
  const involved = await read<HandoffPacket['involved'][number]>(INVOLVED);
  return {
    doneTasks: row.tasks.flatMap(({ id, number, title, status, finish, who }) =>
      status === 'done' && finish !== null ? [{ id, number, title, finish, who }] : [],
    ),
    openTasks: row.tasks.flatMap(({ id, number, title, status }) => (status === 'done' ? [] : [{ id, number, title, status }])),
    decisions,
    questions,
    files,
    involved,
  };
}

/** Without what the giver left out. */
export function trimPacket(packet: HandoffPacket, without: readonly string[]): HandoffPacket {
  const left = new Set(without);
  const kept = <One extends { readonly id: string }>(list: readonly One[]): One[] => list.filter(({ id }) => !left.has(id));
  return {
    ...packet,
    ...{ doneTasks: kept(packet.doneTasks), openTasks: kept(packet.openTasks), decisions: kept(packet.decisions) },
    ...{ questions: kept(packet.questions), files: kept(packet.files) },
  };
}
