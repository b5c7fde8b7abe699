import { defineConfig } from '@playwright/test';

/** The server is started by scripts/test.mjs, which sets BASE_URL. */
export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  fullyParallel: false,
  workers: 1,
  retries: 0,
  // A busy machine is slow, not wrong: a wait ends when what it waits for is there, and fails only far later.
  timeout: 300_000,
  expect: { timeout: 45_000 },
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  use: {
    baseURL: process.env.BASE_URL ?? 'http://127.0.0.1:4780',
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    acceptDownloads: true,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
