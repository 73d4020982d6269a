import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from './fixtures.ts';

const SCREENS: readonly (readonly [string, string, string])[] = [
  ['tracks', '/engagements', 'Engagements'],
  ['finished tracks', '/engagements?show=finished', 'Engagements'],
  ['start', '/engagements/start', 'Start an engagement'],
  ['templates', '/templates', 'Templates'],
  ['repeating work', '/engagements/repeating', 'Repeating work'],
  ['handoffs', '/handoffs', 'Handoffs'],
  ['rules', '/handoffs/rules', 'Rules'],
  ['a new rule', '/handoffs/rules?show=new', 'New rule'],
  ['runs of rules', '/handoffs/rules/runs', 'Runs of rules'],
  ['workload', '/workload', 'Workload'],
  ['time', '/time', 'Time'],
  ['week', '/workload/week', 'Plan the week'],
  ['desk', '/desk', 'My desk'],
  ['crew', '/crew', 'Crew'],
  ['calendar', '/calendar', 'Calendar'],
  ['history', '/history', 'History'],
  ['settings', '/settings', 'Settings'],
];

/** What stands in somebody's way: everything in the light; in the dark, which changes colours alone, what cannot be told apart. */
async function faultsOf(page: Page): Promise<string[]> {
  const light = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
  await page.emulateMedia({ colorScheme: 'dark' });
  const dark = await new AxeBuilder({ page }).withRules(['color-contrast']).analyze();
  await page.emulateMedia({ colorScheme: 'light' });
  return [...light.violations, ...dark.violations.map((fault) => ({ ...fault, id: `in the dark ${fault.id}` }))].map(
    (fault) =>
      `${fault.id}: ${fault.nodes
        .map((node) => `${node.target.join(' ')} — ${node.failureSummary ?? ''}`)
        .slice(0, 3)
        .join(' | ')}`,
  );
}

async function isWiderThanWindow(page: Page): Promise<boolean> {
  return page.evaluate(() => document.documentElement.scrollWidth > document.documentElement.clientWidth + 1);
}

test('every screen passes the accessibility check, in the light and the dark theme', async ({ page, world }) => {
  await page.goto(`${world.url}/sign-in`);
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  expect(await faultsOf(page), 'sign-in').toEqual([]);
  await world.enterAs(page, 'Odalys Renn');
  for (const [name, path, heading] of SCREENS) {
    await page.goto(`${world.url}${path}`);
    await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible();
    await page.waitForLoadState('networkidle');
    expect(await faultsOf(page), name).toEqual([]);
  }
});

test('sheets and dialogs pass the accessibility check, in the light and the dark theme', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/engagements/repeating?show=start`);
  await expect(page.getByRole('complementary', { name: 'New repeating work' }).getByText(/Every Monday:/)).toBeVisible();
  expect(await faultsOf(page), 'a start of repeating work').toEqual([]);
  await page.getByRole('link', { name: 'Spring talk kits' }).click();
  await page.getByRole('button', { name: 'Change pace…' }).click();
  await page.getByRole('complementary', { name: 'Change pace' }).getByRole('textbox', { name: 'How many' }).fill('3');
  await expect(page.getByRole('img', { name: /hours a week from/ }).locator('svg')).toBeVisible();
  expect(await faultsOf(page), 'another pace').toEqual([]);
  await page.goto(`${world.url}/engagements`);
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await page.getByRole('row', { name: 'Concept boards' }).getByText('Concept boards').click();
  await expect(page.getByRole('complementary', { name: 'Task' }).getByLabel('Title')).toBeVisible();
  expect(await faultsOf(page), 'plan with a task').toEqual([]);
  await page.getByRole('button', { name: 'Hand off Concept…' }).click();
  await expect(page.getByRole('complementary', { name: 'Handoff' })).toContainText('What goes along');
  expect(await faultsOf(page), 'plan with a handoff').toEqual([]);
  await page.goto(`${world.url}/templates`);
  const template = await page.getByRole('link', { name: 'Audio trail' }).getAttribute('href');
  for (const view of ['outline', 'map', 'list']) {
    await page.goto(`${world.url}${template}?view=${view}`);
    await expect(page.getByRole('textbox', { name: 'Name of the template' })).toBeVisible();
    await page.waitForLoadState('networkidle');
    expect(await faultsOf(page), `template as ${view}`).toEqual([]);
  }
  await page.goto(`${world.url}/engagements`);
  await page.getByRole('link', { name: 'Keepers’ Quarters gallery' }).click();
  await page.getByRole('radio', { name: 'Timeline' }).click();
  await expect(page.getByRole('heading', { name: 'Keepers’ Quarters gallery' })).toBeVisible();
  await page.waitForLoadState('networkidle');
  expect(await faultsOf(page), 'timeline').toEqual([]);
  await page.getByRole('button', { name: /^Notices/ }).click();
  await expect(page.getByRole('dialog', { name: 'Notices' }).getByRole('button', { name: 'Choose notices' })).toBeVisible();
  expect(await faultsOf(page), 'notices').toEqual([]);
  await page.goto(`${world.url}/crew`);
  await page.getByRole('button', { name: 'Invite…' }).click();
  await page.getByRole('button', { name: 'Invite', exact: true }).click();
  await expect(page.getByText(/^Write the mail address, like/)).toBeVisible();
  expect(await faultsOf(page), 'crew with an empty form').toEqual([]);
});

test('at 360 px no screen is wider than the window and the bar is at the foot', async ({ browser, world }) => {
  const page = await (await browser.newContext({ viewport: { width: 360, height: 740 } })).newPage();
  await world.enterAs(page, 'Odalys Renn');
  for (const [name, path, heading] of SCREENS) {
    await page.goto(`${world.url}${path}`);
    await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible();
    await page.waitForLoadState('networkidle');
    expect(await isWiderThanWindow(page), name).toBe(false);
  }
  const bar = await page.getByRole('navigation', { name: 'Main' }).boundingBox();
  expect(bar?.y).toBeGreaterThan(600);
});

test('an unknown address and a thing of somebody else each show a message', async ({ page, world }) => {
  await world.enterAs(page, 'Odalys Renn');
  await page.goto(`${world.url}/engagements/00000000-0000-4000-8000-000000000000`);
  await expect(page.getByRole('alert')).toContainText('There is no engagement here');
});
