import type { HandoffPacket } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../platform/database.ts';
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

/** Gathers what goes along with a handoff as things stand now; nobody types it. */
export async function gatherPacket(manager: EntityManager, { line, row }: Pick<HandoffFacts, 'line' | 'row'>): Promise<HandoffPacket> {
  const [files, involved] = await Promise.all([
    rowsOf<HandoffPacket['files'][number]>(manager, FILES, [line.from.id]),
    rowsOf<HandoffPacket['involved'][number]>(manager, INVOLVED, [line.from.id]),
  ]);
  return {
    doneTasks: row.tasks.flatMap(({ id, number, title, status, finish, who }) =>
      status === 'done' && finish !== null ? [{ id, number, title, finish, who }] : [],
    ),
    openTasks: row.tasks.flatMap(({ id, number, title, status }) => (status === 'done' ? [] : [{ id, number, title, status }])),
    files,
    involved,
  };
}

/** Without what the giver left out. */
export function trimPacket(packet: HandoffPacket, without: readonly string[]): HandoffPacket {
  const left = new Set(without);
  const kept = <One extends { readonly id: string }>(list: readonly One[]): One[] => list.filter(({ id }) => !left.has(id));
  return { ...packet, doneTasks: kept(packet.doneTasks), openTasks: kept(packet.openTasks), files: kept(packet.files) };
}
