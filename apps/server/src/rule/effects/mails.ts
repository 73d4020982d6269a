import { record } from '../../activity/record.ts';
import { readContactOf } from '../../mail/contact-of.ts';
import { queueMail, type MailTo } from '../../mail/queue-mail.ts';
import { firstRow, rowsOf } from '../../platform/database.ts';
import { Refusal } from '../../platform/refusal.ts';
import { findPeople } from '../places.ts';
import { nothing, slotOf, type CarryOutEffect } from './types.ts';

const ADDRESSES = 'SELECT person_id AS "personId", email AS address FROM account WHERE person_id = ANY($1)';

const ENGAGEMENT = `SELECT e.name, l.name AS lead FROM engagement e JOIN person l ON l.id = e.lead_id WHERE e.id = $1`;

/** Tells people something by mail, whatever they have chosen for notices: a rule is what the lead wants. */
export const mailPeople: CarryOutEffect = async (asked) => {
  const { manager, who, by, event, runId, place } = asked;
  const people = await findPeople(manager, event, { agencyId: who.agencyId, somebody: slotOf(asked, 'who', 'who') });
  const addresses = await rowsOf<{ personId: string; address: string }>(manager, ADDRESSES, [people.map(({ id }) => id)]);
  const text = slotOf(asked, 'text', 'text');
  const to = people.flatMap(({ id, name }): MailTo[] => {
    const address = addresses.find(({ personId }) => personId === id)?.address;
    return address === undefined ? [] : [{ name, address, personId: id }];
  });
  if (to.length === 0) return nothing('There was nobody with an address to mail.');
  for (const one of to)
    await queueMail(
      manager,
      {
        ...{
          agencyId: who.agencyId,
          agencyName: who.agencyName,
          engagementId: event.engagementId,
          kind: 'message',
          canReply: true,
          to: one,
        },
        ...{ key: `rule ${runId} ${place} ${one.address}`, subject: text },
        blocks: () => [
          { kind: 'text', words: text },
          { kind: 'small', words: 'A rule of your agency sent this. Your answer goes to the engagement’s lead.' },
        ],
      },
      by.at,
    );
  return { said: `Mailed ${to.map(({ name }) => name).join(', ')}.` };
};

/** Mails the client's contact. What was mailed stands in the history of the engagement. */
export const mailClient: CarryOutEffect = async (asked) => {
  const { manager, who, by, event, runId, place } = asked;
  const contact = await readContactOf(manager, event.engagementId);
  const engagement = await firstRow<{ name: string; lead: string }>(manager, ENGAGEMENT, [event.engagementId]);
  if (contact === null || engagement === null)
    throw new Refusal('wrong-moment', 'The client has no contact with a mail address. Add one to the client.');
  const subject = slotOf(asked, 'title', 'title');
  const mailId = await queueMail(
    manager,
    {
      ...{
        agencyId: who.agencyId,
        agencyName: who.agencyName,
        engagementId: event.engagementId,
        kind: 'client',
        canReply: true,
        to: contact,
      },
      ...{ key: `rule ${runId} ${place}`, subject },
      blocks: () => [
        { kind: 'text', words: slotOf(asked, 'letter', 'text') },
        { kind: 'text', words: engagement.lead },
      ],
    },
    by.at,
  );
  if (mailId === null) return nothing('It was mailed before.');
  const engagementId = event.engagementId as string;
  await record(manager, by, [
    { kind: 'mailed', engagementId, subject: 'engagement', subjectId: engagementId, payload: { mailId, to: contact.name, subject } },
  ]);
  return { said: `Mailed ${contact.name} “${subject}”.` };
};
