import type { Page } from '@playwright/test';
import { expect, openPlace, test } from './fixtures.ts';

const notices = (page: Page) => page.getByRole('status', { name: 'Messages' });

test('a lead tries three talk kits a week, applies that from the week with room, and undoes it', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Engagements');
  await page.getByRole('link', { name: 'Spring talk kits' }).click();
  await expect(page.getByText('1 a week', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Change pace…' }).click();
  const sheet = page.getByRole('complementary', { name: 'Change pace' });
  await sheet.getByRole('textbox', { name: 'How many' }).fill('3');
  const writer = sheet.getByRole('row', { name: /^Writer/ });
  await expect(writer).toContainText('25.5 h');
  await expect(sheet.getByRole('img', { name: /hours a week from/ }).locator('svg')).toBeVisible();
  await expect(sheet).toContainText(/puts .*(Emeka|Mirela).* further over/);
  await sheet.getByRole('button', { name: /^From Mon/ }).click();
  await expect(sheet).toContainText('Nobody goes further over capacity.');
  await sheet.getByRole('button', { name: /^Apply: 3 a week from Mon/ }).click();
  await expect(notices(page)).toContainText('created in advance');
  await expect(page.getByText(/^3 a week from/)).toBeVisible();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(notices(page)).toContainText('is removed');
  await expect(page.getByText(/^3 a week from/)).toBeHidden();
});

test('a monthly visit is started with its hours, one is skipped, and it is stopped and continued', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/engagements/repeating`);
  await page.getByRole('button', { name: 'New repeating work…' }).click();
  const sheet = page.getByRole('complementary', { name: 'New repeating work' });
  await sheet.getByRole('textbox', { name: 'Name', exact: true }).fill('Tide pool care');
  await sheet.getByRole('button', { name: /Client/ }).click();
  await page.getByRole('option', { name: 'Brindle Bay Sea Centre' }).click();
  await sheet.getByRole('button', { name: /Template/ }).click();
  await page.getByRole('option', { name: 'Care visits' }).click();
  await sheet.getByRole('button', { name: /Days, weeks or months/ }).click();
  await page.getByRole('option', { name: 'month' }).click();
  await sheet.getByRole('textbox', { name: 'Agreed hours each' }).fill('8');
  await expect(sheet).toContainText(/each month:/);
  await sheet.getByRole('button', { name: 'Start repeating' }).click();
  await expect(page.getByRole('heading', { name: 'Tide pool care' })).toBeVisible();
  await expect(page.getByRole('list', { name: 'Under way and upcoming' })).toContainText('8 of 8 h left');
  const coming = page.getByRole('button', { name: /^Skip (Mon|Tue|Wed|Thu|Fri)/ });
  const before = await coming.count();
  await coming.first().click();
  await expect(page.getByText('skipped', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: /^Restore/ }).click();
  await expect(coming).toHaveCount(before);
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.getByText(/^Stopped from/)).toBeVisible();
  await expect(coming).toHaveCount(0);
  await page.getByRole('button', { name: 'Resume' }).click();
  await expect(coming).toHaveCount(before);
});

test('a task is made to repeat by keyboard, and the next ones are created', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Seed vault wayfinding' }).click();
  await page
    .getByRole('row', { name: /Proof the map legend|Glass quote/ })
    .first()
    .click();
  const task = page.getByRole('complementary', { name: 'Task' });
  const title = await task.getByRole('textbox', { name: 'Title' }).inputValue();
  const value = task.getByRole('button', { name: 'no', exact: true });
  await value.focus();
  await page.keyboard.press('Enter');
  const form = page.getByRole('dialog', { name: /repeats$/ });
  await form.getByRole('textbox', { name: 'How many' }).fill('2');
  await expect(form).toContainText(/Every second \w+day:/);
  await form.getByRole('button', { name: 'Start repeating' }).focus();
  await page.keyboard.press('Enter');
  await expect(notices(page)).toContainText(`“${title}” repeats every second`);
  await expect(
    page
      .getByRole('row')
      .filter({ hasText: title })
      .filter({ has: page.getByRole('img', { name: 'repeats' }) })
      .nth(1),
  ).toBeVisible();
  await task.getByRole('button', { name: /^Skip/ }).first().click();
  await expect(notices(page)).toContainText('skipped');
  await expect(task.getByRole('button', { name: /^Restore/ })).toBeVisible();
});
