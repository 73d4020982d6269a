import { readFile } from 'node:fs/promises';
import { choose, expect, openPlace, test, type World } from './fixtures.ts';
import type { Page } from '@playwright/test';

const step = (page: Page, title: string) => page.getByRole('listitem').filter({ hasText: title }).last();

async function newTemplate(page: Page, world: World, name: string): Promise<void> {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Templates');
  await page.getByRole('button', { name: 'New template' }).click();
  await page.getByLabel('What kind of work is it?').fill(name);
  await page.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the template' })).toHaveValue(name);
}

test('a lead writes a template, sees its map, saves a version and exports it as a file', async ({ page, world }) => {
  await newTemplate(page, world, 'Window display');
  await page.getByRole('radio', { name: 'Step list' }).click();
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

  await page.getByRole('button', { name: 'Save as version 2…' }).click();
  await page.getByLabel('What changed').fill('How it goes');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('version 2', { exact: true })).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export' }).click()]);
  expect(download.suggestedFilename()).toBe('Window display.json');
  const text = await readFile(await download.path(), 'utf8');

  await openPlace(page, 'Templates');
  await page.locator('input[type=file]').setInputFiles({ name: 'back.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText(/imported with 1 phase and 2 tasks/);
  await openPlace(page, 'Templates');
  const spoilt = text.replace('"Build it"', '""');
  await page.locator('input[type=file]').setInputFiles({ name: 'spoilt.json', mimeType: 'application/json', buffer: Buffer.from(spoilt) });
  await expect(page.getByRole('alert')).toContainText('spoilt.json was not imported');
});

test('a map is built step by step, and edited by keys: lanes, a loop with its rounds, an ending', async ({ page, world }) => {
  await newTemplate(page, world, 'Sound walk');
  const box = (title: string) => page.locator('.react-flow__node-box').filter({ hasText: title });
  await page.getByRole('textbox', { name: 'What happens first?' }).fill('First call');
  await choose(page, 'Who does it', 'Client manager');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  for (const title of ['Send proposal', 'Walk the site']) {
    await expect(page.getByRole('textbox', { name: 'The step' })).toHaveValue('');
    await page.getByRole('textbox', { name: 'The step' }).fill(title);
    await page.keyboard.press('Enter');
    await expect(box(title)).toBeVisible();
  }

  // An ending with its reason, then an answer of the client that can lead back.
  await choose(page, 'Next', 'it ends');
  await page.getByRole('textbox', { name: 'How it ends' }).fill('Closed: not a fit');
  await page.getByRole('textbox', { name: 'Only when' }).fill('not a fit');
  await page.keyboard.press('Enter');
  await expect(box('Closed: not a fit')).toBeVisible();
  await box('Send proposal').click();
  await expect(page.getByRole('textbox', { name: 'Title of the step' })).toHaveValue('Send proposal');
  await page.keyboard.press('n');
  const next = page.getByRole('form', { name: 'What happens after Send proposal' });
  await next.getByRole('textbox', { name: 'The step' }).fill('Client answers');
  await choose(page, 'Who does it', 'The client');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await choose(page, 'Next', 'an existing step');
  await choose(page, 'Which step', 'Send proposal');
  await page.getByRole('textbox', { name: 'Only when' }).fill('changes');
  await page.keyboard.press('Enter');
  const loop = page.getByRole('group', { name: 'Client answers leads to Send proposal, changes · 2 rounds agreed' });
  await expect(loop).toBeVisible();

  // By keys: to the neighbour, into another lane, and out.
  await box('Send proposal').focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('textbox', { name: 'Title of the step' })).toHaveValue('First call');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Title of the step' })).toBeFocused();
  await box('First call').focus();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.getByRole('button', { name: /^The client Who does it/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: /^Client manager Who does it/ })).toBeVisible();
  await box('Walk the site').focus();
  await page.keyboard.press('Delete');
  await expect(box('Walk the site')).toHaveCount(0);
  await expect(box('Closed: not a fit')).toHaveCount(0);

  // A new phase, and a step where there is room for it.
  await page.getByRole('button', { name: 'Add a phase' }).click();
  const phase = page.getByRole('complementary', { name: 'Phase of the template' });
  await phase.getByRole('textbox', { name: 'Name of the phase' }).fill('Recording');
  await page.keyboard.press('Enter');
  await phase.getByRole('button', { name: 'Close' }).click();
  const head = await page.getByRole('button', { name: 'Recording', exact: true }).boundingBox();
  const lane = await box('Client answers').boundingBox();
  if (head === null || lane === null) throw new Error('the map has no place for it');
  await page.mouse.dblclick(head.x + head.width / 2, lane.y + lane.height / 2);
  await expect(page.getByRole('button', { name: /^The client Who does it/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Recording In phase/ })).toBeVisible();
  await page.getByRole('textbox', { name: 'The step' }).fill('Client listens');
  await page.keyboard.press('Enter');
  await expect(box('Client listens')).toBeVisible();

  // The list of steps says the same: there is one model.
  await page.getByRole('radio', { name: 'Step list' }).click();
  await expect(page.getByRole('list', { name: 'What happens after Client answers' })).toContainText('back to Send proposal');
  await expect(page.getByRole('region', { name: 'Recording' })).toContainText('Client listens');
});
