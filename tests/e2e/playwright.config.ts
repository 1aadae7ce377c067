import { defineConfig } from '@playwright/test';

const FIRST = /(series|pass)\.spec\.ts$/;

export default defineConfig({
  testDir: '.',
  // Against a test that hangs, not a measure of speed.
  timeout: 300_000,
  expect: { timeout: 40_000 },
  // Most of the time a test waits; each worker has an application of its own.
  workers: 2,
  fullyParallel: false,
  // The longest begins first, and what needs a database of its own: at the end it would run alone.
  projects: [
    { name: 'first', testMatch: FIRST },
    { name: 'side by side', testIgnore: FIRST },
  ],
  reporter: [['list'], ['json']],
  outputDir: '../../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    screenshot: 'only-on-failure',
    // Every click waits until what moves stands still. Three specs (pass, views, hour) have motion, as most systems do.
    contextOptions: { reducedMotion: 'reduce' },
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
