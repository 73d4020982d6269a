import { expect, openPlace, test } from './fixtures.ts';

test('a writer logs Friday from memory, and sees which entries are at the same time', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  await openPlace(page, 'Time');
  await page.getByRole('button', { name: 'A week earlier' }).click();
  const friday = page.getByRole('textbox', { name: 'Script fixes, Fri 20 Nov' });
  await friday.fill('1:30');
  await friday.press('Enter');
  await expect(friday).toHaveValue('1.5');
  const day = page.getByRole('region', { name: 'Entries of Fri 20 Nov' });
  await expect(day).toContainText('20 min at the same time as “Words for the site”');
  await day.getByRole('textbox', { name: 'When Words for the site started' }).fill('16:30');
  await page.keyboard.press('Enter');
  await expect(day).not.toContainText('at the same time');
  await day.getByRole('button', { name: 'Remove 1.5 h on Script fixes' }).click();
  await expect(friday).toHaveValue('');
  await page.getByRole('status', { name: 'Messages' }).getByRole('button', { name: /Undo/ }).first().click();
  await expect(friday).toHaveValue('1.5');
});

test('only a lead changes closed time, with a reason that can be read afterwards', async ({ page, world }) => {
  await world.enterAs(page, 'Ines Calloway');
  await page.goto(`${world.url}/time?day=2026-10-29`);
  await expect(page.getByText('closed', { exact: true }).first()).toBeVisible();
  await expect(page.getByRole('textbox', { name: /Oct$/ })).toHaveCount(0);

  await page.context().clearCookies();
  await world.enterAs(page, 'Sunniva Ashe');
  await page.goto(`${world.url}/time?day=2026-10-29&show=crew`);
  await page.getByRole('link', { name: 'Ines Calloway' }).click();
  await page.getByRole('textbox', { name: /Why are you changing them/ }).fill('Two hours were travel');
  const cell = page.getByRole('textbox', { name: /Oct$/ }).and(page.locator('[value]:not([value=""])')).first();
  await cell.fill('2');
  await cell.press('Enter');
  await page.getByRole('radio', { name: 'The crew' }).click();
  await expect(page.getByRole('region', { name: 'Changed after closing' })).toContainText('“Two hours were travel” · Sunniva Ashe');
});
