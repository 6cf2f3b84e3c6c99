import { defineConfig } from 'vite';

/** Left where npm put them: machine code, files they read beside themselves, parts they load by name. */
const APART = ['@node-rs/argon2', 'sqlite3', 'sharp', 'pdfkit', 'sequelize', 'umzug', 'pino', 'pino-http'];

/** One file for the server, packages and all: hundreds of small files would take longer to open than to run. */
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: true, external: APART },
  build: { ssr: 'src/main.ts', outDir: 'dist', emptyOutDir: true, target: 'node20' },
});
