import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  // Against a test that hangs, not a measure of speed.
  timeout: 300_000,
  expect: { timeout: 40_000 },
  workers: 1,
  fullyParallel: false,
  reporter: [['list'], ['json']],
  outputDir: '../../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
