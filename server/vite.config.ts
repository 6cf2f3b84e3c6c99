import { defineConfig } from 'vite';

/** Left where npm put them: machine code, files they read beside themselves, parts they load by name. */
const APART = [
  '@node-rs/argon2',
  'sqlite3',
  'serialport',
  'sharp',
  'pdfkit',
  'sequelize',
  'umzug',
  'pino',
  'pino-http',
];

/** One file for the server, packages and all, and one for what is drawn beside it: hundreds of small files would take longer to open than to run. */
export default defineConfig({
  root: import.meta.dirname,
  ssr: { noExternal: true, external: APART },
  build: {
    ssr: true,
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    // Sheets of tags are drawn, and bays looked after, in processes of their own, each a file of its own.
    rollupOptions: {
      input: ['src/main.ts', 'src/documents/drawLabels.ts', 'src/bench/benchProcess.ts'],
      output: { chunkFileNames: 'assets/[name]-[hash].js' },
    },
  },
});
