import { expect, test } from './fixtures.ts';

test('an engagement shows its likely and safe finish, what drives the date, and follows a change', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  const words = page.getByRole('button', { name: /^likely .*, safe [^(]*$/ });
  await expect(words).toBeVisible({ timeout: 60_000 });
  await words.click();
  const sheet = page.getByRole('complementary', { name: 'Forecast' });
  await expect(sheet.getByRole('img', { name: /^Share of runs/ }).locator('svg')).toBeVisible();
  await expect(sheet).toContainText(/met in \d+ % of runs/);
  const before = await sheet.locator('dd').first().textContent();

  // Something that decides it takes a month longer: the forecast is computed anew by itself.
  await sheet.getByRole('link', { name: 'Client signs the design' }).click();
  const task = page.getByRole('complementary', { name: 'Task' });
  await task
    .getByRole('button', { name: /Dec|Jan/ })
    .first()
    .click();
  await page.getByLabel('Working days').fill('25');
  await page.getByRole('button', { name: /Apply|^Save$/ }).click();
  await task.getByRole('button', { name: 'Close sheet' }).click();
  await expect(page.getByRole('button', { name: /^likely .*, safe [^(]*$/ })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: /^likely/ }).click();
  await expect(sheet.locator('dd').first()).not.toHaveText(before ?? '');
});
