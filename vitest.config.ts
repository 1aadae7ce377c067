import vue from '@vitejs/plugin-vue';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import components from 'unplugin-vue-components/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  // Parts of the page are mounted as they are built, but for their style.
  plugins: [
    vue(),
    components({ dts: false, dirs: [], resolvers: [ElementPlusResolver({ importStyle: false })] }),
  ],
  test: {
    include: [
      'packages/*/src/**/*.test.ts',
      'packages/*/test/**/*.test.ts',
      'bench/src/**/*.test.ts',
      'tests/registries/*.test.ts',
      'tests/faults/*.test.ts',
    ],
    environment: 'node',
    setupFiles: ['tests/requestedBy.ts'],
    // Against a test that hangs, not a measure of speed: the slowest machine seen took ten times what is usual.
    testTimeout: 240_000,
    hookTimeout: 240_000,
    // What is compiled for one file serves the next: nothing in core holds state that a test could see.
    isolate: false,
    // Server tests start real servers, each with threads of its own.
    maxWorkers: 2,
  },
});
