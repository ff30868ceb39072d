import { defineConfig } from 'vite';

/** The service worker: a file of its own under a name that stays, beside the page that `vite.config.ts` builds. */
export default defineConfig({
  define: { 'process.env.NODE_ENV': '"production"' },
  build: {
    target: 'es2022',
    emptyOutDir: false,
    copyPublicDir: false,
    lib: { entry: 'src/worker/sw.ts', formats: ['es'], fileName: () => 'sw.js' },
  },
});
