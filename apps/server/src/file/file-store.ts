import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, type ReadStream } from 'node:fs';
import { chmod, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from '../platform/config.ts';

/** Nobody else on the machine reads them. */
const OWNER_ONLY = 0o600;

/** What is on the disk, by the sum of its content. */
export interface Stored {
  readonly sha256: string;
  readonly bytes: number;
}

/**
 * Contents of files on the disk, each once, named by their SHA-256. A content is put in place
 * by a rename, so nobody ever reads half of one. Who may read it is decided elsewhere.
 */
@Injectable()
export class FileStore {
  private readonly root: string;
  constructor(@Inject(CONFIG) config: Config) {
    this.root = config.filesRoot;
  }

  /** Takes over a file that lies on the same disk. */
  async take(path: string): Promise<Stored> {
    const hash = createHash('sha256');
    await pipeline(createReadStream(path), hash);
    const stored = { sha256: hash.digest('hex'), bytes: (await stat(path)).size };
    await this.place(path, stored.sha256);
    return stored;
  }

  /** Keeps a content that is at hand. */
  async keep(content: Buffer): Promise<Stored> {
    const path = await this.incoming();
    await writeFile(path, content, { mode: OWNER_ONLY });
    return this.take(path);
  }

  /** A new name in the place for files that are being uploaded. */
  async incoming(): Promise<string> {
    const folder = join(this.root, 'incoming');
    await mkdir(folder, { recursive: true });
    return join(folder, randomUUID());
  }

  /** Removes uploads that were not finished before an instant. */
  async clearIncoming(before: Date): Promise<void> {
    const folder = join(this.root, 'incoming');
    for (const name of await readdir(folder).catch(() => [])) {
      const path = join(folder, name);
      const found = await stat(path).catch(() => null);
      if (found !== null && found.mtime < before) await rm(path, { force: true });
    }
  }

  open(sha256: string): ReadStream {
    return createReadStream(this.pathOf(sha256));
  }

  read(sha256: string): Promise<Buffer> {
    return readFile(this.pathOf(sha256));
  }

  /** Whether the content is there, whole or not at all. */
  async has(sha256: string): Promise<boolean> {
    return stat(this.pathOf(sha256)).then(
      () => true,
      () => false,
    );
  }

  /** Removing what is not there is no fault: a sweep may run twice. */
  async remove(sha256: string): Promise<void> {
    await rm(this.pathOf(sha256), { force: true });
  }

  private async place(path: string, sha256: string): Promise<void> {
    const target = this.pathOf(sha256);
    await mkdir(join(target, '..'), { recursive: true, mode: 0o700 });
    await chmod(path, OWNER_ONLY);
    await rename(path, target);
  }

  private pathOf(sha256: string): string {
    return join(this.root, sha256.slice(0, 2), sha256);
  }
}
