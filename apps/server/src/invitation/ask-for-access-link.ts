import { Injectable } from '@nestjs/common';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow } from '../platform/database.ts';
import { addJob, type JobPayloads } from '../platform/job-names.ts';
import { originOfRequest } from '../platform/request-context.ts';
import { LINK_READER, MakeAccessLink, type LinkReader } from './make-access-link.ts';

const IS_FRESH = `SELECT 1 FROM access_link WHERE account_id = $1 AND used_at IS NULL AND withdrawn_at IS NULL AND created_at > $2::timestamptz - interval '5 minutes'`;

/** Somebody has forgotten the password: a link is mailed to their address. Nothing tells whether anybody has it, the time it takes included. */
@Injectable()
export class AskForAccessLink {
  private readonly database: Database;
  private readonly links: MakeAccessLink;
  private readonly clock: Clock;
  constructor(database: Database, links: MakeAccessLink, clock: Clock) {
    this.database = database;
    this.links = links;
    this.clock = clock;
  }

  /** Asks a job for it, known address or not; asked again before that has run, it is asked once. */
  run(typed: string): Promise<void> {
    const email = typed.trim().toLowerCase();
    return this.database.transaction((manager) =>
      addJob(manager, { name: 'send-access-link', payload: { email, origin: originOfRequest() }, key: `access link ${email}` }),
    );
  }

  /** Mails the link, unless one that can still be used was made in the last five minutes: nobody's mailbox is filled by it. */
  send({ email, origin }: JobPayloads['send-access-link']): Promise<void> {
    return this.database.transaction(async (manager) => {
      const reader = await firstRow<LinkReader>(manager, `${LINK_READER} AND a.email = $1`, [email]);
      if (reader === null || (await firstRow(manager, IS_FRESH, [reader.accountId, this.clock.now()])) !== null) return;
      await this.links.run(manager, reader, { origin });
    });
  }
}
