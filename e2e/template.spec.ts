import { readFile } from 'node:fs/promises';
import { expect, test, type World } from './fixtures.ts';
import type { Page } from '@playwright/test';

const step = (page: Page, title: string) => page.getByRole('listitem').filter({ hasText: title }).last();

async function newTemplate(page: Page, world: World, name: string): Promise<void> {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Templates' }).click();
  await page.getByRole('button', { name: 'New template' }).click();
  await page.getByLabel('What kind of work is it?').fill(name);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the template' })).toHaveValue(name);
}

test('a lead writes how the work goes, sees it drawn, keeps a version and passes it on as a file', async ({ page, world }) => {
  await newTemplate(page, world, 'Window display');
  await page.getByRole('radio', { name: 'Steps as a list' }).click();
  await page
    .getByRole('button', { name: /^Add a step/ })
    .first()
    .click();
  for (const title of ['Sketch the window', 'Build it']) {
    await page.keyboard.type(title);
    await page.keyboard.press('Enter');
  }
  await expect(step(page, 'Build it')).toBeVisible();
  await page.getByRole('radio', { name: 'Map' }).click();
  await expect(page.locator('.react-flow__node').filter({ hasText: 'Build it' })).toBeVisible();

  await page.getByRole('button', { name: 'Keep as version 2…' }).click();
  await page.getByLabel('What is new in it').fill('How it goes');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('version 2', { exact: true })).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export' }).click()]);
  expect(download.suggestedFilename()).toBe('Window display.json');
  const text = await readFile(await download.path(), 'utf8');

  await page.getByRole('link', { name: 'Templates', exact: true }).click();
  await page.locator('input[type=file]').setInputFiles({ name: 'back.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.getByRole('status', { name: 'Notices' })).toContainText(/kept, with 1 phase and 2 tasks/);
  await page.getByRole('link', { name: 'Templates', exact: true }).click();
  const spoilt = text.replace('"Build it"', '""');
  await page.locator('input[type=file]').setInputFiles({ name: 'spoilt.json', mimeType: 'application/json', buffer: Buffer.from(spoilt) });
  await expect(page.getByRole('alert')).toContainText('spoilt.json was not kept');
});
