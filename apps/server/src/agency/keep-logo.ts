import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { MOST_LOGO_BYTES, type AgencySettings, type KeepLogo as Input } from '@crew/contract';
import { record } from '../activity/record.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { lockAgency } from '../platform/locks.ts';
import { Refusal } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { KeepSettings } from './keep-settings.ts';

/** Kinds of pictures by how their content begins. No SVG: it may hold scripts. */
const KINDS: readonly { readonly type: string; readonly is: (image: Buffer) => boolean }[] = [
  { type: 'image/png', is: (image) => image.subarray(0, 8).equals(Buffer.from('89504e470d0a1a0a', 'hex')) },
  { type: 'image/jpeg', is: (image) => image.subarray(0, 3).equals(Buffer.from('ffd8ff', 'hex')) },
  { type: 'image/webp', is: (image) => image.toString('latin1', 0, 4) === 'RIFF' && image.toString('latin1', 8, 12) === 'WEBP' },
];

export interface Logo {
  readonly type: string;
  readonly image: Buffer;
}

/** The agency's logo: a picture of up to 256 KB that clients see, and whoever signs in. */
@Injectable()
export class KeepLogo {
  private readonly database: Database;
  private readonly clock: Clock;
  private readonly settings: KeepSettings;
  constructor(database: Database, clock: Clock, settings: KeepSettings) {
    this.database = database;
    this.clock = clock;
    this.settings = settings;
  }

  /** The one agency's, or null. */
  read(): Promise<Logo | null> {
    return this.database.row<Logo>('SELECT type, image FROM agency_logo LIMIT 1');
  }

  /** Replaces it; null removes it. */
  set(who: Who, { image }: Input): Promise<AgencySettings> {
    const logo = image === null ? null : readImage(image);
    return this.database.transaction(async (manager) => {
      await lockAgency(manager, who.agencyId);
      const sql = 'SELECT digest FROM agency_logo WHERE agency_id = $1';
      const before = (await firstRow<{ digest: string }>(manager, sql, [who.agencyId]))?.digest ?? null;
      const after = logo?.digest ?? null;
      if (before !== after) {
        await rowsOf(manager, 'DELETE FROM agency_logo WHERE agency_id = $1', [who.agencyId]);
        if (logo !== null)
          await rowsOf(manager, 'INSERT INTO agency_logo (agency_id, type, image, digest) VALUES ($1, $2, $3, $4)', [
            ...[who.agencyId, logo.type, logo.image, logo.digest],
          ]);
        await record(manager, { actor: who, at: this.clock.now() }, [
          {
            ...{ kind: 'settings-changed', engagementId: null, subject: 'agency', subjectId: who.agencyId },
            changes: [{ field: 'logo', from: before, to: after }],
          },
        ]);
      }
      return this.settings.read(who, manager);
    });
  }
}

function readImage(base64: string): Logo & { readonly digest: string } {
  const image = Buffer.from(base64, 'base64');
  if (image.length > MOST_LOGO_BYTES)
    throw new Refusal('invalid-input', 'The logo is larger than 256 KB. Save it smaller, 400 pixels wide are enough.', { field: 'image' });
  const kind = KINDS.find(({ is }) => is(image));
  if (kind === undefined)
    throw new Refusal('invalid-input', 'A logo is a PNG, JPEG or WebP picture. Choose another file.', { field: 'image' });
  return { type: kind.type, image, digest: createHash('sha256').update(image).digest('hex').slice(0, 16) };
}
