import { Injectable } from '@nestjs/common';
import { Clock } from '../platform/clock.ts';
import { Database, rowsOf } from '../platform/database.ts';
import { FileStore } from './file-store.ts';
import { holdContent } from './keep-files.ts';

const KEPT_ALONE_MS = 24 * 3_600_000;

/**
 * Files nothing refers to: no task, no template nor an old version of one, and nothing in the
 * history, which could be undone. The list of references is here alone.
 */
const ALONE = `
  WITH remembered AS MATERIALIZED (
    SELECT x #>> '{}' AS id FROM event v, jsonb_path_query(v.changes, '$[*] ? (@.field == "files").*[*]') x WHERE v.kind = 'task-changed'
    UNION SELECT x #>> '{}' FROM event v, jsonb_path_query(v.payload, '$.image.files[*]') x WHERE v.kind = 'task-deleted')
  SELECT f.id, f.sha256 FROM file f WHERE f.added_at < $1
    AND NOT EXISTS (SELECT 1 FROM task_file x WHERE x.file_id = f.id)
    AND NOT EXISTS (SELECT 1 FROM template_task_file x WHERE x.file_id = f.id)
    AND NOT EXISTS (SELECT 1 FROM mail_reply_file x WHERE x.file_id = f.id)
    AND NOT EXISTS (SELECT 1 FROM handoff h WHERE h.packet->'files' @> jsonb_build_array(jsonb_build_object('id', f.id)))
    AND NOT EXISTS (SELECT 1 FROM template_version v WHERE jsonb_path_exists(v.content, '$.tasks[*].files[*] ? (@.fileId == $id)', jsonb_build_object('id', f.id)))
    AND f.id::text NOT IN (SELECT id FROM remembered)
  LIMIT 500`;

/** Removes files that were sent and then belonged to nothing for a day, what was only half sent, and contents nobody has any more. Doing it twice changes nothing. */
@Injectable()
export class SweepFilesJob {
  private readonly database: Database;
  private readonly store: FileStore;
  private readonly clock: Clock;
  constructor(database: Database, store: FileStore, clock: Clock) {
    this.database = database;
    this.store = store;
    this.clock = clock;
  }

  async run(): Promise<void> {
    const before = new Date(this.clock.now().getTime() - KEPT_ALONE_MS);
    const alone = await this.database.rows<{ id: string; sha256: string }>(ALONE, [before]);
    for (const file of alone) await this.remove(file);
    await this.store.clearIncoming(before);
  }

  private remove({ id, sha256 }: { readonly id: string; readonly sha256: string }): Promise<void> {
    return this.database.transaction(async (manager) => {
      await holdContent(manager, sha256);
      await rowsOf(manager, 'DELETE FROM file WHERE id = $1', [id]);
      const others = await rowsOf(manager, 'SELECT 1 FROM file WHERE sha256 = $1 LIMIT 1', [sha256]);
      if (others.length === 0) await this.store.remove(sha256);
    });
  }
}
