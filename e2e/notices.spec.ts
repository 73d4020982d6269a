import { expect, test } from './fixtures.ts';

test('somebody is told at once of a handoff to them, and picks it up from the notice', async ({ browser, world }) => {
  const open = async (name: string) => {
    const page = await (await browser.newContext()).newPage();
    await world.enterAs(page, name);
    return page;
  };
  const [noor, odalys] = [await open('Noor Haddad'), await open('Odalys Renn')];
  await noor.goto(`${world.url}/time`);
  const bell = noor.getByRole('button', { name: /^Notices/ });
  // A reminder of this morning is there.
  await expect(bell).toHaveAccessibleName('Notices, 1 unread');

  await odalys.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await odalys.getByRole('button', { name: 'Hand off Concept…' }).click();
  const sheet = odalys.getByRole('complementary', { name: 'Handoff' });
  await sheet.getByLabel('Note for the receiver').fill('Direction B. The curved wall stays.');
  await sheet.getByLabel(/Why can it pass/).fill('The last check is with the client');
  await sheet.getByRole('button', { name: /^Hand off Concept/ }).click();

  // Nobody reloads the page; its own heading stays where it is.
  await expect(bell).toHaveAccessibleName('Notices, 2 unread');
  await bell.press('Enter');
  const notices = noor.getByRole('dialog', { name: 'Notices' });
  await expect(notices).toContainText('Odalys handed it off to you: “Direction B. The curved wall stays.”');
  await expect(notices).toContainText('Pick it up');
  await notices.getByRole('button', { name: 'Pick up' }).click();
  await expect(noor.getByRole('status', { name: 'Messages' })).toContainText('Detail design is picked up and starts today.');
  await expect(bell).toHaveAccessibleName('Notices, 1 unread');
  await expect(notices.getByRole('img', { name: 'Handoff picked up' })).toBeVisible();
  // What was done without time is logged where it is read, and removed again.
  await notices.getByRole('button', { name: 'Log 0.5 h on Call with the trust' }).click();
  await expect(bell).toHaveAccessibleName('Notices');
  const messages = noor.getByRole('status', { name: 'Messages' });
  await expect(messages).toContainText('0.5 h logged on “Call with the trust”.');
  await messages.getByRole('button', { name: 'Undo' }).last().click();
  await expect(notices).toContainText('Log time: usually 0.5 h');
  await noor.keyboard.press('Escape');
  await expect(notices).toHaveCount(0);

  // Whoever gave it hears of that, and opens it.
  await odalys.getByRole('button', { name: /^Notices, \d+ unread/ }).click();
  const back = odalys.getByRole('dialog', { name: 'Notices' });
  await expect(back).toContainText('Noor picked it up');
  await back.getByRole('link', { name: 'Open Concept → Detail design' }).click();
  await expect(odalys).toHaveURL(/handoffs\?handoff=/);
  await odalys.getByRole('button', { name: /^Notices/ }).click();
  await expect(back.getByRole('listitem').filter({ hasText: 'Noor picked it up' }).getByRole('img', { name: 'unread' })).toHaveCount(0);
});

test('a notice is snoozed until tomorrow, and kinds of notices are switched off', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  await page.getByRole('button', { name: /^Notices, \d+ unread/ }).click();
  const notices = page.getByRole('dialog', { name: 'Notices' });
  await notices.getByRole('button', { name: 'Put Proof read off until tomorrow' }).click();
  await expect(notices).toContainText('1 notice comes back');
  await expect(notices.getByRole('link', { name: 'Proof read', exact: true })).toHaveCount(0);
  await page.getByRole('status', { name: 'Messages' }).getByRole('button', { name: 'Undo' }).click();
  await expect(notices.getByRole('link', { name: 'Proof read', exact: true })).toBeVisible();
  await notices.getByRole('button', { name: 'Choose notices' }).click();
  const choices = page.getByRole('dialog', { name: 'Choose notices' });
  // A tick is sent and then shown as it was kept.
  const onScreen = choices.getByRole('checkbox', { name: 'My tasks that can start: screen' });
  await onScreen.locator('xpath=ancestor::label').click();
  await expect(onScreen).not.toBeChecked();
  await choices.getByRole('button', { name: 'Back to notices' }).click();
  await expect(notices).toContainText('Quiet: my tasks that can start');
});
