import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['packages/*/src/**/*.test.ts', 'packages/*/test/**/*.test.ts', 'bench/src/**/*.test.ts'],
    environment: 'node',
    // Against a test that hangs, not a measure of speed: the slowest machine seen took ten times what is usual.
    testTimeout: 240_000,
    hookTimeout: 240_000,
    // Server tests start real servers, each with threads of its own.
    maxWorkers: 2,
  },
});
