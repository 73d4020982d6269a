import type {
  EngagementPlan,
  HandoffSheet,
  Mailbox,
  MailboxMail,
  MailLink,
  MailPage,
  MailServerView,
  MailTried,
  Notices,
} from '@crew/contract';
import { createTransport } from 'nodemailer';
import { historyOf, startSmall, testWorld, TODAY, type Caller } from '../../test/harness.ts';
import { Seal } from '../platform/seal.ts';
import { MailNotices } from '../notice/mail-notices.ts';
import { IncomingMailServer } from './incoming-mail-server.ts';
import { INCOMING_MAIL_HEADER } from './incoming-mail.guard.ts';
import { MailSecrets } from './mail-secrets.ts';

/* Mail goes out by SMTP and comes back by SMTP: Lena leads and hands off, Mak receives. */

const { harness, lead } = testWorld();
let maker: Caller;
let owner: Caller;
let id: string;
let handoff: string;

beforeAll(async () => {
  maker = await harness.as('Mak');
  owner = await harness.as('Oona');
});
beforeEach(async () => {
  // A Monday, within everybody's working hours.
  harness.clock.moveTo(TODAY, '10:00');
  for (const table of ['mail', 'caught_mail', 'notice', 'notice_choice', 'notice_mailing', 'mail_fault', 'mail_server'])
    await harness.database.rows(`DELETE FROM ${table}`);
  await harness.database.rows(`INSERT INTO notice_mailing (person_id, digest_on) SELECT id, $1 FROM person`, [TODAY]);
  const role = await harness.database.row<{ id: string }>(`SELECT id FROM role WHERE name = 'Maker'`);
  id = await startSmall(lead, harness, { name: 'Quay', roles: [{ roleId: role?.id, personId: harness.ids.people['Mak'] }] });
  handoff = ((await lead.get(`/engagements/${id}/plan`).expect(200)).body as EngagementPlan).phases[0]?.handoffId as string;
  await harness.settle();
});

async function handOff(words = 'All in the folder'): Promise<void> {
  const { version } = await sheet();
  await lead
    .post(`/handoffs/${handoff}/hand-off`, { version, words, reason: 'In a hurry', receiverId: harness.ids.people['Mak'] })
    .expect(200);
  await settleMail();
}
/** What follows, what is due, and what is sent. */
async function settleMail(): Promise<void> {
  await harness.settle();
  await harness.app.get(MailNotices).run();
  await harness.settle();
}
const sheet = async (): Promise<HandoffSheet> => (await lead.get(`/handoffs/${handoff}`).expect(200)).body as HandoffSheet;
const boxOf = async (address: string): Promise<Mailbox> => (await lead.get(`/mail/boxes?address=${address}`).expect(200)).body as Mailbox;
const newestOf = async (address: string): Promise<MailboxMail> => {
  const [line] = (await boxOf(address)).mails;
  if (line === undefined) throw new Error(`nothing was sent to ${address}`);
  return (await lead.get(`/mail/boxes/${line.id}`).expect(200)).body as MailboxMail;
};
const sent = async (only = ''): Promise<MailPage> => (await lead.get(`/mail${only}`).expect(200)).body as MailPage;
const makersMail = (): Promise<MailboxMail> => newestOf('mak@small.example');
const quoted = (text: string): string => `On Mon, 23 Nov 2026 at 10:00, Small Studio wrote:\n${text.replace(/^/gm, '> ')}`;

/** Sends a mail to this server, as any mail program does. */
async function deliver(mail: object): Promise<string | null> {
  const transport = createTransport({ host: '127.0.0.1', port: harness.app.get(IncomingMailServer).port ?? 0, ignoreTLS: true });
  try {
    await transport.sendMail({ from: 'Mak Reyes <mak@small.example>', subject: 'Re: yours', ...mail });
    return null;
  } catch (error) {
    return (error as Error).message;
  } finally {
    transport.close();
    await settleMail();
  }
}
const answer = async (text: string, more: object = {}): Promise<string | null> => {
  const mail = await makersMail();
  return deliver({ to: mail.replyTo, text: `${text}\n\n${quoted(mail.text)}`, ...more });
};

test('who receives a handoff gets a mail with its words, what is open, and a link', async () => {
  await handOff('The map is by the door.');
  const mail = await makersMail();
  expect(mail.subject).toBe('Draw → Make, Quay: yours to pick up');
  expect(mail.text).toContain('Lena handed Draw of Quay (Harbour Museum) off to you: Make is next.');
  expect(mail.text).toContain('The map is by the door.');
  expect(mail.text).toContain('Still open: Sketch, Ink, Client looks.');
  expect(mail.text).toMatch(/Pick up Make:\nhttp:\/\/crew\.test\/from-mail\/[0-9a-f]{52}/);
  expect(mail.html).toContain('prefers-color-scheme: dark');
  expect(mail.headers).toContainEqual({ name: 'Auto-Submitted', value: 'auto-generated' });
  expect((await sent()).mails).toMatchObject([{ kind: 'handoff', state: 'sent', to: { name: 'Mak Reyes' }, engagement: { name: 'Quay' } }]);
});

test('the link in a mail counts once, and only for whoever it was sent to', async () => {
  await handOff();
  const token = /from-mail\/([0-9a-f]{52})/.exec((await makersMail()).text)?.[1];
  expect((await lead.post('/mail/links/open', { token }).expect(403)).body).toMatchObject({ code: 'not-allowed' });
  expect((await maker.post('/mail/links/open', { token }).expect(200)).body as MailLink).toEqual({ handoffId: handoff, isSpent: false });
  expect((await maker.post('/mail/links/open', { token }).expect(200)).body as MailLink).toEqual({ handoffId: handoff, isSpent: true });
  await maker.post('/mail/links/open', { token: `${token?.slice(0, 51)}${token?.endsWith('0') ? '1' : '0'}` }).expect(404);
});

test('a question by mail sends the handoff back, with remarks under the lines they are on', async () => {
  await handOff('The map is by the door.\nUse the blue one.');
  const mail = await makersMail();
  const lines = mail.text.split('\n').map((line) => `> ${line}`);
  lines.splice(lines.indexOf('>   Use the blue one.') + 1, 0, 'Which blue?');
  expect(
    await deliver({ to: mail.replyTo, text: `Thank you.\n\nOn Mon, 23 Nov 2026 at 10:00, Small Studio wrote:\n${lines.join('\n')}` }),
  ).toBeNull();
  expect(await sheet()).toMatchObject({ state: 'sent-back', question: 'Thank you.\nOn “Use the blue one.”: Which blue?' });
  expect((await sent('?only=answered')).mails[0]?.replies).toMatchObject([
    { from: 'Mak Reyes', state: 'acted', words: 'Thank you.', remarks: [{ on: 'Use the blue one.', says: 'Which blue?' }] },
  ]);
  expect((await historyOf(lead, handoff, 'handoff')).map(({ kind }) => kind)).toContain('mail-received');
});

test('the giver answers the question by mail: it is handed off again', async () => {
  await handOff();
  await answer('Which door?');
  const question = await newestOf('lena@small.example');
  expect(question.subject).toBe('A question about Draw, Quay');
  expect(question.text).toContain('Which door?');
  // The gate is not clear, so an answer alone cannot pass it: it is kept, and Lena is told why.
  expect(await deliver({ from: 'lena@small.example', to: question.replyTo, text: 'The left one.' })).toBeNull();
  expect((await sheet()).state).toBe('sent-back');
  const told = await newestOf('lena@small.example');
  expect(told.subject).toBe('Not done: A question about Draw, Quay');
  expect(told.text).toContain('The gate is not clear');
  expect(told.replyTo).toBeNull();
  // Once it is clear the answer does it.
  await harness.database.rows(`DELETE FROM gate_check WHERE phase_id = (SELECT from_phase_id FROM handoff WHERE id = $1)`, [handoff]);
  await deliver({ from: 'lena@small.example', to: question.replyTo, text: 'The left one, I said.' });
  expect(await sheet()).toMatchObject({ state: 'handed-off', words: 'The left one, I said.' });
});

test('an answer that comes twice is taken once, by SMTP and by the webhook alike', async () => {
  await handOff();
  const { replyTo } = await makersMail();
  const mail = { to: replyTo, text: 'Which door?', messageId: '<one@small.example>' };
  await deliver(mail);
  await deliver(mail);
  const raw = Buffer.from(`From: mak@small.example\r\nTo: ${replyTo}\r\nMessage-ID: <one@small.example>\r\n\r\nWhich door?\r\n`);
  const secret = harness.app.get(MailSecrets).incoming;
  const body = { to: replyTo, from: 'mak@small.example', raw: raw.toString('base64') };
  await harness.nobody.post('/mail/incoming', body).set(INCOMING_MAIL_HEADER, secret).expect(204);
  await harness.nobody.post('/mail/incoming', body).set(INCOMING_MAIL_HEADER, 'guessed').expect(401);
  expect((await sent('?only=answered')).mails.flatMap(({ replies }) => replies)).toHaveLength(1);
});

test('an answer after the handoff has moved on is kept, and its writer is told that nothing was done', async () => {
  await handOff();
  const { replyTo } = await makersMail();
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: (await sheet()).version }).expect(200);
  await deliver({ to: replyTo, text: 'Which door?' });
  expect((await sheet()).state).toBe('picked-up');
  expect((await makersMail()).text).toContain('has moved on since the mail');
  expect((await sent('?only=answered')).mails[0]?.replies).toMatchObject([{ state: 'kept', words: 'Which door?' }]);
});

test('a stranger, a forged address and an address without our signature are refused with a reason', async () => {
  await handOff();
  const { replyTo } = await makersMail();
  expect(await deliver({ from: 'stranger@else.example', to: replyTo, text: 'Hello' })).toContain('sent to somebody else');
  expect(await deliver({ from: 'dora@small.example', to: replyTo, text: 'Hello' })).toContain('sent to somebody else');
  const forged = `${replyTo?.slice(0, 40)}${replyTo?.[40] === 'a' ? 'b' : 'a'}${replyTo?.slice(41)}`;
  expect(await deliver({ to: forged, text: 'Hello' })).toContain('This address is not known here');
  expect(await deliver({ to: 'no-reply@crew.test', text: 'Hello' })).toContain('Replies to this mail are not read');
  expect((await sheet()).state).toBe('handed-off');
});

test('programs are not answered: automatic answers and lists are dropped without a word', async () => {
  await handOff();
  for (const headers of [{ 'Auto-Submitted': 'auto-replied' }, { Precedence: 'bulk' }, { 'List-Id': '<crew.example>' }])
    expect(await answer('I am away until Monday.', { headers })).toBeNull();
  expect((await sheet()).state).toBe('handed-off');
  expect(await answer('A real question?', { headers: { 'Auto-Submitted': 'no' } })).toBeNull();
  expect((await sheet()).state).toBe('sent-back');
});

test('two programs that answer each other stop after some mails', async () => {
  await handOff();
  await maker.post(`/handoffs/${handoff}/pick-up`, { version: (await sheet()).version }).expect(200);
  const { replyTo } = await makersMail();
  for (let times = 0; times < 22; times++) await deliver({ to: replyTo, text: `Again ${times}` });
  const states = (await sent('?only=answered')).mails.flatMap(({ replies }) => replies.map(({ state }) => state));
  expect(states.filter((state) => state === 'dropped')).toHaveLength(2);
}, 120_000);

test('attachments of an answer are kept as files', async () => {
  await handOff();
  await answer('See the plan.', { attachments: [{ filename: 'plan.csv', content: 'a,b\n' }] });
  const [file] = (await sent('?only=answered')).mails[0]?.replies[0]?.files ?? [];
  expect(file).toMatchObject({ name: 'plan.csv', bytes: 4 });
  expect((await lead.get(`/files/${file?.id}`)).status).toBeLessThan(400);
});

test('a mail that comes back marks its address, and nothing more is sent there until somebody tries again', async () => {
  await handOff();
  const [mail] = (await sent()).mails;
  const to = `bounce+${harness.app.get(MailSecrets).token('bounce', mail?.id ?? '')}@crew.test`;
  const report = (action: string) => ({
    envelope: { from: '', to },
    raw: [
      'From: MAILER-DAEMON@example.org',
      `To: ${to}`,
      `Message-ID: <${action}@example.org>`,
      'Content-Type: multipart/report; report-type=delivery-status; boundary=x',
      '',
      '--x',
      'Content-Type: message/delivery-status',
      '',
      'Final-Recipient: rfc822; mak@small.example',
      `Action: ${action}`,
      'Status: 5.1.1',
      'Diagnostic-Code: smtp; 550 No such mailbox',
      '',
      '--x--',
      '',
    ].join('\r\n'),
  });
  await deliver(report('delayed'));
  expect((await sent()).undeliverable).toBe(0);
  await deliver(report('failed'));
  expect((await sent('?only=undeliverable')).mails).toMatchObject([
    { id: mail?.id, state: 'undeliverable', trouble: '550 No such mailbox' },
  ]);
  expect(((await owner.get('/mail/server').expect(200)).body as MailServerView).faults).toMatchObject([{ address: 'mak@small.example' }]);
  await lead.post(`/mail/${mail?.id}/retry`).expect(204);
  await settleMail();
  expect((await sent()).undeliverable).toBe(0);
  expect((await sent()).mails[0]).toMatchObject({ state: 'sent' });
});

test('a mail server that is away is tried again later, and one that refuses for good is not', async () => {
  const own = {
    host: '127.0.0.1',
    port: 1,
    security: 'none',
    user: '',
    fromAddress: 'studio@small.example',
    replyDomain: 'r.small.example',
  };
  expect(((await owner.post('/mail/server/try', own).expect(200)).body as MailTried).isSent).toBe(false);
  await owner.put('/mail/server', own).expect(200);
  await handOff();
  const [mail] = (await sent()).mails;
  expect(mail).toMatchObject({ state: 'waiting', tries: 1 });
  expect(mail?.trouble).toContain('ECONNREFUSED');
  // The way is right again: the queue sends it the next time.
  await owner.delete('/mail/server').expect(200);
  await harness.database.rows(`UPDATE graphile_worker._private_jobs SET run_at = now() WHERE attempts > 0`);
  await settleMail();
  expect((await sent()).mails[0]).toMatchObject({ state: 'sent', trouble: null });
  expect((await boxOf('mak@small.example')).mails).toHaveLength(1);
});

test('the password of the mail server is sealed and never told', async () => {
  const own = {
    host: 'smtp.small.example',
    port: 587,
    security: 'starttls',
    user: 'studio',
    password: 'tide table',
    fromAddress: 'a@small.example',
    replyDomain: 'r.small.example',
  };
  const saved = await owner.put('/mail/server', own).expect(200);
  expect(saved.body).toMatchObject({ server: { host: 'smtp.small.example', user: 'studio', hasPassword: true } });
  expect(JSON.stringify(saved.body)).not.toContain('tide');
  const kept = await harness.database.row<{ sealed: string }>('SELECT sealed_password AS sealed FROM mail_server');
  expect(kept?.sealed).not.toContain('tide');
  expect(harness.app.get(Seal).open(kept?.sealed ?? '')).toBe('tide table');
  // Left out it stays, null removes it.
  const { password: _, ...without } = own;
  expect((await owner.put('/mail/server', without).expect(200)).body).toMatchObject({ server: { hasPassword: true } });
  expect((await owner.put('/mail/server', { ...own, password: null }).expect(200)).body).toMatchObject({ server: { hasPassword: false } });
});

test('somebody’s mailbox is read by themselves and by leads', async () => {
  await handOff();
  await maker.get('/mail/boxes').expect(200);
  const { id: mailId } = await makersMail();
  await maker.get(`/mail/boxes/${mailId}`).expect(200);
  const dora = await harness.as('Dora');
  await dora.get(`/mail/boxes/${mailId}`).expect(404);
  await dora.get('/mail/boxes?address=mak@small.example').expect(403);
});

test('answered in the mailbox it takes the same way', async () => {
  await handOff();
  const { id: mailId } = await makersMail();
  expect((await maker.post(`/mail/boxes/${mailId}/answer`, { text: 'Which door?' }).expect(200)).body).toMatchObject({ state: 'kept' });
  await settleMail();
  expect(await sheet()).toMatchObject({ state: 'sent-back', question: 'Which door?' });
  const refused = await maker.post(`/mail/boxes/${mailId}/answer`, { text: quoted('nothing new') }).expect(409);
  expect((refused.body as { message: string }).message).toContain('nothing new');
});

test('a client’s contact answers what a rule mailed: the lead is told, and the words and their file stand with the mail', async () => {
  const rule = {
    level: 'agency',
    content: {
      when: { kind: 'handed-off', slots: {} },
      if: [],
      then: [{ do: 'mail-client', slots: { title: 'Making begins', text: 'We make {engagementName} now.\n\nWrite to us.' } }],
    },
  };
  const { rule: saved } = (await lead.post('/rules', rule).expect(201)).body as { rule: { id: string; version: number } };
  await handOff();
  await lead.delete(`/rules/${saved.id}`).expect(200);
  const mail = await newestOf('hal@small.example');
  expect(mail).toMatchObject({ subject: 'Making begins' });
  expect(mail.text).toContain('We make Quay now.');
  expect((await historyOf(lead, id, 'engagement')).map(({ kind }) => kind)).toContain('mailed');
  // Without an id of its own, and delivered twice: one answer; another one is another.
  const raw = (text: string): string => `From: Hal Crane <hal@small.example>\r\nTo: ${mail.replyTo}\r\nSubject: Re\r\n\r\n${text}\r\n`;
  const send = (text: string) => deliver({ envelope: { from: 'hal@small.example', to: mail.replyTo }, raw: raw(text) });
  await send('On Thursday, please.');
  await send('On Thursday, please.');
  await send('Or on Friday.');
  const replies = (await sent('?only=answered')).mails.flatMap((one) => one.replies);
  expect(replies.map(({ words, state }) => [words, state])).toEqual([
    ['On Thursday, please.', 'kept'],
    ['Or on Friday.', 'kept'],
  ]);
  const { groups } = (await lead.get('/notices').expect(200)).body as Notices;
  const lines = groups.flatMap((group) => group.lines).filter(({ kind }) => kind === 'mail-received');
  expect(lines.map(({ by, words }) => [by?.name, words])).toEqual([
    ['Hal Crane', 'Or on Friday.'],
    ['Hal Crane', 'On Thursday, please.'],
  ]);
});

test('an answer sent twice from a mailbox is taken once', async () => {
  await handOff();
  const { id: mailId } = await makersMail();
  for (let times = 0; times < 2; times++) await maker.post(`/mail/boxes/${mailId}/answer`, { text: 'Which door?' }).expect(200);
  await settleMail();
  expect((await sent('?only=answered')).mails.flatMap(({ replies }) => replies)).toHaveLength(1);
});
