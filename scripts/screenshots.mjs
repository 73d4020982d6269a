import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import pg from 'pg';
import { dropDatabase, ensureDatabase, freePort, projectRoot, startCluster } from './cluster.mjs';
import { TEST_TODAY } from './test-databases.mjs';

/** Takes the README's pictures anew from a fresh demo world. Build first. */

const FLAGS = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
const cluster = await startCluster({ name: 'test-database', isThrowaway: true });
await dropDatabase(cluster, 'pictures');
await ensureDatabase(cluster, 'pictures');
const port = await freePort();
const env = {
  ...process.env,
  CREW_DATABASE_URL: cluster.url('pictures'),
  CREW_FILES: join(projectRoot, '.data/files/pictures'),
  CREW_PORT: String(port),
  CREW_SESSION_SECRET: 'for pictures only',
  CREW_DEMO: 'on',
  CREW_QUIET: 'on',
  DEMO_TODAY: TEST_TODAY,
  CREW_WEB_ROOT: join(projectRoot, 'apps/web/dist'),
};
spawnSync(process.execPath, ['apps/server/dist/prepare.js'], { cwd: projectRoot, env, stdio: 'inherit' });
await closeHints(env.CREW_DATABASE_URL);
const server = spawn(process.execPath, ['apps/server/dist/main.js'], { cwd: projectRoot, env, stdio: 'inherit' });
const address = `http://127.0.0.1:${port}`;
while (!(await fetch(`${address}/api/health`).catch(() => null))?.ok) await new Promise((resolve) => setTimeout(resolve, 200));

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', chromiumSandbox: false, args: FLAGS });

/** The pictures show the work, not what is said about it on the first day. */
async function closeHints(connectionString) {
  const client = new pg.Client({ connectionString });
  await client.connect();
  await client.query(
    `UPDATE account SET closed_hints = '{desk,demo,word-track,word-baton,word-gate,word-packet,word-round,word-state-line,word-slack,word-likely}'`,
  );
  await client.end();
}

async function shoot(name, { as, path, act, ...context }) {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', ...context })).newPage();
  await page.goto(`${address}/sign-in`);
  if (as !== undefined) {
    await page.getByRole('button', { name: new RegExp(`^${as}`) }).click();
    await page.waitForURL((url) => !url.pathname.includes('sign-in'));
    await page.goto(`${address}${path}`);
  }
  await page.waitForLoadState('networkidle');
  if (act !== undefined) await act(page);
  await page.waitForLoadState('networkidle');
  await page.screenshot({ path: join(projectRoot, 'docs/screenshots', `${name}.png`) });
  await page.context().close();
  console.log(`  ${name}.png`);
}

const openLink = (name) => (page) => page.getByRole('link', { name }).click();

try {
  await shoot('engagements', { as: 'Odalys', path: '/engagements' });
  await shoot('plan', {
    as: 'Odalys',
    path: '/engagements',
    act: async (page) => {
      await openLink('Keepers’ Quarters gallery')(page);
      await page.getByText('Accessibility read-through').click();
      await page.getByRole('complementary', { name: 'Task' }).getByLabel('Title').waitFor();
    },
  });
  await shoot('timeline', {
    as: 'Odalys',
    path: '/engagements',
    act: async (page) => {
      await openLink('Keepers’ Quarters gallery')(page);
      await page.getByRole('radio', { name: 'Timeline' }).click();
      await page.getByRole('treegrid', { name: 'Phases and tasks' }).waitFor();
    },
  });
  await shoot('map', {
    as: 'Odalys',
    path: '/templates',
    act: async (page) => {
      await openLink('Audio trail')(page);
      await page.getByRole('radio', { name: 'Map' }).click();
      await page.locator('.react-flow__node').filter({ hasText: 'Walk the site' }).click();
      // The drawing settles into the window once its boxes are measured.
      await page.waitForTimeout(600);
    },
  });
  await shoot('calendar', { as: 'Odalys', path: '/calendar' });
  await shoot('start', {
    as: 'Odalys',
    path: '/templates',
    act: async (page) => {
      await openLink('Permanent gallery')(page);
      await openLink('Start an engagement with this')(page);
      await page.getByRole('heading', { name: 'Start an engagement' }).waitFor();
      await page
        .getByRole('button', { name: /Client/ })
        .first()
        .click();
      await page.getByRole('option', { name: 'Pellworth Tram Museum' }).click();
      await page.getByLabel('First day').fill('2027-01-11');
      await page.getByText('Mon 7 Jun 2027').waitFor();
    },
  });
  await shoot('template', {
    as: 'Odalys',
    path: '/templates',
    act: async (page) => {
      await openLink('Permanent gallery')(page);
      await page.getByRole('textbox', { name: 'Name of the template' }).waitFor();
    },
  });
  await shoot('mail', { as: 'Odalys', path: '/mail/sent' });
  await shoot('handoffs', {
    as: 'Odalys',
    path: '/handoffs',
    act: async (page) => {
      await openLink('Depot audio trail')(page);
      await page.getByText('If it is picked up today').waitFor();
    },
  });
  await shoot('workload', {
    as: 'Odalys',
    path: '/workload',
    act: async (page) => {
      await page.getByRole('button', { name: /^Mirela/ }).click();
      const proposals = page.getByRole('group', { name: 'Proposals for Mirela Stoyan' });
      for (const place of [0, 1]) await proposals.getByRole('checkbox').nth(place).check({ force: true });
      await page.getByText('Mirela, over in the next 120 days').waitFor();
    },
  });
  await shoot('desk', { as: 'Mirela', path: '/desk' });
  await shoot('time', { as: 'Mirela', path: '/time?day=2026-11-20' });
  await shoot('forecast', {
    as: 'Odalys',
    path: '/engagements',
    act: async (page) => {
      await openLink('Keepers’ Quarters gallery')(page);
      await page.getByRole('button', { name: /^likely .*, safe [^(]*$/ }).click({ timeout: 30_000 });
      await page
        .getByRole('img', { name: /^Share of runs/ })
        .locator('svg')
        .waitFor();
    },
  });
  await shoot('speed', {
    as: 'Odalys',
    path: '/handoffs/speed',
    act: async (page) => {
      await page.getByRole('button', { name: /^Media producer, 2026-11/ }).click();
      await page.getByRole('region', { name: 'Handoffs behind the numbers' }).getByRole('row').nth(1).waitFor();
    },
  });
  await shoot('history', { as: 'Odalys', path: '/history', act: (page) => page.getByRole('button', { name: /more$/ }).first().click() });
  await shoot('rules', {
    as: 'Odalys',
    path: '/handoffs/rules',
    act: async (page) => {
      await page.getByRole('link', { name: /When the client has answered a task/ }).click();
      await page
        .getByText(/^Tell /)
        .first()
        .waitFor();
    },
  });
  await shoot('client', { as: 'Freya', path: '/project' });
  await shoot('dark', { as: 'Odalys', path: '/workload/week', colorScheme: 'dark' });
  await shoot('phone', { as: 'Mirela', path: '/desk', viewport: { width: 360, height: 740 } });
} finally {
  await browser.close();
  const ended = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGTERM');
  await ended;
  cluster.stop();
}
