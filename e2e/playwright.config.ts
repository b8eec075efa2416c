import { defineConfig } from '@playwright/test';
import { launchOptions } from './browsers';

const common = { launchOptions, locale: 'en-IE', timezoneId: 'Europe/Dublin' };

/**
 * The real interface over the demo, at a phone's size and at a wide one; each size has a demo of its own.
 * What is the same at every size, or needs a finger or a mouse, is tagged with the one size it runs at.
 */
export default defineConfig({
  testDir: '.',
  // Only so that what hangs ends: a machine may be slow, or busy.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  globalSetup: './begin.ts',
  fullyParallel: false,
  workers: 2,
  forbidOnly: Boolean(process.env['CI']),
  retries: 1,
  // What passes only at the second try has failed.
  failOnFlakyTests: true,
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  outputDir: '../test-results/e2e',
  // A test that fails runs once more with a trace: one of everything costs an eighth of the time.
  // Where a worker stands between the page and the server, a test sees nothing of what is asked for.
  use: {
    serviceWorkers: 'block',
    trace: 'on-first-retry',
    screenshot: 'only-on-failure',
  },
  projects: [
    {
      name: 'phone',
      grepInvert: /@wide/,
      use: { ...common, viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true },
    },
    { name: 'wide', grepInvert: /@phone/, use: { ...common, viewport: { width: 1280, height: 800 } } },
  ],
});
