import { expect, test } from './fixtures.ts';

test('what was changed is in the history of the task, the engagement and the agency, and is undone and redone there', async ({
  page,
  world,
}) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/engagements`);
  await page.getByRole('link', { name: 'Seed vault wayfinding' }).click();
  const row = page.getByRole('row', { name: 'Signs set' });
  await row.getByText('Signs set').click();
  const task = page.getByRole('complementary', { name: 'Task' });
  await task.getByRole('button', { name: '0 of 26 h' }).click();
  await page.getByLabel('Hours', { exact: true }).fill('30');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(task.getByRole('button', { name: '0 of 30 h' })).toBeVisible();
  const told = task.getByRole('listitem').filter({ hasText: 'Odalys Renn changed the effort 26 h → 30 h' });
  await expect(told).toBeVisible();

  await page.getByRole('button', { name: 'More actions' }).click();
  await page.getByRole('menuitem', { name: 'History' }).click();
  const history = page.getByRole('complementary', { name: 'History of the engagement' });
  const line = history.getByRole('listitem').filter({ hasText: 'changed the effort of Signs set' }).first();
  await line.getByRole('button', { name: 'Undo' }).click();
  await expect(row).toContainText('26 h');
  await expect(line.first()).toContainText('undid: changed the effort of Signs set 30 h → 26 h');

  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: /^History/ }).click();
  await expect(page.getByRole('heading', { name: 'History' })).toBeVisible();
  await page.getByRole('button', { name: /anyone/ }).click();
  await page.getByRole('option', { name: 'Odalys Renn' }).click();
  await page.getByRole('button', { name: /About/ }).click();
  await page.getByRole('option', { name: 'other changes of tasks' }).click();
  await expect(page).toHaveURL(/part=tasks/);
  const undone = page.getByRole('listitem').filter({ hasText: 'changed the effort of Signs set 26 h → 30 h · undone' }).last();
  await undone.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Redone.');
  await page.goto(`${world.url}/engagements`);
  await page.getByRole('link', { name: 'Seed vault wayfinding' }).click();
  await expect(row).toContainText('30 h');
});
