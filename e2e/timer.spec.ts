import { expect, openPlace, test } from './fixtures.ts';

test('a timer is paused, moved to another task, seen on a second device, and logged', async ({ page, world, context }) => {
  await world.enterAs(page, 'Emeka Strand');
  await openPlace(page, 'My desk');
  const chip = page.getByRole('group', { name: 'Timer' });
  const now = page.getByLabel('Now', { exact: true });
  await expect(chip).toContainText(/(4[2-9]|5\d) min|\d h \d\d min/);
  const first = await now.getByRole('heading').innerText();
  await now.getByRole('button', { name: 'Pause the timer' }).click();
  await expect(chip.getByRole('button', { name: `Resume ${first}` })).toBeVisible();

  // Another task: what the first counted is logged, the second runs and is the one thing now.
  await page.getByRole('grid', { name: 'Ready to start' }).getByRole('row').first().click();
  const sheet = page.getByRole('complementary', { name: 'Task' });
  const second = await sheet.getByLabel('Title').inputValue();
  await sheet.getByRole('button', { name: /^Start the timer on/ }).click();
  await expect(now.getByRole('heading')).toHaveText(second);
  await expect(chip.getByRole('button', { name: `Pause ${second}` })).toBeVisible();
  await expect(sheet.getByRole('button', { name: 'Status: Under way' })).toBeVisible();

  const phone = await context.newPage();
  await phone.setViewportSize({ width: 360, height: 740 });
  await phone.goto(`${world.url}/desk`);
  const there = phone.getByRole('group', { name: 'Timer' });
  await there.getByRole('button', { name: `Pause ${second}` }).click();
  await expect(chip.getByRole('button', { name: `Resume ${second}` })).toBeVisible();

  await page.keyboard.press('t');
  await expect(there.getByRole('button', { name: `Pause ${second}` })).toBeVisible();
  await chip.getByRole('button', { name: new RegExp(`on ${second}$`) }).click();
  await page.getByRole('button', { name: /^Discard timer/ }).click();
  await expect(chip).toHaveCount(0);
  await expect(there).toHaveCount(0);
});
