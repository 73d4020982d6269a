import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { choose, expect, openPlace, openTemplate, test } from './fixtures.ts';

/** Drops a file of the disk beside a button, as from the desktop. */
async function dropOn(page: Page, button: Locator, path: string): Promise<void> {
  await button.scrollIntoViewIfNeeded();
  const box = await button.boundingBox();
  if (box === null) throw new Error('there is nothing to drop on');
  const browser = await page.context().newCDPSession(page);
  const at = { x: box.x + box.width + 30, y: box.y + box.height / 2, data: { items: [], files: [path], dragOperationsMask: 1 } };
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) await browser.send('Input.dispatchDragEvent', { type, ...at });
}

const notices = (page: Page) => page.getByRole('status', { name: 'Messages' });

test('a lead anchors a task of a template to the promise, and reads it as a sentence', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openTemplate(page, 'Audio trail');
  await page.getByRole('button', { name: /^Transcripts: when, who/ }).click();
  const sheet = page.getByRole('complementary', { name: 'Task of the template' });
  await expect(sheet.getByText('after Record voices', { exact: true })).toBeVisible();
  await choose(page, 'Unless something delays it, it', 'ends before the promise');
  await sheet.getByLabel('Days before the promise').fill('12');
  await expect(sheet.getByText('after Record voices and ends 12 days before the promise')).toBeVisible();

  // A loop of dependencies is refused, naming who waits on whom, and nothing of it stays.
  await page.getByRole('button', { name: /^Record voices: when, who/ }).click();
  await expect(sheet.getByLabel('Title')).toHaveValue('Record voices');
  await choose(page, 'New dependency', 'Transcripts');
  await expect(page.getByRole('alert')).toContainText(/wait on each other/);

  // On the calendar it shows at once: back from a promise the transcripts end twelve working days before it.
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await page.getByRole('radio', { name: 'Back from promised date' }).click();
  await page.getByLabel('Promised date').fill('2027-06-30');
  await expect(page.getByRole('region', { name: 'Dry run' })).toContainText(/start/);
});

test('arrows between steps are drawn by hand, and the outline says what they mean', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Templates');
  await page.getByRole('button', { name: 'New template' }).click();
  await page.getByLabel('What kind of work is it?').fill('Lamp repair');
  await page.getByRole('button', { name: 'Add' }).click();
  await page.getByRole('radio', { name: 'Outline' }).click();
  await page.getByRole('button', { name: /^Add a task/ }).click();
  for (const title of ['Open the lamp', 'Change the wick']) {
    await page.getByRole('textbox', { name: /^New task in/ }).fill(title);
    await page.keyboard.press('Enter');
  }
  await page.getByRole('radio', { name: 'Map' }).click();
  const box = (title: string) => page.locator('.react-flow__node').filter({ hasText: title });
  await expect(box('Change the wick')).toBeVisible();
  const [from, to] = [
    await box('Open the lamp').locator('.source').first().boundingBox(),
    await box('Change the wick').locator('.target').first().boundingBox(),
  ];
  if (from === null || to === null) throw new Error('the boxes have no handles');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 12 });
  await page.mouse.up();
  await expect(page.locator('.react-flow__edge')).toHaveCount(1);
  await page.getByRole('radio', { name: 'Outline' }).click();
  await expect(page.getByText('after Open the lamp')).toBeVisible();
});

test('template updates are read in words, applied to a running engagement, and undone', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openTemplate(page, 'Wayfinding & signage');
  await page.getByRole('button', { name: 'Versions' }).click();
  const versions = page.getByRole('complementary', { name: 'Versions of the template' });
  await expect(versions).toContainText('Version 2 · Signs are looked at by night');
  await expect(versions).toContainText('length: 4 → 5 working days');
  await versions.getByRole('link', { name: 'Seed vault wayfinding' }).click();

  await expect(page.getByRole('heading', { name: 'Seed vault wayfinding' })).toBeVisible();
  const finish = page.getByText(/plan finishes/).first();
  const before = await finish.innerText();
  await page.getByRole('button', { name: 'template version 2 is available' }).click();
  const news = page.getByRole('complementary', { name: 'Template updates' });
  await news.getByText('Night check', { exact: true }).click();
  await expect(news.getByRole('checkbox', { name: 'Walk the signs after dark' })).toBeChecked();
  await expect(news.getByLabel('What this would do')).toContainText(/tasks? moves?/);
  await expect(page.getByRole('row', { name: /Walk the signs after dark/ })).toHaveCount(0);
  await news.getByRole('button', { name: 'Apply 2 updates' }).click();
  await expect(notices(page)).toContainText('2 updates applied');
  await expect(page.getByRole('row', { name: /Walk the signs after dark/ })).toBeVisible();
  await expect(page.getByText('Night check', { exact: true }).first()).toBeVisible();
  await expect(finish).not.toHaveText(before);

  await notices(page).getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('row', { name: /Walk the signs after dark/ })).toHaveCount(0);
  await expect(finish).toHaveText(before);
  await expect(page.getByRole('button', { name: 'template version 2 is available' })).toBeVisible();
});

test('a finished engagement is copied in one step, without what this client does not need', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('radio', { name: 'Finished' }).click();
  await page.getByRole('link', { name: 'Platform signs' }).click();
  await page.getByRole('button', { name: 'More actions' }).click();
  await page.getByRole('menuitem', { name: /Duplicate/ }).click();
  await expect(page.getByRole('heading', { name: 'Copy an engagement' })).toBeVisible();
  await expect(page.getByRole('button', { name: /Client Pellworth Tram Museum|Pellworth Tram Museum Client/ })).toBeVisible();
  await choose(page, '^Client|Client$', 'Vennick Observatory');
  await page.getByLabel('Name', { exact: true }).fill('Dome signs');
  await page.getByLabel('First day').fill('2027-03-01');
  await page.getByText('Enquiry', { exact: true }).click();
  const start = page.getByRole('button', { name: /^Start engagement \(\d+ tasks\)/ });
  await expect(page.getByLabel('Result')).toContainText('in 5 phases');
  await start.click();
  await expect(page.getByRole('heading', { name: 'Dome signs' })).toBeVisible();
  await expect(page.getByRole('row', { name: /Walk and count places/ })).toContainText('Mar');
  await expect(page.getByText('0 %', { exact: true })).toBeVisible();
});

test('a file, a link and custom fields are added to a task, found again, and undone', async ({ page, world }) => {
  await world.enterAs(page, 'Petra Vail');
  await openPlace(page, 'Engagements');
  await page.getByRole('link', { name: 'See all engagements' }).click();
  await page.getByRole('link', { name: 'Seed vault wayfinding' }).click();
  await page.getByRole('row', { name: 'Plaques made' }).getByText('Plaques made').click();
  const sheet = page.getByRole('complementary', { name: 'Task' });
  await sheet
    .locator('input[type=file]')
    .setInputFiles({ name: 'fixing holes.csv', mimeType: 'text/csv', buffer: Buffer.from('hole,depth\n1,8\n') });
  const file = sheet.getByRole('link', { name: 'fixing holes.csv' });
  await expect(file).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), file.click()]);
  expect(await readFile(await download.path(), 'utf8')).toBe('hole,depth\n1,8\n');

  // Dropped from the desktop, one of a kind the browser does not know.
  const folder = await mkdtemp(join(tmpdir(), 'drop-'));
  await writeFile(join(folder, 'template of the plate.dwgx'), 'lines');
  await dropOn(page, sheet.getByRole('button', { name: 'Add a file…' }), join(folder, 'template of the plate.dwgx'));
  await expect(sheet.getByRole('link', { name: 'template of the plate.dwgx' })).toBeVisible();
  await rm(folder, { recursive: true });

  const run = sheet.getByRole('group', { name: 'Print run' });
  await run.getByRole('textbox').fill('24');
  await run.getByRole('textbox').press('Enter');
  await expect(notices(page)).toContainText('saved');
  await sheet
    .getByRole('group', { name: 'Material' })
    .getByRole('button', { name: /Aluminium/ })
    .click();
  await page.getByRole('option', { name: 'Oak' }).click();
  await expect(sheet.getByRole('group', { name: 'Material' }).getByRole('button', { name: /Oak/ })).toBeVisible();
  await sheet.getByRole('button', { name: 'Add link…' }).click();
  const link = sheet.getByRole('form', { name: 'New link' });
  await link.getByLabel('Title').fill('Foundry’s price list');
  await link.getByLabel('Web address').fill('https://garrow.example/prices');
  await link.getByRole('button', { name: 'Add' }).click();
  await expect(sheet.getByRole('link', { name: 'Foundry’s price list' })).toBeVisible();

  // What was done a moment ago is on its way though the page is left in the same moment.
  await page.reload();
  await expect(run.getByRole('textbox')).toHaveValue('24');
  await expect(file).toBeVisible();
  await sheet.getByRole('button', { name: 'Remove fixing holes.csv' }).click();
  await expect(file).toHaveCount(0);
  await notices(page).getByRole('button', { name: 'Undo' }).click();
  await expect(file).toBeVisible();
});

test('a freelancer enters their own time off, and sees nobody else’s', async ({ page, world }) => {
  await world.enterAs(page, 'Rafe Dombrow');
  await page.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: /^Calendar/ }).click();
  await expect(page.getByText('You have no time off planned.')).toBeVisible();
  await page.getByLabel('From').fill('2027-02-01');
  await page.getByLabel('To (optional)').fill('2027-02-05');
  await page.getByRole('button', { name: 'Add time off' }).click();
  await expect(page.getByRole('list', { name: 'Time off' })).toContainText('Rafe Dombrow');
  await expect(page.getByText('Mirela Stoyan')).toHaveCount(0);
});

test('a saved task and a phase of the library are added to a running engagement, previewed first and undone', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await page.getByRole('button', { name: 'More actions' }).click();
  await page.getByRole('menuitem', { name: 'Add phases from library' }).click();
  const library = page.getByRole('complementary', { name: 'Add phases from library' });
  await choose(page, 'From', /Accessibility check/);
  await expect(library.getByRole('checkbox', { name: 'Accessibility check' })).toBeChecked();
  await choose(page, 'Behind', 'Detail design');
  await expect(library.getByLabel('What this would do')).toContainText(/tasks? moves?/);
  await expect(page.getByRole('heading', { name: 'Accessibility check' })).toHaveCount(0);
  await library.getByRole('button', { name: 'Add 1 phase' }).click();
  await expect(notices(page)).toContainText('Accessibility check added after Detail design.');
  const phases = page.getByRole('heading', { level: 2 });
  await expect(phases.filter({ hasText: 'Accessibility check' })).toBeVisible();

  await page.getByRole('button', { name: 'Add task' }).first().click();
  await page.getByRole('button', { name: 'Add from library…' }).click();
  await choose(page, 'Saved task$', /Printer proof/);
  await page.getByRole('button', { name: 'Add here' }).click();
  await expect(notices(page)).toContainText('“Printer proof” added to Concept.');
  await page.getByRole('row', { name: /Printer proof/ }).click();
  const sheet = page.getByRole('complementary', { name: 'Task' });
  await expect(sheet.getByRole('button', { name: 'Trim' })).toBeVisible();
  await expect(sheet).toContainText('Ines Calloway');
  await notices(page).getByRole('button', { name: 'Undo' }).last().click();
  await expect(page.getByRole('row', { name: /Printer proof/ })).toHaveCount(0);

  // In the library it says where it is now.
  await openTemplate(page, 'Accessibility check');
  await page.getByRole('button', { name: 'Versions' }).click();
  await expect(page.getByRole('complementary', { name: 'Versions of the template' })).toContainText('Keepers’ Quarters gallery');
});

test('a saved task and a phase are added to a template, whose use is then listed', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openTemplate(page, 'Audio trail');
  await page.getByRole('button', { name: 'Add from library to Kickoff' }).click();
  await choose(page, 'Saved task$', /Site survey/);
  await page.getByRole('button', { name: 'Add here' }).click();
  await expect(page.getByRole('region', { name: 'Kickoff' }).getByRole('button', { name: /^Site survey: when, who/ })).toBeVisible();
  await page.getByRole('button', { name: 'Add phases from another template…' }).click();
  await choose(page, 'From', /Close-out and look-back/);
  await page.getByRole('button', { name: 'Add 1 phase at the end' }).click();
  await expect(page.getByRole('region', { name: 'Close-out and look-back' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save as version 2…' })).toBeVisible();
  await openTemplate(page, 'Close-out and look-back');
  await page.getByRole('button', { name: 'Versions' }).click();
  await expect(
    page.getByRole('complementary', { name: 'Versions of the template' }).getByRole('link', { name: 'Audio trail' }),
  ).toBeVisible();
});
