import type { Page } from '@playwright/test';
import { expect, openPlace, test } from './fixtures.ts';

const sheetOf = (page: Page) => page.getByRole('complementary', { name: 'Person' });

async function openCrew(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: /^Crew/ }).click();
  await expect(page.getByRole('heading', { name: 'Crew' })).toBeVisible();
}

test('a colleague is invited, chooses a password by the link, and is deactivated', async ({ browser, page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openCrew(page);
  await page.getByRole('button', { name: 'Invite…' }).click();
  await sheetOf(page).getByLabel('Name').fill('Wren Ostrander');
  await sheetOf(page).getByLabel('Mail address').fill('wren@quillmarsh.example');
  await sheetOf(page).getByText('Writer', { exact: true }).click();
  await sheetOf(page).getByLabel('New role').fill('Model maker');
  await sheetOf(page).getByLabel('Fri').fill('half');
  await sheetOf(page).getByRole('button', { name: 'Invite', exact: true }).click();
  await expect(sheetOf(page).getByText('Write hours as 7.5 or 7:30, or leave a day empty.')).toBeVisible();
  await sheetOf(page).getByLabel('Fri').fill('');
  await sheetOf(page).getByRole('button', { name: 'Invite', exact: true }).click();
  const row = page.getByRole('listitem').filter({ hasText: 'Wren Ostrander' });
  await expect(row).toContainText('Writer, Model maker');
  await expect(row).toContainText('30 h');

  // Without a mail server the link is passed on by hand; it opens at the app's own address.
  const link = new URL(await sheetOf(page).getByLabel('Link for Wren Ostrander').inputValue());
  const theirs = await (await browser.newContext()).newPage();
  await theirs.goto(`${world.url}${link.pathname}`);
  await expect(theirs.getByRole('heading', { name: 'Welcome to Quillmarsh Studio' })).toBeVisible();
  await theirs.getByLabel('Password').fill('moss on the north side');
  await theirs.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(theirs.getByRole('heading', { name: 'My desk' })).toBeVisible();

  await openPlace(page, 'Workload');
  await expect(page.getByRole('button', { name: /^Wren Ostrander/ })).toBeVisible();

  await openCrew(page);
  await page.getByRole('button', { name: 'Wren Ostrander' }).click();
  await sheetOf(page).getByRole('button', { name: 'Deactivate' }).click();
  await expect(row).toContainText('deactivated');
  await theirs.reload();
  await expect(theirs).toHaveURL(/sign-in/);
});

test('two people edit the same person: the second sees both versions and chooses', async ({ browser, world }) => {
  const first = await (await browser.newContext()).newPage();
  const second = await (await browser.newContext()).newPage();
  await world.enterAs(first, 'Odalys Renn');
  await world.enterAs(second, 'Sunniva Ashe');
  for (const page of [first, second]) {
    await page.goto(`${world.url}/crew`);
    await page.getByRole('button', { name: 'Jonah Ferreira' }).click();
  }
  await sheetOf(second).getByLabel('Mon').fill('4');
  await sheetOf(first).getByLabel('Tue').fill('5');
  await sheetOf(first).getByRole('button', { name: 'Save', exact: true }).click();
  await expect(first.getByRole('listitem').filter({ hasText: 'Jonah Ferreira' })).toContainText('27.5 h');
  await sheetOf(second).getByRole('button', { name: 'Save', exact: true }).click();
  await expect(sheetOf(second).getByRole('alert')).toContainText('27.5 h a week');
  await sheetOf(second).getByRole('button', { name: 'Use their version' }).click();
  await expect(sheetOf(second).getByLabel('Tue')).toHaveValue('5');
  await expect(sheetOf(second).getByLabel('Mon')).toHaveValue('7.5');
});

test('members cannot edit the crew', async ({ page, world }) => {
  await world.enterAs(page, 'Noor Haddad');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await expect(page.getByRole('menuitem', { name: /^Settings/ })).toBeVisible();
  await expect(page.getByRole('menuitem', { name: /^Crew/ })).toHaveCount(0);
  await page.goto(`${world.url}/crew`);
  await expect(page.getByRole('alert')).toContainText('You do not have access to this');
});
