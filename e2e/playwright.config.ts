import { defineConfig } from '@playwright/test';

/** The desks the stories are told at: one or, with commas between, several alike. */
const desks = (process.env['NOCK_URL'] ?? '').split(',');

export default defineConfig({
  testDir: '.',
  testMatch: '*.story.ts',
  outputDir: '../test-results',
  // A story tells of one desk and its one book: those of a desk come one after the other.
  workers: desks.length,
  fullyParallel: false,
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: desks[Number(process.env['TEST_PARALLEL_INDEX'] ?? 0) % desks.length],
    viewport: { width: 1280, height: 800 },
    trace: { mode: 'retain-on-failure', screenshots: false, snapshots: false },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
    },
  },
});
