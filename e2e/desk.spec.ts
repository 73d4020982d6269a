import type { Page } from '@playwright/test';
import { expect, openPlace, test } from './fixtures.ts';

const day = (page: Page, name: string) => page.getByRole('grid', { name: `Work of ${name}` });
const notices = (page: Page) => page.getByRole('status', { name: 'Messages' });

test('on Monday a writer sees what is on now, drags work into days, and sees which day is full', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  await expect(page.getByRole('region', { name: 'Now' })).toContainText('Check label facts');
  const ready = page.getByRole('grid', { name: 'Ready to start' });
  await expect(ready.getByRole('row', { name: 'Proof read' })).toBeVisible();

  // From the list of what is ready into Thursday, then from there into Tuesday.
  await ready.getByRole('row', { name: 'Proof read' }).dragTo(day(page, 'Thu 26 Nov'));
  await expect(notices(page)).toContainText('“Proof read” is planned for Thu 26 Nov. Its dates do not change.');
  await expect(day(page, 'Thu 26 Nov').getByRole('row').first()).toContainText('Proof read');
  await day(page, 'Thu 26 Nov').getByRole('row', { name: 'Proof read' }).dragTo(day(page, 'Tue 24 Nov'));
  await expect(day(page, 'Tue 24 Nov').getByRole('row').first()).toContainText('Proof read');
  await expect(notices(page)).toContainText('“Proof read” is planned for Tue 24 Nov. Its dates do not change.');

  // A second one before it: the day keeps the order. The notices lie over the list it comes from.
  const close = notices(page).getByRole('button', { name: 'Close notice' });
  while ((await close.count()) > 0) await close.first().click();
  await ready
    .getByRole('row', { name: 'Names for the seed drawers' })
    .dragTo(day(page, 'Tue 24 Nov').getByRole('row', { name: 'Proof read' }), {
      targetPosition: { x: 60, y: 3 },
    });
  await expect(day(page, 'Tue 24 Nov').getByRole('row').nth(0)).toContainText('Names for the seed drawers');
  await expect(day(page, 'Tue 24 Nov').getByRole('row').nth(1)).toContainText('Proof read');

  // More than the day has is told; less of it leaves the rest to its other days, and is undone.
  await expect(page.getByRole('region', { name: 'Tue 24 Nov' }).getByText('8.5 / 7.5 h')).toBeVisible();
  const hours = page.getByRole('textbox', { name: 'Hours of Proof read on this day' });
  await hours.fill('1');
  await hours.press('Enter');
  await expect(page.getByRole('region', { name: 'Tue 24 Nov' }).getByText('7.5 / 7.5 h')).toBeVisible();
  await notices(page).getByRole('button', { name: /Undo/ }).last().click();
  await expect(hours).toHaveValue('2');
});

test('overdue work is decided on, and missing time is filled in', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  const overdue = page.getByRole('region', { name: 'Overdue' });
  await expect(overdue).toContainText('Ask for the planting dates');
  await overdue.getByRole('button', { name: 'Move…' }).first().click();
  await page.getByLabel('Starts on').fill('2026-11-26');
  await expect(page.getByRole('list', { name: 'What this would do' })).toBeVisible();
  await page.getByRole('button', { name: 'Apply' }).click();
  await expect(overdue).toBeHidden();

  const unlogged = page.getByRole('region', { name: 'Done, no time logged' });
  await unlogged.getByRole('textbox', { name: 'Hours Proof the map legend took' }).fill('2:30');
  await page.keyboard.press('Enter');
  await expect(notices(page)).toContainText('2.5 h logged on “Proof the map legend”.');
  await expect(unlogged).toContainText('All finished tasks have time logged.');
});

test('by keyboard alone: work is put from the list onto a day', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  const ready = page.getByRole('grid', { name: 'Ready to start' });
  await ready.getByRole('button', { name: 'Arrange Proof read' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Do it on Wed 25 Nov' }).focus();
  await page.keyboard.press('Enter');
  await expect(day(page, 'Wed 25 Nov')).toContainText('Proof read');
});

test('a lead opens another person’s desk and arranges it', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'My desk');
  await page.getByRole('button', { name: /Person$/ }).click();
  await page.getByRole('option', { name: 'Mirela Stoyan' }).click();
  await expect(page.getByRole('heading', { name: 'The desk of Mirela Stoyan' })).toBeVisible();
  // Of somebody else's week it says whose.
  const friday = page.getByRole('grid', { name: 'Work of Mirela Stoyan, Fri 27 Nov' });
  const ready = page.getByRole('grid', { name: 'Ready to start' });
  await ready.getByRole('row', { name: 'Proof read' }).dragTo(friday);
  await expect(friday.getByRole('row').first()).toContainText('Proof read');
});
