import vue from '@vitejs/plugin-vue';
import components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import type { Plugin } from 'vite';
import { defineConfig } from 'vite';

/** The isolation that shared memory needs, as the server sends it too. */
const ISOLATION = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
};

/** Has the stage that shows a picture asked for with the page, not once its code runs: a picture opens sooner by that. */
const preloadStage: Plugin = {
  name: 'preload-stage',
  transformIndexHtml: {
    order: 'post',
    handler: (_html, { bundle }) =>
      Object.values(bundle ?? {})
        .filter((file) => file.type === 'chunk' && file.name === 'PictureStage')
        .map(({ fileName }) => ({
          tag: 'link',
          attrs: { rel: 'modulepreload', crossorigin: true, href: `/${fileName}` },
          injectTo: 'head',
        })),
  },
};

/** The server that a page in the making talks to. */
const SERVER = 'http://127.0.0.1:8420';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue(), components({ dts: false, dirs: [], resolvers: [ElementPlusResolver()] }), preloadStage],
  worker: { format: 'es' },
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 1200,
    // A few large files come sooner than fifty small ones; what a picture's first view does not need has its own.
    cssCodeSplit: false,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            {
              name: 'framework',
              test: /node_modules[\\/](@?vue|vue-router|pinia|@intlify|comlink|@vueuse|flatbush|flatqueue)[\\/]/,
            },
            {
              name: 'widgets',
              test: /node_modules[\\/](@?element-plus|@popperjs|@ctrl|lodash-(es|unified)|@tanstack|d3-[a-z]+|dayjs|async-validator)[\\/].*(?<!\.css)$/,
            },
          ],
        },
      },
    },
  },
  server: {
    headers: ISOLATION,
    proxy: {
      '/api': {
        target: SERVER,
        changeOrigin: true,
        // The server takes changes from its own page alone; this one stands for it.
        configure: (proxy) => {
          proxy.on('proxyReq', (request) => {
            if (request.getHeader('origin')) request.setHeader('origin', SERVER);
          });
        },
      },
    },
  },
});
