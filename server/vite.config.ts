import { defineConfig } from 'vite';

/** One file for the server; packages stay where npm put them. */
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: ['@cork-ember/core'] },
  build: { ssr: 'src/main.ts', outDir: 'dist', emptyOutDir: true, target: 'node20' },
});
