import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

const server = `http://127.0.0.1:${process.env['CORK_EMBER_PORT'] ?? '4180'}`;

export default defineConfig({
  root: import.meta.dirname,
  plugins: [
    react({ jsxImportSource: '@cork-ember/web' }),
    tailwindcss(),
    // The whole program is kept by the browser, so that a page opens with the server away; what the shop says never is.
    VitePWA({
      registerType: 'prompt',
      injectRegister: null,
      manifest: {
        name: 'Cork Ember',
        short_name: 'Cork Ember',
        display: 'standalone',
        background_color: '#f6f0e6',
        theme_color: '#241e1a',
        icons: [{ src: 'ember.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
      },
    }),
  ],
  server: { proxy: { '/api': server } },
  build: { outDir: 'dist', emptyOutDir: true, manifest: true },
});
