import { defineConfig } from '@playwright/test';
import { CARDS } from './src/ui/desk/card-names';

const report = process.env.BEKTRA_TEST_REPORT;
const baseURL = process.env.BEKTRA_TEST_URL ?? 'http://127.0.0.1:3210/';

/** All cards of the Desk are open, so that a test finds what it looks for; how they open is a test of its own. */
const cards = {
  name: 'bektra-cards',
  value: JSON.stringify({ state: { open: CARDS }, version: 0 }),
};

export default defineConfig({
  testDir: 'tests/browser',
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ...(report ? [['json', { outputFile: report }] as const] : [])] as never,
  outputDir: '.data-test/playwright',
  use: {
    baseURL,
    storageState: {
      cookies: [],
      origins: [{ origin: new URL(baseURL).origin, localStorage: [cards] }],
    },
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
