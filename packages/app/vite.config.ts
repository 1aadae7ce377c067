import vue from '@vitejs/plugin-vue';
import components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import { defineConfig } from 'vite';

/** The isolation that shared memory needs, as the server sends it too. */
const ISOLATION = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue(), components({ dts: false, dirs: [], resolvers: [ElementPlusResolver()] })],
  worker: { format: 'es' },
  build: { outDir: 'dist', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 1200 },
  server: { headers: ISOLATION, proxy: { '/api': 'http://127.0.0.1:8420' } },
});
