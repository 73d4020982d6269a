import { count } from '@crew/contract';
import type { EntityManager } from 'typeorm';
import { record } from '../activity/record.ts';
import { readContactOf } from '../mail/contact-of.ts';
import { queueMail, type MailTo } from '../mail/queue-mail.ts';
import type { By } from '../platform/actor.ts';
import { firstRow } from '../platform/database.ts';
import type { Held } from './held-things.ts';

/** Whom at the client we ask, about what, for whom. */
export interface AskedContact extends MailTo {
  readonly contactId: string;
  readonly agencyId: string;
  readonly agencyName: string;
  readonly engagement: string;
  readonly lead: string;
}

const ENGAGEMENT = `
  SELECT g.id AS "agencyId", g.name AS "agencyName", e.name AS engagement, l.name AS lead
  FROM engagement e JOIN agency g ON g.id = e.agency_id JOIN person l ON l.id = e.lead_id WHERE e.id = $1`;

const CAME_BACK = 'SELECT 1 FROM mail_fault f WHERE f.agency_id = $1 AND f.address = lower($2)';

/** The contact of an engagement as far as mail reaches them, else null. */
export async function readContact(manager: EntityManager, engagementId: string): Promise<AskedContact | null> {
  const contact = await readContactOf(manager, engagementId);
  const engagement = await firstRow<Omit<AskedContact, keyof MailTo>>(manager, ENGAGEMENT, [engagementId]);
  if (contact === null || engagement === null) return null;
  const cameBack = await firstRow(manager, CAME_BACK, [engagement.agencyId, contact.address]);
  return cameBack === null ? { ...engagement, ...contact } : null;
}

/** Mails the contact one list of what we still need. What was mailed stands in the history of the engagement. */
export async function askClient(
  manager: EntityManager,
  by: By,
  { contact, asks }: { readonly contact: AskedContact; readonly asks: readonly Held[] },
): Promise<void> {
  const { agencyId, agencyName, engagement, lead } = contact;
  const [{ engagementId }] = asks as [Held];
  const titles = [...new Set(asks.map(({ title }) => title))];
  const subject =
    titles.length === 1 ? `${engagement}: we still need “${titles[0]}”` : `${engagement}: we still need ${count(titles.length, 'thing')}`;
  const mailId = await queueMail(
    manager,
    {
      ...{ agencyId, agencyName, engagementId, kind: 'client', canReply: true, to: contact, subject },
      key: `reminder ${engagementId} ${by.at.toISOString()}`,
      blocks: () => [
        { kind: 'text', words: `Hello ${contact.name},` },
        { kind: 'text', words: `for ${engagement} we still need from you:` },
        ...titles.map((title) => ({ kind: 'text', words: `• ${title}` }) as const),
        { kind: 'text', words: 'Is something unclear, or does it take longer? Answer this mail, it reaches us.' },
        { kind: 'text', words: lead },
      ],
    },
    by.at,
  );
  if (mailId === null) return;
  const payload = { mailId, to: contact.name, subject };
  await record(manager, by, [{ kind: 'mailed', engagementId, subject: 'engagement', subjectId: engagementId, payload }]);
}
