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

/** One door to all they hold: who comes through it needs little of it. */
const BARRELS = /node_modules\/(lucide-react|date-fns|d3-array)\//;

/** Whether something needs a module: whether it is it, or imports it at once, or something that does. */
function neededBy(
  isIt: (id: string, graph: ModuleGraph) => boolean,
): (id: string, graph: ModuleGraph) => boolean {
  const known = new Map<string, boolean>();
  const isNeeded = (id: string, graph: ModuleGraph): boolean => {
    const before = known.get(id);
    if (before !== undefined) return before;
    // A circle of modules leads nowhere by itself.
    known.set(id, false);
    const importers = graph.getModuleInfo(id)?.importers ?? [];
    const is = isIt(id, graph) || importers.some((importer) => isNeeded(importer, graph));
    known.set(id, is);
    return is;
  };
  return isNeeded;
}

const isFirst = neededBy((id, graph) => graph.getModuleInfo(id)?.isEntry === true);

/** What a page works the bench out with, once it is drawn. */
const isReckoning = neededBy((id) => id.endsWith('/web/src/api/reckoned.ts'));

/** In two files they pack smaller than in the forty pieces that later views share. */
function partFor(id: string, graph: ModuleGraph): string | null {
  if (BARRELS.test(id)) return null;
  if (isFirst(id, graph)) return 'first';
  return isReckoning(id, graph) ? 'reckoned' : null;
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
        codeSplitting: { groups: [{ name: partFor }] },
      },
    },
  },
});
