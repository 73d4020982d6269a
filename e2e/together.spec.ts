import type { Browser, Page } from '@playwright/test';
import { expect, test, type World } from './fixtures.ts';

/** Two leads with the same plan before them. */
async function openTogether(browser: Browser, world: World): Promise<readonly [Page, Page]> {
  const open = async (name: string): Promise<Page> => {
    const page = await (await browser.newContext()).newPage();
    await world.enterAs(page, name);
    await page.goto(`${world.url}/engagements`);
    await page.getByRole('link', { name: 'Seed vault wayfinding' }).click();
    await expect(page.getByRole('row', { name: 'Signs set' })).toBeVisible();
    return page;
  };
  return [await open('Odalys Renn'), await open('Bastien Okoro')];
}

test('two people change the same task: the second sees both versions and chooses', async ({ browser, world }) => {
  const [first, second] = await openTogether(browser, world);
  for (const page of [first, second]) {
    await page.getByRole('row', { name: 'Signs set' }).getByText('Signs set').click();
    await expect(page.getByRole('complementary', { name: 'Task' }).getByRole('button', { name: '0 of 26 h' })).toBeVisible();
  }
  const sheetOf = (page: typeof first) => page.getByRole('complementary', { name: 'Task' });
  const typeHours = async (page: typeof first, value: string): Promise<void> => {
    await sheetOf(page)
      .getByRole('button', { name: /0 of \d+ h/ })
      .click();
    await page.getByLabel('Hours', { exact: true }).fill(value);
  };
  await typeHours(second, '20');
  await typeHours(first, '30');
  await first.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(first.getByRole('status', { name: 'Messages' })).toContainText('“Signs set” saved.');

  await second.getByRole('button', { name: 'Save', exact: true }).click();
  const note = second.getByRole('alert');
  await expect(note).toContainText('Somebody changed this task since you opened it.');
  // It stands with the field it is about.
  await expect(sheetOf(second).getByRole('definition').filter({ has: note })).toContainText('h');
  await expect(note).toContainText('30 h');
  await expect(note).toContainText('20 h');
  await note.getByRole('button', { name: 'Keep my version' }).click();
  await expect(second.getByRole('complementary', { name: 'Task' }).getByRole('button', { name: '0 of 20 h' })).toBeVisible();
  await expect(note).toHaveCount(0);
});

test('undo leaves what somebody else changed since, and says whose it is', async ({ browser, world }) => {
  const [first, second] = await openTogether(browser, world);
  const sheetOf = (page: Page) => page.getByRole('complementary', { name: 'Task' });
  const setHours = async (page: Page, before: string, hours: string): Promise<void> => {
    await page.getByRole('row', { name: 'Signs set' }).getByText('Signs set').click();
    await sheetOf(page)
      .getByRole('button', { name: `0 of ${before} h` })
      .click();
    await page.getByLabel('Hours', { exact: true }).fill(hours);
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    // Shown at once, said when it is saved: the other may act only after that.
    await expect(page.getByRole('status', { name: 'Messages' })).toContainText('“Signs set” saved.');
    await expect(sheetOf(page).getByRole('button', { name: `0 of ${hours} h` })).toBeVisible();
  };
  await setHours(first, '26', '30');
  const notices = first.getByRole('status', { name: 'Messages' });
  await notices.getByRole('button', { name: 'Undo' }).hover();
  await setHours(second, '30', '20');
  await notices.getByRole('button', { name: 'Undo' }).click();
  await expect(notices).toContainText('Everything this changed has been changed again since. Bastien Okoro changed “Signs set”.');
  await expect(sheetOf(first).getByRole('button', { name: '0 of 20 h' })).toBeVisible();
});

test('a change is on another person’s screen a moment later, with the plan that follows', async ({ browser, world }) => {
  const [first, second] = await openTogether(browser, world);
  const statusOf = (page: typeof first, status: string) => page.getByRole('row', { name: 'Signs set' }).getByRole('img', { name: status });
  await first.getByRole('button', { name: 'Change the status of Signs set' }).click();
  await first.getByRole('menuitem', { name: 'Under way' }).click();
  await expect(statusOf(first, 'Under way')).toBeVisible();
  await expect(statusOf(second, 'Under way')).toBeVisible();
});

test('two people see each other at the same plan and task, until one leaves', async ({ browser, world }) => {
  const [first, second] = await openTogether(browser, world);
  const here = (page: Page, within: string, name: string) => page.locator(within).getByText('Also here').getByRole('img', { name });
  await expect(here(first, 'header', 'Bastien Okoro')).toBeVisible();
  await expect(here(second, 'header', 'Odalys Renn')).toBeVisible();
  for (const page of [first, second]) await page.getByRole('row', { name: 'Signs set' }).getByText('Signs set').click();
  await expect(here(first, 'aside', 'Bastien Okoro')).toBeVisible();
  await second.goto(`${world.url}/desk`);
  await expect(first.getByText('Also here')).toHaveCount(0);
});

test('a client sees its own work and nothing of the crew’s', async ({ page, world }) => {
  await world.enterAs(page, 'Freya Kell');
  await expect(page.getByRole('heading', { name: 'Keepers’ Quarters gallery' })).toBeVisible();
  await expect(page.getByText('Client picks a direction')).toBeVisible();
  await expect(page.getByText('Budget check against concept')).toHaveCount(0);
  await expect(page.getByText('Seed vault wayfinding')).toHaveCount(0);
  await page.goto(`${world.url}/engagements`);
  await expect(page).toHaveURL(/project/);
});

test('a freelancer has a desk and own tasks, and picks up a handoff that is given to them', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/handoffs`);
  await page.getByRole('link', { name: 'Depot audio trail' }).click();
  await page.getByRole('button', { name: 'Pass on…' }).click();
  await page.getByRole('button', { name: /Who picks it up instead/ }).click();
  await page.getByRole('option', { name: /^Rafe Dombrow/ }).click();
  await page.getByRole('button', { name: 'Pass on' }).click();
  await expect(page.getByText('Passed on.')).toBeVisible();
  await world.enterAs(page, 'Rafe Dombrow');
  await expect(page.getByRole('heading', { name: 'My desk' })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Main' }).getByRole('link')).toHaveText([/My desk/, /Handoffs/, /Time/]);
  await page.getByRole('link', { name: 'Read and pick up' }).click();
  await page.getByRole('complementary', { name: 'Handoff' }).getByRole('button', { name: 'Pick up', exact: true }).click();
  await expect(page.getByText('Studio is picked up and starts today.')).toBeVisible();
  await page.goto(`${world.url}/engagements`);
  await expect(page.getByText('You do not have access to this.')).toBeVisible();
});

test('after signing in one gets to the page one asked for', async ({ page, world }) => {
  await page.goto(world.url);
  await expect(page).toHaveURL(/sign-in/);
  await page.getByLabel('Mail address').fill('odalys@quillmarsh.example');
  await page.getByLabel('Password').fill('not this one');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByText('That address and password do not belong together.')).toBeVisible();
  await page.getByLabel('Password').fill('lamp room at dusk');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Engagements' })).toBeVisible();
});
