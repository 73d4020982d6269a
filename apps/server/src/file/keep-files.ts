import { Injectable } from '@nestjs/common';
import type { TemplateFile } from '@crew/core';
import type { KeptFile } from '@crew/contract';
import type { ReadStream } from 'node:fs';
import type { EntityManager } from 'typeorm';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { fileSeenBy } from '../platform/visible.ts';
import { FileStore, type Stored } from './file-store.ts';

/** A file as it comes in: on the disk already, or as its content. */
export interface NewFile {
  readonly name: string;
  readonly type: string;
  readonly from: { readonly path: string } | { readonly content: Buffer };
  readonly id?: string;
}

const FILE = `json_build_object('id', f.id, 'name', f.name, 'type', f.type, 'bytes', f.bytes, 'addedAt', f.added_at, 'addedBy', w.name)`;

/** The files of task `t`, as a column. */
export const FILES_OF_TASK = `coalesce((SELECT json_agg(${FILE} ORDER BY x.position)
  FROM task_file x JOIN file f ON f.id = x.file_id LEFT JOIN person w ON w.id = f.added_by_id WHERE x.task_id = t.id), '[]')`;

/** The files of a task as a template holds them; the alias of the task and the table are given. */
export const templateFilesOf = (table: 'task_file' | 'template_task_file', alias: string): string =>
  `coalesce((SELECT json_agg(json_build_object('fileId', f.id, 'name', f.name, 'bytes', f.bytes) ORDER BY x.position)
    FROM ${table} x JOIN file f ON f.id = x.file_id WHERE x.task_id = ${alias}.id), '[]')`;

/** Stores files and reads them. */
@Injectable()
export class KeepFiles {
  private readonly database: Database;
  private readonly store: FileStore;
  private readonly clock: Clock;
  constructor(database: Database, store: FileStore, clock: Clock) {
    this.database = database;
    this.store = store;
    this.clock = clock;
  }

  /** Stores a file; it belongs to nothing yet, and is deleted if that stays so for a day. */
  take(who: Who, file: NewFile): Promise<KeptFile> {
    return this.database.transaction((manager) => this.keep(manager, who, file));
  }

  /** As `take`, inside a transaction that is already open. */
  async keep(
    manager: EntityManager,
    who: Pick<Who, 'agencyId' | 'personId' | 'name'>,
    { name, type, from, id }: NewFile,
  ): Promise<KeptFile> {
    const stored = 'path' in from ? await this.store.take(from.path) : await this.store.keep(from.content);
    await holdContent(manager, stored.sha256);
    // A sweep that ran before the lock was ours may have taken the content away again.
    if (!(await this.store.has(stored.sha256))) throw new Refusal('changed-meanwhile', 'The file was lost on the way. Send it once more.');
    const addedAt = this.clock.now();
    const row = await firstRow<{ id: string }>(
      manager,
      `INSERT INTO file (id, agency_id, name, type, bytes, sha256, added_at, added_by_id)
       VALUES (coalesce($1::uuid, gen_random_uuid()), $2, $3, $4, $5, $6, $7, $8) RETURNING id`,
      [id ?? null, who.agencyId, plainName(name), type, stored.bytes, stored.sha256, addedAt, who.personId],
    );
    return {
      id: (row as { id: string }).id,
      ...{ name: plainName(name), type, bytes: stored.bytes, addedAt: addedAt.toISOString(), addedBy: who.name },
    };
  }

  /** Name, type and content of a file that may be seen. */
  async open(who: Who, fileId: string): Promise<{ readonly name: string; readonly bytes: number; readonly content: ReadStream }> {
    const { manager } = this.database;
    const file = requireFound(await findSeen(manager, who, fileId), 'file');
    await this.requireContent(file);
    return { name: file.name, bytes: file.bytes, content: this.store.open(file.sha256) };
  }

  /** Files with their contents, by id; those of another agency are not found. */
  async contents(manager: EntityManager, agencyId: string, ids: readonly string[]): Promise<ReadonlyMap<string, FileContent>> {
    const sql = 'SELECT id, name, type, bytes, sha256 FROM file WHERE agency_id = $1 AND id = ANY($2)';
    const rows = await rowsOf<Stored & { id: string; name: string; type: string }>(manager, sql, [agencyId, ids]);
    const read = await Promise.all(
      rows.map(async ({ id, name, type, sha256 }) => {
        await this.requireContent({ name, sha256 });
        return [id, { name, type, content: await this.store.read(sha256) }] as const;
      }),
    );
    return new Map(read);
  }

  /** Refuses a file whose content somebody has removed from the disk, naming it. */
  private async requireContent({ name, sha256 }: { readonly name: string; readonly sha256: string }): Promise<void> {
    if (await this.store.has(sha256)) return;
    throw new Refusal('not-found', `The content of “${name}” is missing on the server. Ask whoever runs it to restore it from a backup.`);
  }
}

export interface FileContent {
  readonly name: string;
  readonly type: string;
  readonly content: Buffer;
}

/** Whoever refers to a content and whoever sweeps it away wait for each other. */
export const holdContent = (manager: EntityManager, sha256: string): Promise<unknown> =>
  rowsOf(manager, 'SELECT pg_advisory_xact_lock(hashtextextended($1, 0))', [sha256]);

/** Refuses files that are not there, or that whoever names them may not see: naming one would open it. */
export async function requireFiles(manager: EntityManager, who: Who, files: readonly Pick<TemplateFile, 'fileId'>[]): Promise<void> {
  const ids = [...new Set(files.map((file) => file.fileId))];
  if (ids.length === 0) return;
  const seen = fileSeenBy(who, 2);
  const known = await rowsOf(manager, `SELECT 1 FROM file f WHERE f.id = ANY($1) AND ${seen.sql}`, [ids, ...seen.values]);
  if (known.length < ids.length) throw new Refusal('unknown-id', 'A file is not there any more. Send it again.', { field: 'fileIds' });
}

async function findSeen(manager: EntityManager, who: Who, fileId: string): Promise<(Stored & { readonly name: string }) | null> {
  const seen = fileSeenBy(who, 2);
  const sql = `SELECT f.name, f.bytes, f.sha256 FROM file f WHERE f.id = $1 AND ${seen.sql}`;
  return firstRow<Stored & { readonly name: string }>(manager, sql, [fileId, ...seen.values]);
}

/** A name without folders, control characters or a length that no disk takes. */
export function plainName(name: string): string {
  const last = name.split(/[/\\]/).at(-1) ?? '';
  // eslint-disable-next-line no-control-regex -- these are what is taken out
  const clean = last.replace(/[\u0000-\u001f\u007f\u202a-\u202e\u2066-\u2069]/g, '').trim();
  if (clean === '' || clean === '.' || clean === '..') return 'file';
  if (clean.length <= 200) return clean;
  const end = /\.[A-Za-z0-9]{1,8}$/.exec(clean)?.[0] ?? '';
  return clean.slice(0, 200 - end.length) + end;
}
