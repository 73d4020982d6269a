import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { Mailbox, MailboxMail, MailPage, SentMail } from '@crew/contract';
import { openScreen } from '../../../test/screen.tsx';
import { odalys } from '../../../test/samples.ts';
import { MailboxPage } from './MailboxPage.tsx';
import { quote } from './quote.ts';
import { SentMailPage } from './SentMailPage.tsx';

const AT = '2026-11-23T10:02:00.000Z';
const mail: MailboxMail = {
  ...{ id: 'm1', at: AT, subject: 'Recording begins', from: '"Quillmarsh Studio" <studio@crew.test>', begins: 'We record' },
  ...{
    to: 'gus@tram.example',
    text: 'We record in May.\n\nSee http://crew.test/desk\n',
    html: null,
    replyTo: 'reply+1@crew.test',
    headers: [],
  },
};
const box: Mailbox = { address: 'gus@tram.example', boxes: [{ address: 'gus@tram.example', name: 'Gus', mails: 1 }], mails: [mail] };
const sent: SentMail = {
  ...{ id: 's1', at: AT, kind: 'client', to: { name: 'Gus Pellow', address: 'gus@tram.example' }, subject: 'Recording begins' },
  ...{ text: 'We record in May.', state: 'undeliverable', sentAt: null, tries: 10, trouble: '550 No such mailbox', engagement: null },
  replies: [
    {
      ...{ id: 'r1', at: AT, from: 'Gus Pellow', state: 'kept', words: 'Good news.', said: '', files: [] },
      remarks: [{ on: 'We record in May.', says: 'On a Thursday?' }],
    },
  ],
};

test('an answer begins with room for words and the mail, quoted line by line', () => {
  expect(quote(mail, { zone: 'UTC' })).toBe(
    '\n\nOn Mon 23 Nov 2026 at 10:02, Quillmarsh Studio wrote:\n> We record in May.\n>\n> See http://crew.test/desk\n',
  );
});

test('a mail of a box opens beside the list and is answered there', async () => {
  const page = await openScreen(<MailboxPage />, {
    path: '/mail',
    address: '/mail?mail=m1',
    me: odalys,
    answers: { 'GET /mail/boxes': box, 'GET /mail/boxes/m1': mail },
  });
  const sheet = within(await screen.findByRole('complementary', { name: 'Mail' }));
  expect((await sheet.findByRole('link', { name: 'http://crew.test/desk' })).getAttribute('href')).toBe('http://crew.test/desk');
  await userEvent.click(sheet.getByRole('button', { name: 'Answer…' }));
  const words = sheet.getByRole('textbox');
  await userEvent.click(words);
  await userEvent.keyboard('{Control>}{Home}{/Control}');
  page.network.answer('POST /mail/boxes/m1/answer', 200, { state: 'kept', said: '' });
  await userEvent.click(sheet.getByRole('button', { name: 'Send answer' }));
  expect(page.sent().at(-1)).toMatchObject({ request: 'POST /mail/boxes/m1/answer' });
  expect(await screen.findByText('Your reply was received.')).toBeTruthy();
});

test('what could not be delivered says why and is sent again; remarks stand under their lines', async () => {
  const answer: MailPage = { mails: [sent], undeliverable: 1, next: null };
  const page = await openScreen(<SentMailPage />, { path: '/mail/sent', me: odalys, answers: { 'GET /mail?only=engagements': answer } });
  expect(await screen.findByText('550 No such mailbox')).toBeTruthy();
  expect(screen.getByText('Not delivered (1)')).toBeTruthy();
  expect(screen.getByText('We record in May.', { selector: 'q' }).parentElement?.textContent).toBe('We record in May.On a Thursday?');
  page.network.answer('POST /mail/s1/retry', 204, null);
  await userEvent.click(screen.getByRole('button', { name: 'Send again' }));
  expect(page.sent()).toEqual([{ request: 'POST /mail/s1/retry', body: undefined }]);
});
