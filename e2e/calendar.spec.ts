import { expect, test } from './fixtures.ts';

const holidays = [
  ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Holidays//EN'],
  ...['BEGIN:VEVENT', 'UID:1', 'DTSTART;VALUE=DATE:20270406', 'SUMMARY:Easter Tuesday', 'END:VEVENT'],
  ...['BEGIN:VEVENT', 'UID:2', 'DTSTART:20270503T090000', 'DTEND:20270503T110000', 'SUMMARY:Fire drill', 'END:VEVENT'],
  'END:VCALENDAR',
].join('\r\n');

test('somebody enters time off, sees the work that falls into it, and removes it again', async ({ page, world }) => {
  await world.enterAs(page, 'Mirela Stoyan');
  await page.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: /^Calendar/ }).click();
  await expect(page.getByRole('heading', { name: 'Calendar', exact: true })).toBeVisible();
  const form = page.getByRole('form', { name: 'Add time off' });
  await form.getByLabel('From').fill('today');
  await form.getByLabel('To (optional)').fill('+20');
  await form.getByLabel('Note').fill('Walking the coast');
  await form.getByRole('button', { name: 'Add time off' }).click();
  const asks = page.getByRole('region', { name: 'Work on those days' });
  await expect(asks).toContainText(/\d+ open tasks of Mirela Stoyan fall on these days/);
  await expect(asks.getByRole('link').first()).toHaveAttribute('href', /\/engagements\/.+task=/);
  const line = page.getByRole('list', { name: 'Time off' }).getByRole('listitem').filter({ hasText: 'Walking the coast' });
  await line.getByRole('button', { name: /^Remove/ }).click();
  await expect(line).toHaveCount(0);
  // The list may be read again before the removal is answered: its own message is waited for, that of entering it stands above.
  const messages = page.getByRole('status', { name: 'Messages' });
  await expect(messages).toContainText('again.');
  await messages.getByRole('button', { name: 'Undo' }).last().click();
  await expect(line).toHaveCount(1);
});

test('a lead previews a calendar file before its days are closed', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/calendar`);
  const closed = page.getByRole('region', { name: 'Closed days' });
  await closed.locator('input[type=file]').setInputFiles({ name: 'days.ics', mimeType: 'text/calendar', buffer: Buffer.from(holidays) });
  const preview = closed.getByRole('region', { name: 'Contents of days.ics' });
  await expect(preview).toContainText('Easter Tuesday');
  await expect(preview).toContainText('only a part of a day');
  await preview.getByRole('button', { name: 'Import 1 entry' }).click();
  await expect(closed.getByRole('button', { name: 'Remove 6 Apr, Easter Tuesday' })).toBeVisible();
  await expect(closed.getByText('Fire drill')).toHaveCount(0);
});

test('a lead sees what closing a day would move, closes it, and undoes that', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/calendar`);
  const form = page.getByRole('form', { name: 'Add closed days' });
  await form.getByLabel('Closed from').fill('10 Dec');
  await form.getByLabel('Reason').fill('Storm');
  await expect(form.getByRole('list', { name: 'What this would do' })).toContainText(/finishes|ahead move/);
  await form.getByRole('button', { name: 'Add 1 closed day' }).click();
  const remove = page.getByRole('region', { name: 'Closed days' }).getByRole('button', { name: 'Remove 10 Dec, Storm' });
  await expect(remove).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(remove).toHaveCount(0);
});
