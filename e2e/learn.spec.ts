import { expect, test } from './fixtures.ts';

test('a lead compares planned and actual effort, opens the runs, and applies three better estimates as a version', async ({
  page,
  world,
}) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/templates`);
  await page.getByRole('link', { name: 'Wayfinding & signage', exact: true }).click();
  await page.getByRole('button', { name: 'Planned against actual' }).click();
  const sheet = page.getByRole('complementary', { name: 'Planned against actual' });
  await expect(sheet.getByRole('img', { name: /^Planned against real/ }).locator('svg')).toBeVisible();
  await sheet
    .getByRole('button', { name: /^Show \d runs/ })
    .first()
    .click();
  await expect(sheet.getByRole('link', { name: 'Bell stair labels' }).first()).toBeVisible();

  const estimates = sheet.getByText(/^estimate .* instead of/);
  for (const place of [0, 1, 2]) await estimates.nth(place).click();
  await sheet.getByRole('button', { name: 'Save version 3 with 3 changes' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Version 3 saved with 3 changes from past runs.');
  await expect(page.getByText('version 3', { exact: true })).toBeVisible();
});
