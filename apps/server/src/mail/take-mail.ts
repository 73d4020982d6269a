import { reply as readReply, type Reply } from '@crew/core';
import { Injectable } from '@nestjs/common';
import type { IncomingState } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { AccountRepository } from '../account/account.repository.ts';
import { record } from '../activity/record.ts';
import { KeepFiles } from '../file/keep-files.ts';
import { announceChange } from '../platform/announce.ts';
import { Clock } from '../platform/clock.ts';
import { Database, firstRow, rowsOf } from '../platform/database.ts';
import { addJob } from '../platform/job-names.ts';
import { unwrap } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import type { DeliveredMail } from './listen-for-mail.ts';
import { readAddress } from './mail-headers.ts';
import { MailSecrets } from './mail-secrets.ts';
import { readMail, type ReadMail } from './read-mail.ts';
import { markFault } from './send-mail.ts';

/** The mail that is answered. */
interface Answered {
  readonly id: string;
  readonly agencyId: string;
  readonly toAddress: string;
  readonly engagementId: string | null;
  readonly handoffId: string | null;
  readonly text: string;
  /** Addresses of whoever it was sent to, as they are now. */
  readonly addresses: readonly string[];
  readonly personId: string | null;
  readonly accountId: string | null;
  /** How many mails came in for it in the last hour. */
  readonly lately: number;
}

const ANSWERED = `
  SELECT m.id, m.agency_id AS "agencyId", m.to_address AS "toAddress", m.engagement_id AS "engagementId", m.handoff_id AS "handoffId", m.text, m.person_id AS "personId", a.id AS "accountId",
    ARRAY(SELECT DISTINCT lower(x) FROM unnest(ARRAY[m.to_address, a.email, c.email]) x WHERE x IS NOT NULL) AS addresses,
    (SELECT count(*)::int FROM mail_reply r WHERE r.mail_id = m.id AND r.at > $2::timestamptz - interval '1 hour') AS lately
  FROM mail m LEFT JOIN contact c ON c.id = m.contact_id
    LEFT JOIN account a ON (a.person_id = m.person_id OR a.contact_id = m.contact_id) AND a.agency_id = m.agency_id
  WHERE m.id = $1 AND m.can_reply`;

/** Two programs that answer each other are stopped here, whatever they leave out of their headers. */
const MOST_AN_HOUR = 20;

const KEEP = `
  INSERT INTO mail_reply (mail_id, message_id, from_address, from_name, at, state, words, remarks, said, is_pending) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
  ON CONFLICT DO NOTHING RETURNING id`;

interface Kept {
  readonly state: IncomingState;
  readonly said: string;
  readonly reply: Reply;
}

/** An answer that came in, and who wrote it; somebody of a client may have no sign-in. */
interface Came {
  readonly answered: Answered;
  readonly who: Who | null;
  readonly mail: ReadMail;
}

const NOTHING: Reply = { words: '', remarks: [] };

/**
 * Takes in a mail that came by SMTP or by a provider's webhook: an answer to one of ours, or the report that one
 * did not arrive. Who wrote is known by two things together: the address it was sent to, which is signed and known
 * to one recipient only, and that it comes from that recipient. A mail that comes twice is kept once.
 */
@Injectable()
export class TakeMail {
  private readonly database: Database;
  private readonly secrets: MailSecrets;
  private readonly accounts: AccountRepository;
  private readonly files: KeepFiles;
  private readonly clock: Clock;
  constructor(database: Database, secrets: MailSecrets, accounts: AccountRepository, files: KeepFiles, clock: Clock) {
    this.database = database;
    this.secrets = secrets;
    this.accounts = accounts;
    this.files = files;
    this.clock = clock;
  }

  /** Why nothing is taken for an address; null when it is. */
  refusalOf(address: string): string | null {
    const read = readAddress(address);
    if (read?.kind === 'no-reply') return 'Replies to this mail are not read. Use the link in it.';
    if (read === null || this.secrets.read(read.kind, read.token) === null)
      return 'This address is not known here. Answer the mail you were sent.';
    return null;
  }

  /** Answers why a mail is refused, null when it is taken (or dropped, which nobody is told of). */
  async run({ from, to, raw }: DeliveredMail): Promise<string | null> {
    const mail = await readMail(raw, from);
    for (const address of to) {
      const why = this.refusalOf(address) ?? (await this.takeFor(address, mail));
      if (why !== null) return why;
    }
    return null;
  }

  private async takeFor(address: string, mail: ReadMail): Promise<string | null> {
    const read = readAddress(address) as { readonly kind: 'reply' | 'bounce'; readonly token: string };
    const mailId = this.secrets.read(read.kind, read.token) as string;
    if (read.kind === 'bounce') return this.takeReport(mailId, mail);
    return this.database.transaction(async (manager) => {
      const answered = await firstRow<Answered>(manager, ANSWERED, [mailId, this.clock.now()]);
      if (answered === null) return 'The mail this answers is not kept any more.';
      const who = answered.accountId === null ? null : await this.accounts.findWho(answered.accountId, manager);
      const kept = judge({ answered, who, mail });
      await this.keep(manager, { answered, who, mail, kept });
      return kept.state === 'refused' ? kept.said : null;
    });
  }

  private async keep(manager: EntityManager, { kept: { state, said, reply }, ...came }: Came & { readonly kept: Kept }): Promise<void> {
    const { answered, mail } = came;
    const at = this.clock.now();
    const isTaken = state === 'kept';
    const isPending = isTaken && answered.handoffId !== null;
    const [row] = await rowsOf<{ id: string }>(manager, KEEP, [
      ...[answered.id, mail.messageId, mail.from.address, mail.from.name, at, state],
      ...[reply.words, JSON.stringify(reply.remarks), said, isPending],
    ]);
    // It was delivered before.
    if (row === undefined) return;
    if (isTaken) await this.keepFiles(manager, row.id, came);
    if (isPending) await addJob(manager, { name: 'act-on-mail', payload: { replyId: row.id }, key: `answer ${row.id}` });
    else if (isTaken) await tellOfReply(manager, { ...came, reply, acted: null, at });
    await announceChange(manager, { agencyId: answered.agencyId, topics: ['mail'] });
  }

  private async keepFiles(manager: EntityManager, replyId: string, { answered, who, mail }: Came): Promise<void> {
    const by = { agencyId: answered.agencyId, personId: who?.personId ?? null, name: who?.name ?? mail.from.name };
    for (const [position, { name, type, content }] of mail.files.entries()) {
      const file = await this.files.keep(manager, by, { name, type, from: { content } });
      await rowsOf(manager, 'INSERT INTO mail_reply_file (reply_id, file_id, position) VALUES ($1, $2, $3)', [replyId, file.id, position]);
    }
  }

  private takeReport(mailId: string, { report, messageId, from }: ReadMail): Promise<null> {
    return this.database.transaction(async (manager) => {
      const sql = 'SELECT agency_id AS "agencyId", to_address AS address FROM mail WHERE id = $1';
      const mail = await firstRow<{ agencyId: string; address: string }>(manager, sql, [mailId]);
      // A mail that is only late says so; nothing follows from that.
      if (mail === null || report === null || !report.isFinal) return null;
      const at = this.clock.now();
      const kept = await rowsOf(manager, KEEP, [mailId, messageId, from.address, from.name, at, 'bounce', '', '[]', report.why, false]);
      if (kept.length === 0) return null;
      await rowsOf(manager, `UPDATE mail SET state = 'undeliverable', trouble = $2 WHERE id = $1`, [mailId, report.why]);
      await markFault(manager, { ...mail, why: report.why, at });
      await announceChange(manager, { agencyId: mail.agencyId, topics: ['mail'] });
      return null;
    });
  }
}

/** Whether an answer is taken, and what it says. */
function judge({ answered: { addresses, text: sent, lately, personId }, who, mail: { from, text, automatic, files } }: Came): Kept {
  if (automatic !== null) return { state: 'dropped', said: `Not taken: ${automatic}.`, reply: NOTHING };
  if (lately >= MOST_AN_HOUR)
    return { state: 'dropped', said: `Not taken: more than ${MOST_AN_HOUR} answers within an hour.`, reply: NOTHING };
  if (!addresses.includes(from.address))
    return { state: 'refused', said: `This mail was sent to somebody else: answer it from the address it went to.`, reply: NOTHING };
  if (personId !== null && who === null) return { state: 'refused', said: 'Your access to the agency has ended.', reply: NOTHING };
  const reply = unwrap(readReply({ text, sent }));
  if (reply.words === '' && reply.remarks.length === 0 && files.length === 0)
    return { state: 'refused', said: 'There is nothing new in this answer. Write above the quoted text or between its lines.', reply };
  return { state: 'kept', said: '', reply };
}

/** What an answer says, as one text: remarks with the line they are on. */
export const replyText = ({ words, remarks }: Reply): string =>
  [words, ...remarks.map(({ on, says }) => `On “${on}”: ${says}`)].filter((part) => part !== '').join('\n');

/** Records that an answer came in, about what its mail was about; one about nothing is only kept. */
export async function tellOfReply(manager: EntityManager, { answered, who, mail, reply, acted, at }: TellOfReply): Promise<void> {
  const { id: mailId, engagementId, handoffId } = answered;
  if (engagementId === null) return;
  const payload = { mailId, from: who?.name ?? (mail.from.name || mail.from.address), words: replyText(reply), acted };
  const about =
    handoffId === null
      ? ({ subject: 'engagement', subjectId: engagementId } as const)
      : ({ subject: 'handoff', subjectId: handoffId } as const);
  const actor = who ?? ({ job: 'mail' } as const);
  await record(manager, { actor, at }, [{ kind: 'mail-received', engagementId, ...about, payload }]);
}

interface TellOfReply {
  readonly answered: Pick<Answered, 'id' | 'engagementId' | 'handoffId'>;
  readonly who: Who | null;
  readonly mail: Pick<ReadMail, 'from'>;
  readonly reply: Reply;
  /** What followed from it, as a sentence; null when nothing did. */
  readonly acted: string | null;
  readonly at: Date;
}
