import { defineConfig } from '@playwright/test';

const port = Number(process.env.E2E_PORT ?? 4391);

/** The whole story through the real interface, on the built application with a fresh demo shop. */
export default defineConfig({
  testDir: 'e2e',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  workers: 1,
  // What holds at its second try is counted, and named at the end of `npm test`.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 40_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
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
  webServer: {
    command: 'node scripts/demo.mjs --fresh',
    url: `http://127.0.0.1:${port}/api/jobs`,
    timeout: 600_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5_000 },
    env: { PORT: String(port), LONTANO_DATA: 'var/e2e', LONTANO_UPLOAD_MB: '5' },
  },
});
