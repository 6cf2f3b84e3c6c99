import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

const server = `http://127.0.0.1:${process.env['CORK_EMBER_PORT'] ?? '4180'}`;

interface ModuleGraph {
  readonly getModuleInfo: (
    id: string,
  ) => { readonly isEntry: boolean; readonly importers: readonly string[] } | null;
}

const first = new Map<string, boolean>();

/** One door to all they hold: who comes through it needs little of it. */
const BARRELS = /node_modules\/(lucide-react|date-fns|d3-array)\//;

/** Whether the first page needs a module: what it imports at once, and what that imports. */
function isFirst(id: string, graph: ModuleGraph): boolean {
  const known = first.get(id);
  if (known !== undefined) return known;
  // A circle of modules leads nowhere by itself.
  first.set(id, false);
  const info = graph.getModuleInfo(id);
  const is = info !== null && (info.isEntry || info.importers.some((importer) => isFirst(importer, graph)));
  first.set(id, is);
  return is;
}

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
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    manifest: true,
    rolldownOptions: {
      output: {
        // In one file it packs smaller than in the forty pieces that later views share.
        codeSplitting: {
          groups: [{ name: (id, graph) => (!BARRELS.test(id) && isFirst(id, graph) ? 'first' : null) }],
        },
      },
    },
  },
});
