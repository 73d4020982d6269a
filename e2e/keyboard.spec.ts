import { expect, test } from './fixtures.ts';

test('from signing in to a changed status, a logged hour and back, by keyboard alone', async ({ page, world }) => {
  await page.goto(`${world.url}/sign-in`);
  await page.getByLabel('Mail address').focus();
  await page.keyboard.type('mirela@quillmarsh.example');
  await page.keyboard.press('Tab');
  await page.keyboard.type('lamp room at dusk');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'My desk' })).toBeVisible();

  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'Skip to content' })).toBeFocused();
  const tabTo = async (name: string): Promise<void> => {
    for (let presses = 0; presses < 40; presses++) {
      await page.keyboard.press('Tab');
      if (await page.getByRole('link', { name, exact: true }).evaluate((element) => element === document.activeElement)) return;
    }
    throw new Error(`“${name}” cannot be reached by Tab`);
  };
  await tabTo('Engagements');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Engagements' })).toBeVisible();
  // Nothing is Mirela's turn now, so she sees what is with others.
  await expect(page.getByText(/Nothing is waiting for Researcher or Writer now/)).toBeVisible();
  await tabTo('Seed vault wayfinding');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Seed vault wayfinding' })).toBeVisible();

  // Into the list: arrows walk the tasks and the sheet follows.
  const list = page.getByRole('treegrid', { name: 'Tasks by phase' });
  for (let presses = 0; presses < 12; presses++) {
    await page.keyboard.press('Tab');
    if (await list.evaluate((element) => element.contains(document.activeElement))) break;
  }
  const sheet = page.getByRole('complementary', { name: 'Task' });
  await page.keyboard.press('End');
  // What repeats stands last; above it is the last of the plan.
  await page.keyboard.press('ArrowUp');
  await expect(sheet.getByLabel('Title')).toHaveValue('Close the folder');
  await page.keyboard.press('ArrowUp');
  await expect(sheet.getByLabel('Title')).toHaveValue('Care notes for the ground staff');
  await page.keyboard.press('ArrowUp');
  await expect(sheet.getByLabel('Title')).toHaveValue('Species label edits');

  // Into the row: its status.
  const status = list.getByRole('button', { name: 'Change the status' });
  for (let presses = 0; presses < 4; presses++) {
    await page.keyboard.press('ArrowRight');
    if (await status.evaluateAll((buttons) => buttons.some((button) => button === document.activeElement))) break;
  }
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menu', { name: 'Status of Species label edits' })).toBeVisible();
  await page.keyboard.type('Under');
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('button', { name: 'Status: Under way' })).toBeVisible();
  await page.keyboard.press('u');
  await expect(sheet.getByRole('button', { name: 'Status: Not begun' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
});

test('single keys: a new task, the list of keys', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Seed vault wayfinding' }).click();
  await expect(page.getByRole('heading', { name: 'Seed vault wayfinding' })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('complementary', { name: 'Shortcuts' })).toContainText('undo');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('complementary', { name: 'Shortcuts' })).toHaveCount(0);
  await page.keyboard.press('n');
  await expect(page.getByRole('textbox', { name: 'New task in Fabrication' })).toBeFocused();
  await page.keyboard.type('Spare key for the gate');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: 'Spare key for the gate' })).toBeVisible();
});
