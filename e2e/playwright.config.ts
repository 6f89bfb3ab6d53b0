import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: './tests',
  // Plenty: on a busy machine everything takes three times as long, and a test that hangs hangs at one action.
  timeout: 600_000,
  expect: { timeout: 40_000 },
  workers: 1,
  retries: 0,
  outputDir: '../test-results',
  reporter: process.env.BISTRE_JSON ? [['list'], ['json', { outputFile: process.env.BISTRE_JSON }]] : [['list']],
  use: {
    baseURL: process.env.BISTRE_URL,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 40_000,
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
