import { defineConfig } from '@playwright/test';

const chromium = process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium';

export default defineConfig({
  testDir: '.',
  globalSetup: './seededShop.ts',
  outputDir: '../test-results/browser',
  reporter: [['list'], ['json', { outputFile: '../test-results/browser.json' }]],
  workers: 2,
  fullyParallel: true,
  forbidOnly: true,
  // A machine that does other work too stands still now and then: nothing is judged by how fast it is.
  timeout: 120_000,
  expect: { timeout: 15_000 },
  use: {
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'Etc/UTC',
    locale: 'en-GB',
    // A page of a test is new: it would fetch the whole program for each. Tests of what is kept allow it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: chromium,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // A name of the shop's network: plain http that is no localhost.
        '--host-resolver-rules=MAP skerry.test 127.0.0.1',
      ],
    },
  },
});
