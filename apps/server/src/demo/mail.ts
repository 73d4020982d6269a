import type { INestApplicationContext } from '@nestjs/common';
import type { IsoDay } from '@crew/core';
import { replyAddress } from '../mail/mail-headers.ts';
import { MailSecrets } from '../mail/mail-secrets.ts';
import { SendMail } from '../mail/send-mail.ts';
import { TakeMail } from '../mail/take-mail.ts';
import { MailNotices } from '../notice/mail-notices.ts';
import { CONFIG, type Config } from '../platform/config.ts';
import { Database } from '../platform/database.ts';

/** Nobody was mailed in the weeks before; newer mail is due. */
const DUE = `
  UPDATE notice n SET mail_due_at = CASE WHEN v.at >= $1::date AND n.read_at IS NULL THEN v.at END FROM event v WHERE v.id = n.event_id AND n.mail_due_at IS NOT NULL`;
const OLD_DIGESTS = `UPDATE notice n SET in_digest = false FROM event v WHERE v.id = n.event_id AND v.at < $1::date`;

/** Mail of the weeks before went long ago: only the newest of each kind to a client is in the boxes. */
const WAITING = `SELECT id FROM mail WHERE state = 'waiting' ORDER BY created_at, id`;

const TO_CLIENT = `
  SELECT m.id, m.to_name AS name, m.to_address AS address, m.text FROM mail m JOIN engagement e ON e.id = m.engagement_id
  WHERE m.kind = 'client' AND e.state = 'open' ORDER BY m.created_at DESC, m.id LIMIT 1`;

interface Answered {
  readonly id: string;
  readonly name: string;
  readonly address: string;
  readonly text: string;
}

/** What the crew and the clients have been mailed by now, really sent; and one client has answered, between the lines. */
export async function settleMail(app: INestApplicationContext, since: IsoDay): Promise<void> {
  const database = app.get(Database);
  await database.rows(DUE, [since]);
  await database.rows(OLD_DIGESTS, [since]);
  await app.get(MailNotices).run();
  for (const { id } of await database.rows<{ id: string }>(WAITING)) await app.get(SendMail).run({ mailId: id });
  const mail = await database.row<Answered>(TO_CLIENT);
  if (mail === null) return;
  const { domain } = app.get<Config>(CONFIG).mail;
  const to = replyAddress(app.get(MailSecrets).token('reply', mail.id), domain);
  await app.get(TakeMail).run({ from: mail.address, to: [to], raw: Buffer.from(answerTo(mail, to)) });
}

/** As a mail program writes it. */
function answerTo({ id, name, address, text }: Answered, to: string): string {
  const [first = '', ...others] = text.trimEnd().split('\n');
  return [
    `From: ${name} <${address}>`,
    `To: <${to}>`,
    'Subject: Re: Recording begins',
    `Message-ID: <answer-${id}@${address.split('@')[1] ?? ''}>`,
    'Content-Type: text/plain; charset=utf-8',
    '',
    'Good news, thank you.',
    '',
    'On Mon, 23 Nov 2026 at 09:10, Quillmarsh Studio wrote:',
    `> ${first}`,
    'Two of our drivers would like to listen in. Could it be a Thursday?',
    ...others.map((line) => `> ${line}`),
    '',
  ].join('\r\n');
}
