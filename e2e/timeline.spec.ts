import type { Locator, Page } from '@playwright/test';
import { expect, test, type World } from './fixtures.ts';

const GALLERY = 'Keepers’ Quarters gallery';

async function openPlan(page: Page, world: World, view: 'Outline' | 'Timeline'): Promise<void> {
  await world.enterAs(page, 'Odalys Renn');
  await page.getByRole('link', { name: GALLERY }).click();
  await expect(page.getByRole('heading', { name: GALLERY })).toBeVisible();
  if (view === 'Timeline') {
    await page.getByRole('radio', { name: 'Timeline' }).click();
    await expect(page.getByRole('treegrid', { name: 'Phases and tasks' })).toBeVisible();
  }
}

const line = (page: Page, name: RegExp): Locator => page.getByRole('row', { name });
const days = async (page: Page, name: RegExp): Promise<string> =>
  (await line(page, name).getByRole('gridcell').getAttribute('aria-label')) ?? '';

/** The bar of the task on a row: the drawing has no names of its own, its rows do. */
async function barOf(page: Page, title: string): Promise<Locator> {
  const row = line(page, new RegExp(`^${title}`));
  await row.scrollIntoViewIfNeeded();
  const box = await row.boundingBox();
  const bars = page.locator('svg g[data-task]');
  for (let place = 0; place < (await bars.count()); place++) {
    const bar = await bars.nth(place).boundingBox();
    if (bar !== null && box !== null && bar.y > box.y - 3 && bar.y + bar.height < box.y + box.height + 6) return bars.nth(place);
  }
  throw new Error(`no bar on the row of ${title}`);
}

async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
}

test('a bar is dragged, what would move is shown, it is applied and undone', async ({ page, world }) => {
  await openPlan(page, world, 'Timeline');
  const before = await days(page, /^Exhibit drawings/);
  const follower = await days(page, /^Object mounts list/);
  const bar = await (await barOf(page, 'Exhibit drawings')).boundingBox();
  if (bar === null) throw new Error('no bar');
  const middle = { x: bar.x + bar.width / 2, y: bar.y + bar.height / 2 };
  // Seven calendar days at this zoom.
  await drag(page, middle, { x: middle.x + 7 * 12.5, y: middle.y });
  const panel = page.getByRole('complementary', { name: 'What would change' });
  await expect(panel.getByRole('heading', { name: 'If “Exhibit drawings” starts 5 days later' })).toBeVisible();
  await expect(panel).toContainText('tasks move');
  await expect(panel).toContainText('Promise 19 Feb 2027');
  expect(await days(page, /^Exhibit drawings/)).toBe(before);

  await panel.getByRole('button', { name: 'Apply' }).click();
  const notices = page.getByRole('status', { name: 'Messages' });
  await expect(notices).toContainText('tasks moved');
  await expect.poll(() => days(page, /^Exhibit drawings/)).not.toBe(before);
  await expect.poll(() => days(page, /^Object mounts list/)).not.toBe(follower);
  await notices.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => days(page, /^Exhibit drawings/)).toBe(before);
  await expect.poll(() => days(page, /^Object mounts list/)).toBe(follower);
});

test('a cancelled drag leaves the plan as it is; a bar fixed to its date stays there', async ({ page, world }) => {
  await openPlan(page, world, 'Timeline');
  const before = await days(page, /^Panel copy, all rooms/);
  await line(page, /^Panel copy, all rooms/).focus();
  await page.keyboard.press('Alt+ArrowRight');
  const panel = page.getByRole('complementary', { name: 'What would change' });
  await expect(panel).toContainText('starts 1 day later');
  await panel.getByRole('button', { name: 'Cancel' }).click();
  await expect(panel).toHaveCount(0);
  expect(await days(page, /^Panel copy, all rooms/)).toBe(before);

  await line(page, /^Panel copy, all rooms/).focus();
  await page.keyboard.press('Alt+ArrowRight');
  await page.keyboard.press('Alt+ArrowRight');
  await panel.getByRole('button', { name: 'Fix to this date' }).click();
  await expect(panel).toContainText('It would be fixed there');
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect.poll(() => days(page, /^Panel copy, all rooms/)).toContain('on a fixed day');
});

test('a dependency is drawn from one bar to another, and one that closes a loop is refused by name', async ({ page, world }) => {
  await openPlan(page, world, 'Timeline');
  const dependency = async (from: string, to: string): Promise<void> => {
    // Both are brought into view before either is measured.
    const bars = [await barOf(page, from), await barOf(page, to)] as const;
    const [source, target] = [await bars[0].boundingBox(), await bars[1].boundingBox()];
    if (source === null || target === null) throw new Error('no bar');
    await page.mouse.move(source.x + source.width / 2, source.y + 8);
    await drag(page, { x: source.x + source.width + 9, y: source.y + source.height / 2 }, { x: target.x + 4, y: target.y + 8 });
  };
  const panel = page.getByRole('complementary', { name: 'What would change' });
  await dependency('Graphic system and panel layouts', 'Sound design');
  await expect(panel.getByRole('heading', { name: 'If “Sound design” waits for “Graphic system and panel layouts”' })).toBeVisible();
  await panel.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('status', { name: 'Messages' })).toContainText('Saved.');
  await expect(panel).toHaveCount(0);
  await dependency('Sound design', 'Graphic system and panel layouts');
  await expect(panel.getByRole('alert')).toContainText(
    /These wait on each other: (Sound design → Graphic system and panel layouts → Sound design|Graphic system and panel layouts → Sound design → Graphic system and panel layouts)/,
  );
  await expect(panel.getByRole('button', { name: 'Apply' })).toBeDisabled();
});

test('several tasks are chosen with Shift, moved together, and undone together', async ({ page, world }) => {
  await openPlan(page, world, 'Outline');
  const when = (title: string) => page.getByRole('row', { name: title, exact: true }).getByRole('button', { name: /^When/ });
  const titles = ['Exhibit drawings', 'Graphic system and panel layouts', 'Panel copy, all rooms'];
  const before = await Promise.all(titles.map((title) => when(title).innerText()));
  await page.getByRole('row', { name: 'Exhibit drawings', exact: true }).getByText('Exhibit drawings').click();
  await expect(page.getByRole('complementary', { name: 'Task' })).toBeVisible();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  const chosen = page.getByRole('complementary', { name: 'Selected tasks' });
  await expect(chosen.getByRole('heading', { name: '3 tasks selected' })).toBeVisible();
  await chosen.getByLabel('Move by working days').getByRole('textbox').fill('4');
  await chosen.getByLabel('Move by working days').getByRole('button', { name: 'Preview' }).click();
  const panel = page.getByRole('complementary', { name: 'What would change' });
  await expect(panel).toContainText('If these 3 tasks move by 4 working days');
  await expect(panel).toContainText('tasks move');
  await panel.getByRole('button', { name: 'Apply' }).click();
  for (const [place, title] of titles.entries()) await expect(when(title)).not.toHaveText(before[place] as string);
  await page.getByRole('status', { name: 'Messages' }).getByRole('button', { name: 'Undo' }).click();
  for (const [place, title] of titles.entries()) await expect(when(title)).toHaveText(before[place] as string);
});

test('a task becomes a part of another by dragging and by keys, and is moved out again', async ({ page, world }) => {
  await openPlan(page, world, 'Outline');
  const row = (title: string) => page.getByRole('row', { name: title, exact: true });
  await row('Sound design').scrollIntoViewIfNeeded();
  await row('Sound design').dragTo(row('Exhibit drawings'), { sourcePosition: { x: 240, y: 15 }, targetPosition: { x: 240, y: 16 } });
  // It moves others: that is seen first.
  const panel = page.getByRole('complementary', { name: 'What would change' });
  const apply = async (): Promise<void> => {
    await panel.getByRole('button', { name: 'Apply' }).click();
    await expect(panel).toHaveCount(0);
  };
  await expect(panel).toContainText('If “Sound design” moves there');
  await apply();
  await expect(row('Exhibit drawings')).toHaveAttribute('aria-expanded', 'true');
  await expect(row('Sound design')).toHaveAttribute('aria-level', '3');

  await row('Sound design').getByText('Sound design').click();
  await page.keyboard.press('Alt+ArrowLeft');
  await apply();
  await expect(row('Sound design')).toHaveAttribute('aria-level', '2');
  await expect(row('Exhibit drawings')).not.toHaveAttribute('aria-expanded', 'true');
  await row('Sound design').getByText('Sound design').click();
  await page.keyboard.press('Alt+ArrowRight');
  await apply();
  await expect(row('Sound design')).toHaveAttribute('aria-level', '3');
});

test('an undo reverts the move and leaves what somebody else changed meanwhile', async ({ page, world, browser }) => {
  await openPlan(page, world, 'Timeline');
  await line(page, /^Sound design/).focus();
  await page.keyboard.press('Alt+ArrowRight');
  const panel = page.getByRole('complementary', { name: 'What would change' });
  await expect(panel).toContainText('starts 1 day later');
  await panel.getByRole('button', { name: 'Apply' }).click();
  const notices = page.getByRole('status', { name: 'Messages' });
  await expect(notices.getByRole('button', { name: 'Undo' })).toBeVisible();

  // A notice stays as long as the pointer is on it.
  await notices.getByRole('button', { name: 'Undo' }).hover();

  const other = await (await browser.newContext()).newPage();
  await world.enterAs(other, 'Bastien Okoro');
  await other.getByRole('link', { name: GALLERY }).click();
  await other.getByRole('row', { name: 'Sound design', exact: true }).getByText('Sound design').click();
  const title = other.getByRole('complementary', { name: 'Task' }).getByLabel('Title');
  await title.fill('Sound design, fog signal');
  await title.press('Enter');
  await expect(other.getByRole('status', { name: 'Messages' })).toContainText('saved');
  await other.context().close();

  await notices.getByRole('button', { name: 'Undo' }).click();
  await expect(notices).toContainText('Undone.');
  const moved = line(page, /^Sound design, fog signal/);
  await expect(moved).toBeVisible();
  await moved.focus();
  await page.keyboard.press('Alt+ArrowRight');
  // It begins where it began at first, so a day later is once more one day later.
  await expect(panel).toContainText('starts 1 day later');
});
