import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { choose, expect, test, type World } from './fixtures.ts';

test.use({ startsEmpty: true });

/** As `./start --empty` prints it. */
function setupKey(): string {
  const env = { ...process.env, CREW_SESSION_SECRET: 'for tests only' };
  return spawnSync(process.execPath, [join(import.meta.dirname, '../apps/server/dist/setup-key.js')], {
    env,
    encoding: 'utf8',
  }).stdout.trim();
}

async function makeAgency(page: Page, world: World): Promise<void> {
  await page.goto(`${world.url}/set-up?key=${setupKey()}`);
  await page.getByLabel('Name of the agency').fill('Saltmarsh Web');
  await choose(page, 'Country', 'Germany');
  await page.getByLabel('Your name').fill('Ada Brook');
  await page.getByLabel('Your mail address').fill('ada@saltmarsh.example');
  await page.getByLabel(/A password/).fill('tide over the reeds');
  await page.getByRole('button', { name: 'Create agency' }).click();
  await expect(page).toHaveURL(/set-up\/holidays/);
}

test('the owner of a studio sets it up, and her first engagement runs with her people on it and her holidays closed', async ({
  page,
  world,
  browser,
}) => {
  await page.goto(world.url);
  await expect(page.getByRole('heading', { name: 'Set up your agency' })).toBeVisible();
  await page.getByLabel(/Set-up key/).fill('AAAA-BBBB');
  await page.getByLabel('Name of the agency').fill('Saltmarsh Web');
  await page.getByLabel('Your name').fill('Ada Brook');
  await page.getByLabel('Your mail address').fill('ada@saltmarsh.example');
  await page.getByLabel(/A password/).fill('short');
  await page.getByRole('button', { name: 'Create agency' }).click();
  await expect(page.getByText('Choose a password of at least 12 characters.')).toBeVisible();
  await page.getByLabel(/A password/).fill('tide over the reeds');
  await page.getByRole('button', { name: 'Create agency' }).click();
  await expect(page.getByText('This is not the set-up key.')).toBeVisible();
  await makeAgency(page, world);

  // The holidays of her region.
  await choose(page, 'Region', 'Bayern');
  await page.getByRole('button', { name: /^Add \d+ closed days$/ }).click();
  await expect(page).toHaveURL(/set-up\/templates/);
  await page.getByText(/^Websites/).click();
  await page.getByText('Website relaunch', { exact: true }).click();
  await page.getByRole('button', { name: 'Add 2 templates' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('2 templates added, with the roles');

  // Her people, pasted from a spreadsheet with one fault.
  const people = page.getByRole('textbox', { name: 'People' });
  const rows = ['Name\tMail\tRole\tHours', 'Ben Vale\tben@saltmarsh.example\tweb developer\t30 h', 'Cleo Marr\tcleo\tWriter\t3 days'];
  await people.fill(rows.join('\n'));
  await expect(page.getByText('Line 3: The mail address is missing.')).toBeVisible();
  await people.fill(rows.join('\n').replace('\tcleo\t', '\tcleo@saltmarsh.example\t'));
  await expect(page.getByRole('row', { name: /Cleo Marr/ })).toContainText('22.5 h, Mon–Wed');
  await page.getByRole('button', { name: 'Invite 2 people' }).click();
  const link = await page.getByRole('textbox', { name: 'Link for Ben Vale' }).inputValue();
  await page.getByRole('button', { name: 'Continue' }).click();

  // Her first engagement, from the template of her trade.
  await page.getByRole('link', { name: 'Start: New website' }).click();
  await page.getByRole('button', { name: 'New client…' }).click();
  await page.getByLabel('Name of the client').fill('Reed Museum');
  await page.getByRole('button', { name: 'Add client' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Reed Museum website');
  await page.getByRole('button', { name: /^Start engagement \(\d+ tasks\)/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Reed Museum website' })).toBeVisible();
  await expect(page.getByText('Enquiry received, first call next')).toBeVisible();

  // One of our own words is explained once, and the guide tells more.
  await page.getByRole('button', { name: 'What is meant by state line' }).click();
  await page.getByRole('button', { name: 'Got it' }).click();
  await expect(page.getByRole('button', { name: 'What is meant by state line' })).toBeHidden();
  await page.keyboard.press('?');
  await expect(page.getByRole('complementary', { name: 'Shortcuts' })).toContainText('On this page');
  await page.getByRole('link', { name: 'Read the guide' }).click();
  await page.getByRole('link', { name: 'Hand off a phase' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Hand off a phase' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Handoffs with the packet' })).toBeVisible();

  // What is left stands on her desk until she closes it.
  await page.goto(`${world.url}/desk`);
  const list = page.getByRole('region', { name: 'First steps' });
  await expect(list).toContainText('5 of 6 done');
  await list.getByRole('button', { name: 'Close list' }).click();
  await expect(list).toBeHidden();
  await page.reload();
  await expect(page.getByRole('heading', { level: 1, name: 'My desk' })).toBeVisible();
  await expect(list).toBeHidden();

  // Her colleague chooses a password and reads what his desk is for.
  const ben = await (await browser.newContext()).newPage();
  await ben.goto(link);
  await ben.getByLabel('Password').fill('herons by the weir');
  await ben.getByRole('button', { name: 'Start' }).click();
  await expect(ben.getByRole('region', { name: 'About your desk' })).toContainText('Your desk shows what you can start now');
  await ben.getByRole('button', { name: 'Got it' }).click();
  await expect(ben.getByRole('region', { name: 'About your desk' })).toBeHidden();
  await ben.goto(link);
  await expect(ben.getByRole('heading', { name: 'This link cannot be used' })).toBeVisible();
});

test('by keyboard alone, with every step skipped and found again', async ({ page, world }) => {
  await makeAgency(page, world);
  const press = async (role: 'button' | 'link', name: string | RegExp): Promise<void> => {
    await page.getByRole(role, { name, exact: true }).focus();
    await page.keyboard.press('Enter');
  };
  for (const step of ['holidays', 'templates', 'people']) {
    await expect(page).toHaveURL(new RegExp(`set-up/${step}`));
    await press('button', 'Skip');
  }
  await press('link', 'Skip');
  await expect(page.getByRole('region', { name: 'First steps' })).toContainText('1 of 6 done');
  await press('link', 'Start: Choose templates');
  await page.getByRole('checkbox', { name: /^Care and retainers/ }).focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('checkbox', { name: 'Website care, a month' })).toBeFocused();
  await page.keyboard.press('Space');
  await press('button', 'Add 1 template');
  await expect(page).toHaveURL(/set-up\/people/);
  await expect(page.getByRole('textbox', { name: 'People' })).toBeFocused();
  await page.keyboard.type('Ben Vale, ben@saltmarsh.example, Web developer');
  await press('button', 'Invite 1 person');
  await expect(page.getByRole('textbox', { name: 'Link for Ben Vale' })).toBeVisible();
  await press('button', 'Continue');
  await expect(page.getByRole('link', { name: 'Start: Retainer, a month' })).toBeVisible();
  await page.goto(`${world.url}/set-up`);
  await expect(page).not.toHaveURL(/set-up/);
});
