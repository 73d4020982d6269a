import { expect, leave, openPlace, setStatus, test } from './fixtures.ts';

test('Concept is handed off with a few words, sent back with a question, answered and picked up', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await setStatus(page, 'Client picks a direction', 'Done');
  await setStatus(page, 'Accessibility read-through', 'Done');
  await expect(page.getByText(/9 of 9 done/).last()).toBeVisible();

  await page.getByRole('button', { name: 'Hand off Concept…' }).click();
  const sheet = page.getByRole('complementary', { name: 'Handoff' });
  await expect(sheet.getByText('1 check is open')).toBeVisible();
  await sheet.getByRole('button', { name: /Concept signed by the lead/ }).click();
  await expect(sheet.getByText('confirmed by Odalys Renn')).toBeVisible();
  await sheet.getByLabel('Note for the receiver').fill('Direction B. The curved wall stays.');
  await sheet.getByRole('button', { name: 'Hand off Concept' }).click();
  await expect(page.getByText('Concept handed off, waiting to be picked up')).toBeVisible();
  await leave(page);

  await world.enterAs(page, 'Noor Haddad');
  const turn = page.getByRole('region', { name: 'It is your turn' });
  await expect(turn).toContainText('Your turn: Detail design');
  await turn.getByRole('link', { name: 'Read and pick up' }).click();
  await expect(sheet).toContainText('Direction B. The curved wall stays.');
  await expect(sheet).toContainText('Concept boards');
  await expect(sheet).toContainText('Detail design starts today');
  await sheet.getByRole('button', { name: 'Send back…' }).click();
  await sheet.getByLabel('Your question').fill('Which of the two curves?');
  await sheet.getByRole('button', { name: 'Send back' }).click();
  await expect(page.getByText('Sent back with a question')).toBeVisible();
  await leave(page);

  await world.enterAs(page, 'Odalys Renn');
  await openPlace(page, 'My desk');
  await expect(page.getByRole('region', { name: 'It is your turn' })).toContainText('Which of the two curves?');
  await page.getByRole('region', { name: 'It is your turn' }).getByRole('link', { name: 'Answer' }).click();
  await sheet.getByLabel('Your answer').fill('The wide one, by the window.');
  await sheet.getByRole('button', { name: 'Hand off Concept' }).click();
  await expect(sheet).toContainText('handed off: “The wide one, by the window.”');
  await leave(page);

  await world.enterAs(page, 'Noor Haddad');
  await page.getByRole('link', { name: 'Read and pick up' }).click();
  await sheet.getByRole('button', { name: 'Pick up' }).click();
  const messages = page.getByRole('status', { name: 'Messages' });
  await expect(messages).toContainText('Detail design is picked up and starts today.');
  // Pressed too early: it waits again, and is picked up for good.
  await messages.getByText('Detail design is picked up').locator('..').getByRole('button', { name: 'Undo' }).click();
  await expect(sheet.getByRole('button', { name: 'Pick up' })).toBeVisible();
  await sheet.getByRole('button', { name: 'Pick up' }).click();
  await expect(sheet.getByRole('button', { name: 'Pick up' })).toHaveCount(0);
  await openPlace(page, 'Engagements');
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await expect(page.getByRole('row', { name: 'Exhibit drawings' })).toContainText('23 Nov – 7 Dec');
  await openPlace(page, 'My desk');
  await expect(page.getByRole('button', { name: /Exhibit drawings/ }).first()).toBeVisible();
});

test('a member cannot pass a gate that is not clear, and is told why', async ({ page, world }) => {
  await world.enterAs(page, 'Noor Haddad');
  await openPlace(page, 'Handoffs');
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  const sheet = page.getByRole('complementary', { name: 'Handoff' });
  await expect(sheet).toContainText('Clear the gate, or ask a lead to let it pass.');
  await expect(sheet.getByRole('button', { name: 'Hand off Concept' })).toBeDisabled();
});
