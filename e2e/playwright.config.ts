import { defineConfig } from '@playwright/test';

/** A Bistre for each worker: walks change the shop, and two at once must not meet in one. */
const addresses = (process.env.BISTRE_URL ?? '').split(',');
const mine = addresses[Number(process.env.TEST_PARALLEL_INDEX ?? 0) % addresses.length];

export default defineConfig({
  testDir: './tests',
  timeout: 90_000,
  expect: { timeout: 15_000 },
  workers: addresses.length,
  retries: 0,
  outputDir: '../test-results',
  reporter: process.env.BISTRE_JSON ? [['list'], ['json', { outputFile: process.env.BISTRE_JSON }]] : [['list']],
  use: {
    baseURL: mine,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: process.env.BISTRE_CHROMIUM ?? '/usr/bin/chromium',
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
