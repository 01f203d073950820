import { defineConfig } from 'vite';

/** The page's script and style, into `dist`, with a manifest that the server reads. */
export default defineConfig({
  root: import.meta.dirname,
  build: {
    manifest: true,
    target: 'es2022',
    modulePreload: { polyfill: false },
    // A strict content security policy lets no address of data through.
    assetsInlineLimit: 0,
    rollupOptions: { input: 'client/main.ts' },
  },
});
