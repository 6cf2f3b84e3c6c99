import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const server = `http://127.0.0.1:${process.env['CORK_EMBER_PORT'] ?? '4180'}`;

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react({ jsxImportSource: '@cork-ember/web' }), tailwindcss()],
  server: { proxy: { '/api': server } },
  build: { outDir: 'dist', emptyOutDir: true, manifest: true },
});
