import { expect, leave, test } from './fixtures.ts';

test('somebody reads the mail about a handoff, follows its link, and answers it; the lead reads the answer', async ({ page, world }) => {
  await world.enterAs(page, 'Tavi Lindqvist');
  await page.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: /^Mail/ }).click();
  await page.getByRole('link', { name: 'A question about Concept, Night sky travelling display' }).click();
  const mail = page.getByRole('complementary', { name: 'Mail' });
  await expect(mail).toContainText('sent Concept of Night sky travelling display');
  // As its reader sees it, too.
  await mail.getByRole('radio', { name: 'Page' }).click();
  await expect(mail.frameLocator('iframe').getByRole('link', { name: 'Open the handoff' })).toBeVisible();
  await mail.getByRole('radio', { name: 'Text' }).click();
  const link = await mail.getByRole('link', { name: /from-mail/ }).getAttribute('href');

  await mail.getByRole('button', { name: 'Answer…' }).click();
  const words = mail.getByRole('textbox', { name: /^Answer, above/ });
  await words.fill(`Twelve crates, not ten.${await words.inputValue()}`);
  await mail.getByRole('button', { name: 'Send answer' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Your reply was received.');
  await leave(page);

  // The link asks for a sign-in first, and then leads to the handoff.
  await page.goto(`${world.url}${new URL(link ?? '').pathname}`);
  await page.getByRole('button', { name: /^Tavi Lindqvist/ }).click();
  await expect(page.getByRole('complementary', { name: 'Handoff' })).toContainText('Concept');
  await leave(page);

  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/mail/sent?only=answered`);
  await expect(page.getByRole('region', { name: 'Sent mail' })).toContainText('Twelve crates, not ten.');
});

test('an owner tries a mail server that does not answer, and nothing is saved', async ({ page, world }) => {
  await world.enterAs(page, 'Sunniva Ashe');
  await page.goto(`${world.url}/mail/server`);
  const form = page.getByRole('form', { name: 'Mail server' });
  await form.getByRole('textbox', { name: 'Host' }).fill('127.0.0.1');
  await form.getByRole('textbox', { name: 'Port' }).fill('1');
  await form.getByLabel('Sender address').fill('studio@quillmarsh.example');
  await form.getByLabel('Reply domain').fill('reply.quillmarsh.example');
  await form.getByRole('button', { name: 'Send me a test mail' }).click();
  await expect(form.getByRole('status')).toContainText('127.0.0.1 did not take the mail');
  await page.reload();
  await expect(page.getByText('stays in this app’s mailboxes')).toBeVisible();
});
