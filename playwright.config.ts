import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** The browser without a window draws the same with a quarter less work; it also sets text as phones do, by parts of a pixel. */
const chromium = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find(existsSync);

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // Each worker has a server of its own (e2e/test.ts); the tests of a file take turns.
  workers: 2,
  fullyParallel: false,
  // Two workers share two cores: a slow moment of one must not end the other.
  timeout: 120_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  outputDir: 'test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    // Recording every step takes a third of the time; TRACE=1 asks for it.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    // The worker that keeps pages for a time without network would answer in place of the tests; one test asks for it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? chromium ?? '/usr/bin/chromium',
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
