import { choose, expect, test } from './fixtures.ts';

test.use({ startsEmpty: true });

test('the first visitor founds the agency, adds a client and starts from an example template', async ({ page, world }) => {
  await page.goto(world.url);
  await expect(page.getByRole('heading', { name: 'Set up your agency' })).toBeVisible();
  await page.getByLabel('Name of the agency').fill('Saltmarsh Rooms');
  await page.getByLabel('Your name').fill('Ada Brook');
  await page.getByLabel('Your mail address').fill('ada@saltmarsh.example');
  await page.getByLabel(/A password/).fill('short');
  await page.getByRole('button', { name: 'Create agency' }).click();
  await expect(page.getByText('Choose a password of at least 12 characters.')).toBeVisible();
  await page.getByLabel(/A password/).fill('tide over the reeds');
  await page.getByRole('button', { name: 'Create agency' }).click();

  await expect(page.getByText('No open engagements.')).toBeVisible();
  await page.getByRole('link', { name: 'Start an engagement' }).click();
  await page.getByRole('button', { name: 'New client…' }).click();
  await page.getByLabel('Name of the client').fill('Reed Museum');
  await page.getByRole('button', { name: 'Add client' }).click();
  await expect(page.getByRole('button', { name: /^Reed Museum/ })).toBeVisible();
  await choose(page, 'Template', /Audio trail/);
  await page.getByLabel('Name', { exact: true }).fill('Reed walk');
  await page.getByRole('button', { name: /^Start engagement \(\d+ tasks\)/ }).click();
  await expect(page.getByRole('heading', { name: 'Reed walk' })).toBeVisible();
  await page.goto(`${world.url}/found`);
  await expect(page).not.toHaveURL(/found/);
});
