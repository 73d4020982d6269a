import type { Page } from '@playwright/test';
import { expect, openPlace, test } from './fixtures.ts';

const notices = (page: Page) => page.getByRole('status', { name: 'Messages' });
const rowOf = (page: Page, name: string) =>
  page.locator('[data-row-of]').filter({ has: page.getByRole('button', { name: `${name}: see the tasks behind` }) });

async function middleOf(target: ReturnType<typeof rowOf>): Promise<{ x: number; y: number }> {
  const box = await target.boundingBox();
  if (box === null) throw new Error('it is not on the screen');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

test('a lead eases a load: two proposals are compared together, applied in one step and undone', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Workload');
  await page.getByRole('button', { name: 'Mirela Stoyan: see the tasks behind' }).click();
  const sheet = page.getByRole('complementary', { name: 'Mirela Stoyan' });
  await expect(sheet.getByRole('heading', { name: 'Ease Mirela’s load' })).toBeVisible();
  const over = await sheet.getByText(/ h over across /).textContent();
  const proposals = sheet.getByRole('checkbox');
  await proposals.nth(0).check({ force: true });
  // The second is another way with the same task, and takes the place of the first: the third is another task.
  await proposals.nth(2).check({ force: true });
  await expect(sheet.getByText('Mirela, over in the next 120 days')).toBeVisible();
  await sheet.getByRole('button', { name: 'Apply 2 changes' }).click();
  await expect(notices(page)).toContainText('2 changes applied for Mirela.');
  await expect(sheet.getByText(/ h over across /)).not.toHaveText(over ?? '');
  await notices(page).getByRole('button', { name: /Undo/ }).first().click();
  await expect(sheet.getByText(/ h over across /)).toHaveText(over ?? '');
});

test('unassigned work is dropped on a person, its effect is shown, and it is theirs once applied', async ({ page, world }) => {
  await world.enterAs(page, 'Bastien Okoro');
  await openPlace(page, 'Workload');
  const ticket = page.getByRole('button', { name: /^Move or reassign Read aloud, time each stop/ });
  await ticket.scrollIntoViewIfNeeded();
  const from = await middleOf(ticket);
  const to = await middleOf(rowOf(page, 'Tavi Lindqvist'));
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x, from.y - 20, { steps: 4 });
  await page.mouse.move(from.x, to.y, { steps: 6 });
  await page.mouse.up();
  const sheet = page.getByRole('complementary', { name: /^Move or reassign Read aloud/ });
  await expect(sheet.getByRole('button', { name: /Who does it/ })).toContainText('Tavi Lindqvist');
  await expect(sheet).toContainText(/busiest day/);
  await sheet.getByRole('button', { name: 'Apply' }).click();
  await expect(notices(page)).toContainText('goes to Tavi Lindqvist');
  await page.getByRole('button', { name: 'Tavi Lindqvist: see the tasks behind' }).click();
  await expect(page.getByRole('complementary', { name: 'Tavi Lindqvist' })).toContainText('Read aloud, time each stop');
});

test('by keyboard alone: a task is opened from the grid, moved to another day, previewed and cancelled', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/workload?view=weeks&weeks=26`);
  await expect(page.getByRole('group', { name: 'Hours by person and week' })).toBeVisible();
  await page.getByRole('button', { name: 'Noor Haddad: see the tasks behind' }).focus();
  await page.keyboard.press('Enter');
  const ticket = page.getByRole('button', { name: /^Move or reassign / }).first();
  await ticket.focus();
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('complementary', { name: /^Move or reassign / });
  const day = sheet.getByLabel('Starts on');
  await day.focus();
  await day.fill('2027-01-11');
  await expect(sheet.getByRole('list', { name: 'What this would do' })).toContainText('This task');
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
});

test('a lead tries a new engagement on the real load, chooses the earliest start, and saves it as a proposal', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/workload?view=weeks`);
  await page.getByRole('button', { name: 'Try new work or another pace…' }).click();
  const sheet = page.getByRole('complementary', { name: 'Try a new engagement' });
  await sheet.getByRole('button', { name: /Template/ }).click();
  await page.getByRole('option', { name: 'Audio trail' }).click();
  await expect(sheet).toContainText('Not without overload');
  await sheet.getByRole('button', { name: /, finished / }).click();
  // With talk kits coming each week hardly any start of the year is free of overload.
  await expect(sheet).toContainText(/this start|least over on/);
  await sheet.getByRole('button', { name: /Choose the client/ }).click();
  await page.getByRole('option', { name: 'Pellworth Tram Museum' }).click();
  await sheet.getByLabel('Name').fill('Night depot trail');
  await sheet.getByRole('button', { name: 'Save as proposal' }).click();
  await expect(page.getByRole('heading', { name: 'Night depot trail' })).toBeVisible();
  await expect(notices(page)).toContainText('counts 50 %');
});
