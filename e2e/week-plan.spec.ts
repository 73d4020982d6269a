import { expect, openPlace, test } from './fixtures.ts';

test('on Monday a lead carries over what is left, and drags work into this week against the team’s hours', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Workload');
  await page.getByRole('link', { name: 'Plan the week' }).click();
  const left = page.getByRole('region', { name: 'Carried over' });
  await expect(left.getByRole('row').first()).toBeVisible();
  const title = (await left.getByRole('row').first().locator('b').textContent()) ?? '';
  await left.getByRole('button', { name: 'Carry all into this week' }).click();
  await expect(left).toBeHidden();
  const week = page.getByRole('grid', { name: 'This week' });
  await expect(week.getByRole('row', { name: title }).first()).toContainText('carried 1 ×');

  const later = page.getByRole('grid', { name: 'Next week' });
  const before = await later.getByRole('row').count();
  await week.getByRole('row', { name: title }).first().dragTo(later);
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('1 task for next week. Dates stay.');
  await expect(later.getByRole('row')).toHaveCount(before + 1);
});

test('by keyboard alone: work is put into this week, and the focus is on it there', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'Workload');
  // A new page begins at its heading.
  await expect(page.getByRole('heading', { name: 'Workload' })).toBeFocused();
  await page.goto(`${world.url}/workload/week`);
  const band = page.getByRole('grid', { name: 'Not placed yet' });
  const title = (await band.getByRole('row').first().locator('b').textContent()) ?? '';
  await band
    .getByRole('button', { name: `Drag ${title}` })
    .first()
    .focus();
  await page.keyboard.press('Enter');
  const target = page.getByRole('button', { name: 'Drop on This week' });
  await target.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'This week' }).getByRole('row', { name: title })).toBeFocused();
});
