import { defineConfig } from '@playwright/test';

/** The stories users live, in Debian's Chromium, each on a server and a database of its own. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 300_000,
  expect: { timeout: 20_000 },
  fullyParallel: true,
  workers: 2,
  retries: 0,
  reporter: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ? [['list'], ['json']] : [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    actionTimeout: 30_000,
    // Colours change at once, as for everybody who asked for less motion: what is looked at is never half way there.
    contextOptions: { reducedMotion: 'reduce' },
    // A failure leaves the page as it was in words and as a picture; the whole way there is recorded when it is asked for, since that costs a fifth.
    trace: process.env['CREW_TRACE'] === 'on' ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      chromiumSandbox: false,
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
