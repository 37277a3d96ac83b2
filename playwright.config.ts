import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  // The scenario is read in and sent once a lane; every file starts from a copy of it.
  globalSetup: './e2e/seed-once.ts',
  // Far longer than anything takes: a busy machine is no fault of the application's.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  workers: 2,
  // A file is one story on one demo of its own; where the machine itself stalls, it is told once more from the start,
  // and said to be flaky.
  retries: process.env.CI ? 1 : 0,
  fullyParallel: false,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    navigationTimeout: 60_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
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
