import { createHash } from 'node:crypto';
import { Inject, Injectable } from '@nestjs/common';
import {
  reachOf,
  type AnswerMail,
  type Mailbox,
  type MailboxLine,
  type MailboxMail,
  type MailboxMailLine,
  type MailAnswered,
} from '@crew/contract';
import { simpleParser, type ParsedMail } from 'mailparser';
import { createTransport } from 'nodemailer';
import { CONFIG, type Config } from '../platform/config.ts';
import { Database } from '../platform/database.ts';
import { Refusal, requireFound } from '../platform/refusal.ts';
import type { Who } from '../platform/rights.ts';
import { IncomingMailServer } from './incoming-mail-server.ts';
import { readAddress } from './mail-headers.ts';
import { MailSecrets } from './mail-secrets.ts';

/** More mails of one box are not listed. */
const MOST_LISTED = 100;

/** Addresses of the agency that may be looked into: one's own ($2 account), or those of everybody ($3). In the demo everybody can be anybody. */
const BOXES = `
  SELECT known.address, known.name, count(c.id)::int AS mails
  FROM (
    SELECT lower(a.email) AS address, p.name, a.id FROM account a JOIN person p ON p.id = a.person_id WHERE a.agency_id = $1
    UNION SELECT lower(x.email), x.name, NULL FROM contact x JOIN client k ON k.id = x.client_id WHERE k.agency_id = $1) known
  LEFT JOIN caught_mail c ON c.address = known.address
  WHERE known.id = $2 OR $3 GROUP BY known.address, known.name, known.id HAVING count(c.id) > 0 OR known.id = $2
  ORDER BY known.id IS DISTINCT FROM $2, known.name`;

/** Links to choose a password are for their reader ($2 account) alone, whoever else may look into the box; in the demo ($3) everybody can be anybody. */
const IS_SHOWN = `($3 OR EXISTS (SELECT 1 FROM account a WHERE a.id = $2 AND a.email = c.address)
  OR NOT EXISTS (SELECT 1 FROM mail m WHERE m.kind = 'access' AND c.message_id LIKE '<' || m.id || '@%'))`;
const MAILS = `SELECT id, at, raw FROM caught_mail c WHERE address = $1 AND ${IS_SHOWN} ORDER BY at DESC, id LIMIT ${MOST_LISTED}`;

interface CaughtRow {
  readonly id: string;
  readonly at: Date;
  readonly address: string;
  readonly raw: Buffer;
}

/** The bundled mailboxes: reading what the app has sent, and answering it as its reader would. */
@Injectable()
export class ReadMailbox {
  private readonly config: Config;
  private readonly database: Database;
  private readonly incoming: IncomingMailServer;
  private readonly secrets: MailSecrets;
  constructor(@Inject(CONFIG) config: Config, database: Database, incoming: IncomingMailServer, secrets: MailSecrets) {
    this.config = config;
    this.database = database;
    this.incoming = incoming;
    this.secrets = secrets;
  }

  /** One's own box, or the one asked for. */
  async list(who: Who, asked: string | undefined): Promise<Mailbox> {
    const boxes = await this.boxes(who);
    const address = asked?.toLowerCase() ?? boxes[0]?.address ?? '';
    if (!boxes.some((box) => box.address === address) && asked !== undefined) this.refuseBox(who);
    const rows = await this.database.rows<CaughtRow>(MAILS, [address, who.accountId, this.config.isDemo]);
    return { address, boxes, mails: await Promise.all(rows.map(async (row) => toLine(row, await parse(row.raw)))) };
  }

  async read(who: Who, id: string): Promise<MailboxMail> {
    const row = await this.find(who, id);
    const mail = await parse(row.raw);
    return {
      ...toLine(row, mail),
      to: row.address,
      text: mail.text ?? '',
      html: typeof mail.html === 'string' ? mail.html : null,
      replyTo: this.replyTo(mail),
      headers: SHOWN_HEADERS.flatMap((name) => headerOf(mail, name)),
    };
  }

  /** Sends an answer as a mail program would: by SMTP, to where the mail asks for it. */
  async answer(who: Who, id: string, { text }: AnswerMail): Promise<MailAnswered> {
    const row = await this.find(who, id);
    const mail = await parse(row.raw);
    const to = this.replyTo(mail);
    if (to === null) throw new Refusal('wrong-moment', 'Replies to this mail are not read. Use the link in it.');
    const { port } = this.incoming;
    if (port === null) throw new Refusal('wrong-moment', 'This server takes no mail in. Answer from your own mail program.');
    const transport = createTransport({ host: '127.0.0.1', port, ignoreTLS: true });
    try {
      await transport.sendMail({
        ...{ from: row.address, to, subject: `Re: ${mail.subject ?? ''}`, text },
        inReplyTo: mail.messageId,
        // Sent twice, as when an answer of the server was lost, it is one mail.
        messageId: `<${createHash('sha256').update(`${id} ${text}`).digest('hex')}@${row.address.split('@')[1] ?? ''}>`,
      });
    } catch (error) {
      const { responseCode, response } = error as { responseCode?: number; response?: string };
      if (responseCode === undefined) throw error;
      throw new Refusal('wrong-moment', (response ?? 'The mail was refused.').replace(/^\d{3} /, ''));
    } finally {
      transport.close();
    }
    return this.answered(to);
  }

  private refuseBox(who: Who): never {
    if (!this.seesAll(who)) throw new Refusal('not-allowed', 'This mailbox is somebody else’s. Only leads read it.');
    throw new Refusal('not-found', 'Nobody of your agency or its clients has this address, or nothing was sent there.');
  }

  private seesAll(who: Who): boolean {
    return reachOf(who, 'mailbox.read') === 'all' || this.config.isDemo;
  }

  /** What came of the answer that was just sent. */
  private async answered(to: string): Promise<MailAnswered> {
    const read = readAddress(to);
    const mailId = read === null || read.kind === 'no-reply' ? null : this.secrets.read(read.kind, read.token);
    const newest = await this.database.row<MailAnswered>(
      'SELECT state, said FROM mail_reply WHERE mail_id = $1 ORDER BY at DESC, id DESC LIMIT 1',
      [mailId],
    );
    return newest ?? { state: null, said: '' };
  }

  private boxes(who: Who): Promise<MailboxLine[]> {
    return this.database.rows<MailboxLine>(BOXES, [who.agencyId, who.accountId, this.seesAll(who)]);
  }

  private async find(who: Who, id: string): Promise<CaughtRow> {
    const row = await this.database.row<CaughtRow>(`SELECT id, at, address, raw FROM caught_mail c WHERE id = $1 AND ${IS_SHOWN}`, [
      ...[id, who.accountId, this.config.isDemo],
    ]);
    const boxes = row === null ? [] : await this.boxes(who);
    return requireFound(boxes.some(({ address }) => address === row?.address) ? row : null, 'mail');
  }

  private replyTo({ replyTo }: ParsedMail): string | null {
    const address = replyTo?.value[0]?.address ?? null;
    return address === null || readAddress(address)?.kind === 'no-reply' ? null : address;
  }
}

const parse = (raw: Buffer): Promise<ParsedMail> => simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true });

const toLine = ({ id, at }: CaughtRow, { subject, from, text }: ParsedMail): MailboxMailLine => ({
  ...{ id, at: at.toISOString(), subject: subject ?? '', from: from?.text ?? '' },
  begins: (text ?? '').replace(/\s+/g, ' ').trim().slice(0, 140),
});

/** Of the headers those that say how the mail wants to be treated. */
const SHOWN_HEADERS = ['message-id', 'reply-to', 'auto-submitted', 'list-unsubscribe'] as const;

function headerOf({ headerLines }: ParsedMail, name: string): { name: string; value: string }[] {
  const line = headerLines.find(({ key }) => key === name)?.line;
  if (line === undefined) return [];
  const colon = line.indexOf(':');
  return [{ name: line.slice(0, colon), value: line.slice(colon + 1).trim() }];
}
