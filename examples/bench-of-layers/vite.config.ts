import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  base: './',
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  worker: { format: 'es' },
  // It finds its own files beside itself.
  optimizeDeps: { exclude: ['@electric-sql/pglite'] },
});
