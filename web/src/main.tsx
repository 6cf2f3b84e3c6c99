import '@fontsource-variable/commissioner/wght.css';
import '@fontsource/ibm-plex-mono/latin-500.css';
import '@fontsource/ibm-plex-mono/latin-600.css';
import './styles.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { askKnown } from './api/known.ts';
import { beginAlarms } from './alarms/alarms.ts';
import { beginIn } from './region/shopRegion.ts';
import { beginBench } from './api/bench.ts';
import { tellNews } from './api/news.ts';
import { queryClient } from './api/queries.ts';
import { personNow } from './api/person.ts';
import { askWhoIsHere, beginOutbox, whenRecorded } from './store/outbox.ts';
import { BenchPage } from './bench/BenchPage.tsx';
import { keepProgram } from './shell/program.ts';
import { Shell } from './shell/Shell.tsx';
import { fetchAll, laterView } from './ui/later.tsx';
import { Lost } from './ui/Lost.tsx';
import { isSecure } from './ui/Secure.tsx';

/** Views but the bench: each is fetched when it is first gone to. */
const VIEWS = {
  intake: laterView(async () => (await import('./intake/IntakePage.tsx')).IntakePage),
  'jobs/:id': laterView(async () => (await import('./runsheet/RunSheetPage.tsx')).RunSheetPage),
  'jobs/:id/evidence': laterView(async () => (await import('./evidence/EvidencePage.tsx')).EvidencePage),
  'what-if': laterView(async () => (await import('./whatif/WhatIfPage.tsx')).WhatIfPage),
  'ledger/:part?': laterView(async () => (await import('./ledger/LedgerPage.tsx')).LedgerPage),
  'batteries/:tag': laterView(async () => (await import('./ledger/BatteryPage.tsx')).BatteryPage),
  shelf: laterView(async () => (await import('./shelf/ShelfPage.tsx')).ShelfPage),
  'shelf/month': laterView(async () => (await import('./shelf/MonthPage.tsx')).MonthPage),
  'shelf/calls': laterView(async () => (await import('./shelf/CallsPage.tsx')).CallsPage),
  'shelf/round': laterView(async () => (await import('./shelf/RoundPage.tsx')).RoundPage),
  'shelf/charge': laterView(async () => (await import('./batch/RefreshPage.tsx')).RefreshPage),
  'shelf/stores': laterView(async () => (await import('./shelf/StoresPage.tsx')).StoresPage),
  'shelf/machines': laterView(async () => (await import('./machines/MachinesPage.tsx')).MachinesPage),
  'shelf/machines/:tag': laterView(async () => (await import('./machines/MachinePage.tsx')).MachinePage),
  brought: laterView(async () => (await import('./batch/BroughtPage.tsx')).BroughtPage),
  delivery: laterView(async () => (await import('./batch/DeliveryPage.tsx')).DeliveryPage),
  batch: laterView(async () => (await import('./batch/BatchPage.tsx')).BatchPage),
  'first-day': laterView(async () => (await import('./setup/FirstDayPage.tsx')).FirstDayPage),
  setup: laterView(async () => (await import('./setup/SetupPage.tsx')).SetupPage),
  reckoner: laterView(async () => (await import('./reckoner/ReckonerPage.tsx')).ReckonerPage),
  'check/:code?': laterView(async () => (await import('./check/CheckPage.tsx')).CheckPage),
  trust: laterView(async () => (await import('./trust/TrustPage.tsx')).TrustPage),
};

const program = (
  <BrowserRouter>
    <ErrorBoundary fallback={<Lost />}>
      <Routes>
        <Route element={<Shell />}>
          <Route index element={<BenchPage />} />
          {Object.entries(VIEWS).map(([path, View]) => (
            <Route key={path} path={path} element={<View />} />
          ))}
          <Route path="batteries" element={<Navigate to="/ledger" replace />} />
          <Route path="*" element={<Lost />} />
        </Route>
      </Routes>
    </ErrorBoundary>
  </BrowserRouter>
);

/** Longer a page does not wait for the shop's region: it begins in that of last time. */
const PATIENCE_MS = 3000;

async function begin(root: HTMLElement): Promise<void> {
  whenRecorded(tellNews);
  askWhoIsHere(personNow);
  await beginOutbox();
  const shop = await askKnown<Shop>('/api/shop', undefined, PATIENCE_MS).catch(() => undefined);
  beginIn(shop);
  if (shop) queryClient.setQueryData(['shop'], shop);
  beginAlarms();
  beginBench();
  keepProgram();
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>{program}</QueryClientProvider>
    </StrictMode>,
  );
  if (!isSecure()) void fetchAll();
}

const root = document.getElementById('root');
if (root) void begin(root);
