import { defineConfig } from '@playwright/test';
import { browserPath } from './scripts/parts/machine.mjs';

/** The real app on a PostgreSQL of its own, in Debian's Chromium. */
export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // Each has a server and a database of its own; one alone leaves half of two cores idle.
  workers: 2,
  // A shared machine may stall for a minute: what is waited for is a sign, and its bound is far off.
  retries: 0,
  timeout: 600_000,
  expect: { timeout: 120_000 },
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [['list'], ['json']] : [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: browserPath(),
      args: [
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
