import { expect, openPlace, setStatus, test } from './fixtures.ts';

test('a lead writes a rule by keyboard, tries it on the past, and sees what it did in the log', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Handoffs');
  await page.getByRole('radio', { name: 'Rules' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Rules' })).toBeVisible();
  await expect(page.getByText(/1[2-9] rules · \d+ runs in the last 30 days/)).toBeVisible();

  await page.getByRole('button', { name: 'New rule…' }).press('Enter');
  const sheet = page.getByRole('complementary', { name: 'New rule' });
  /** Opens a slot, finds a choice by typing, and takes the first that is found. */
  const choose = async (slot: RegExp, typed: string): Promise<void> => {
    await sheet.getByRole('button', { name: slot }).press('Enter');
    await page.getByPlaceholder('Type to find').fill(typed);
    await page.getByPlaceholder('Type to find').press('ArrowDown');
    await page.getByPlaceholder('Type to find').press('Enter');
  };
  await choose(/^Trigger/, 'task becomes');
  await choose(/^Status:/, 'done');
  await choose(/^Whom:/, 'assigned to');
  await sheet.getByRole('button', { name: /^Text:/ }).press('Enter');
  await page.getByRole('textbox', { name: 'Text' }).fill('Thank you for {task}');
  await page.getByRole('textbox', { name: 'Text' }).press('Enter');
  await choose(/^Condition: Add condition/, 'client');
  await choose(/^Value:/, 'lighthouse');
  await expect(sheet.getByText(/Would not run: the client is not Oskerry Lighthouse Trust/).first()).toBeVisible();
  await sheet.getByRole('button', { name: 'Add rule' }).press('Enter');
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Rule added. It applies from now on.');
  await expect(
    page.getByRole('link', { name: /When a task becomes done, if the client is Oskerry Lighthouse Trust, tell whoever/ }),
  ).toBeVisible();

  // What it waits for happens, and it says by itself what it was told to say.
  await page.goto(`${world.url}/engagements`);
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await setStatus(page, 'Accessibility read-through', 'Done');
  await page.goto(`${world.url}/handoffs/rules/runs`);
  const run = page.getByRole('listitem').filter({ hasText: 'Status changed: Accessibility read-through, by Odalys Renn' }).first();
  await expect(run).toContainText('Thank you for Accessibility read-through');
});

test('what a rule changed is undone from the log, and a rule is switched off for one engagement', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/handoffs/rules/runs`);
  const run = page.getByRole('listitem').filter({ hasText: 'Handed off: Script, by Mirela Stoyan' }).first();
  await expect(run).toContainText('Added “Confirm the booth for Depot audio trail” to Studio for Emeka Strand.');
  await run.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('effect');
  await expect(run).toContainText('Undone.');

  await page.goto(`${world.url}/handoffs/rules`);
  await page.getByRole('link', { name: /When the client has answered a task/ }).click();
  const sheet = page.getByRole('complementary', { name: 'Edit rule' });
  await sheet.getByRole('button', { name: /Switch off for/ }).click();
  await page.getByPlaceholder('Type to find').fill('depot audio');
  await page.getByRole('option', { name: 'Depot audio trail' }).click();
  await expect(sheet.getByText('Off for Depot audio trail')).toBeVisible();
  await page.getByRole('status', { name: 'Messages' }).getByRole('button', { name: 'Undo' }).click();
  await expect(sheet.getByText('Off for Depot audio trail')).toHaveCount(0);
});
