import '@fontsource-variable/commissioner/wght.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import '@fontsource/ibm-plex-mono/latin-600.css';
import './styles.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { askKnown } from './api/known.ts';
import { beginAlarms } from './alarms/alarms.ts';
import { beginIn } from './region/shopRegion.ts';
import { beginKeeping } from './api/keeping.ts';
import { queryClient } from './api/queries.ts';
import { beginOutbox } from './store/outbox.ts';
import { BenchPage } from './bench/BenchPage.tsx';
import { keepProgram } from './shell/program.ts';
import { Shell } from './shell/Shell.tsx';
import { Lost } from './ui/Lost.tsx';
import { ViewFailed } from './ui/ViewFailed.tsx';

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Lost />,
    HydrateFallback: () => null,
    // One for all views, inside the shell: it stands whatever a view does.
    children: [
      {
        errorElement: <ViewFailed />,
        children: [
          { index: true, element: <BenchPage /> },
          {
            path: 'intake',
            lazy: async () => ({ Component: (await import('./intake/IntakePage.tsx')).IntakePage }),
          },
          {
            path: 'jobs/:id',
            lazy: async () => ({ Component: (await import('./runsheet/RunSheetPage.tsx')).RunSheetPage }),
          },
          {
            path: 'jobs/:id/evidence',
            lazy: async () => ({ Component: (await import('./evidence/EvidencePage.tsx')).EvidencePage }),
          },
          {
            path: 'what-if',
            lazy: async () => ({ Component: (await import('./whatif/WhatIfPage.tsx')).WhatIfPage }),
          },
          {
            path: 'ledger/:part?',
            lazy: async () => ({ Component: (await import('./ledger/LedgerPage.tsx')).LedgerPage }),
          },
          {
            path: 'batteries',
            element: <Navigate to="/ledger" replace />,
          },
          {
            path: 'batteries/:tag',
            lazy: async () => ({ Component: (await import('./ledger/BatteryPage.tsx')).BatteryPage }),
          },
          {
            path: 'delivery',
            lazy: async () => ({ Component: (await import('./batch/DeliveryPage.tsx')).DeliveryPage }),
          },
          {
            path: 'batch',
            lazy: async () => ({ Component: (await import('./batch/BatchPage.tsx')).BatchPage }),
          },
          {
            path: 'first-day',
            lazy: async () => ({ Component: (await import('./setup/FirstDayPage.tsx')).FirstDayPage }),
          },
          {
            path: 'setup',
            lazy: async () => ({ Component: (await import('./setup/SetupPage.tsx')).SetupPage }),
          },
          {
            path: 'reckoner',
            lazy: async () => ({ Component: (await import('./reckoner/ReckonerPage.tsx')).ReckonerPage }),
          },
          {
            path: 'check/:code?',
            lazy: async () => ({ Component: (await import('./check/CheckPage.tsx')).CheckPage }),
          },
          {
            path: 'trust',
            lazy: async () => ({ Component: (await import('./trust/TrustPage.tsx')).TrustPage }),
          },
          { path: '*', element: <Lost /> },
        ],
      },
    ],
  },
]);

/** Longer a page does not wait for the shop's region: it begins in that of last time. */
const PATIENCE_MS = 3000;

async function begin(root: HTMLElement): Promise<void> {
  await beginOutbox();
  const shop = await askKnown<Shop>('/api/shop', undefined, PATIENCE_MS).catch(() => undefined);
  beginIn(shop);
  if (shop) queryClient.setQueryData(['shop'], shop);
  beginAlarms();
  beginKeeping();
  keepProgram();
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}

const root = document.getElementById('root');
if (root) void begin(root);
