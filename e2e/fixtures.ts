import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { cpSync, mkdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { test as base, expect, type Page } from '@playwright/test';
import pg from 'pg';

/** A server of its own over a fresh copy of the demo world. */
export interface World {
  readonly url: string;
  /** Signs a page in as one of the demo's people, by the one-click list. */
  readonly enterAs: (page: Page, name: string) => Promise<void>;
}

const root = join(import.meta.dirname, '..');

async function onServer(sql: string, connectionString = need('CREW_TEST_SERVER')): Promise<void> {
  // What hangs is told by name, not by the time limit of the story.
  const client = new pg.Client({ connectionString, connectionTimeoutMillis: 30_000, statement_timeout: 120_000 });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

function need(name: string): string {
  const value = process.env[name];
  if (value === undefined) throw new Error(`Run these by ./test browser: ${name} is missing.`);
  return value;
}

/** Reminders come by the time of day, in the midst of a story or not at all. */
const NO_REMINDERS = `UPDATE agency SET remind_hours = 0, remind_lead_hours = 0, remind_task_hours = 0, remind_task_lead_hours = 0,
  remind_client_hours = 0, remind_client_lead_hours = 0, remind_logging_hours = 0`;

/** In a story somebody knows the demo already; hints come back under Settings. */
const NO_HINTS = `UPDATE account SET closed_hints = '{desk,demo,word-track,word-baton,word-gate,word-packet,word-round,word-state-line,word-slack,word-likely}'`;

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

async function untilReady(url: string, server: ChildProcess): Promise<void> {
  for (let tries = 0; tries < 600; tries++) {
    if (server.exitCode !== null) throw new Error('The server ended before it was ready.');
    const answer = await fetch(`${url}/api/health`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('The server did not become ready.');
}

export const test = base.extend<{ world: World; startsEmpty: boolean; hasHints: boolean }>({
  /** Without the demo, as after `./start --empty`. */
  startsEmpty: [false, { option: true }],
  /** As the demo shows itself to somebody new. */
  hasHints: [false, { option: true }],
  world: async ({ startsEmpty, hasHints }, use) => {
    const database = `e2e_${randomUUID().replaceAll('-', '')}`;
    await onServer(
      `CREATE DATABASE ${database} TEMPLATE ${need(startsEmpty ? 'CREW_TEST_TEMPLATE' : 'CREW_DEMO_TEMPLATE')} STRATEGY file_copy`,
    );
    const url = new URL(need('CREW_TEST_SERVER'));
    url.pathname = `/${database}`;
    await onServer(NO_REMINDERS, url.href);
    if (!startsEmpty && !hasHints) await onServer(NO_HINTS, url.href);
    const files = join(need('CREW_FILES'), database);
    mkdirSync(files, { recursive: true });
    if (!startsEmpty) cpSync(join(need('CREW_FILES'), need('CREW_DEMO_TEMPLATE')), files, { recursive: true });
    const port = await freePort();
    const env = {
      ...process.env,
      CREW_DATABASE_URL: url.href,
      CREW_FILES: files,
      CREW_PORT: String(port),
      CREW_MAILBOX_PORT: '0',
      CREW_MAIL_IN_PORT: '0',
      CREW_SESSION_SECRET: 'for tests only',
      CREW_DEMO: startsEmpty ? 'off' : 'on',
      CREW_QUIET: 'on',
      CREW_WEB_ROOT: join(root, 'apps/web/dist'),
    };
    const server = spawn(process.execPath, [join(root, 'apps/server/dist/main.js')], { env, stdio: 'inherit' });
    const address = `http://127.0.0.1:${port}`;
    try {
      await untilReady(address, server);
      await use({
        url: address,
        enterAs: async (page, name) => {
          await page.goto(`${address}/sign-in`);
          await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
          await expect(page).not.toHaveURL(/sign-in/);
        },
      });
    } finally {
      const ended = new Promise((resolve) => server.once('exit', resolve));
      server.kill('SIGTERM');
      await ended;
      await onServer(`DROP DATABASE ${database} WITH (FORCE)`);
      rmSync(files, { recursive: true });
    }
  },
});

export { expect };

/** Signs out by the menu, as people do. */
export async function leave(page: Page): Promise<void> {
  await page.getByRole('button', { name: /your settings, sign out/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
}

/** Changes the status of a task where it stands in a list. */
export async function setStatus(page: Page, task: string, status: string): Promise<void> {
  await page.getByRole('button', { name: `Change the status of ${task}` }).click();
  await page.getByRole('menuitem', { name: status }).click();
}

/** Chooses from one of the kit's lists. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  const button = page.getByRole('button', { name: new RegExp(label) });
  // A list closes when the page under it scrolls: what brings the button into view is over a frame later.
  await button.hover();
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  await button.click();
  await page.getByRole('option', { name: option }).click();
}

/** Opens a place of the bar. The page left behind may have buttons of the same name: it is gone before one is pressed. */
export async function openPlace(page: Page, name: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Main' })
    .getByRole('link', { name: new RegExp(`^${name}`) })
    .click();
  await page.getByRole('heading', { level: 1, name, exact: true }).waitFor();
}

/** Opens a template from its list. */
export async function openTemplate(page: Page, name: string): Promise<void> {
  await openPlace(page, 'Templates');
  await page.getByRole('main').getByRole('link', { name, exact: true }).click();
  await page.getByRole('heading', { level: 1, name }).waitFor();
}
