import { defineConfig } from 'vite';

/** Left where npm put them: machine code, files they read beside themselves, parts they load by name. */
const APART = ['@node-rs/argon2', 'sqlite3', 'sharp', 'pdfkit', 'sequelize', 'umzug', 'pino', 'pino-http'];

/** One file for the server, packages and all, and one for what is drawn beside it: hundreds of small files would take longer to open than to run. */
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: true, external: APART },
  build: {
    ssr: true,
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    // Sheets of tags are drawn in a process of their own, which is a file of its own.
    rollupOptions: {
      input: ['src/main.ts', 'src/documents/drawLabels.ts'],
      output: { chunkFileNames: 'assets/[name]-[hash].js' },
    },
  },
});
