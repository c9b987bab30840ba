import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './src/cli/chromium';
import { APP, APPS, DEMO_STATE, FOLDER } from './tests/browser/open-demo';

const report = process.env.BEKTRA_TEST_REPORT;

export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/browser/open-demo.ts',
  workers: APPS.length,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ...(report ? [['json', { outputFile: report }] as const] : [])] as never,
  outputDir: `${FOLDER}/playwright`,
  use: {
    baseURL: APP,
    storageState: DEMO_STATE,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: CHROMIUM,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // a page of a test is gone before optimizing its code has paid
        '--js-flags=--no-maglev --no-turbofan --single-threaded-gc',
      ],
    },
  },
});
