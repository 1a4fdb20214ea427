import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // The journeys share one server and its people: one after the other.
  workers: 1,
  retries: 0,
  timeout: 300_000,
  expect: { timeout: 30_000 },
  reporter: [['json'], ['line']],
  outputDir: 'test-results',
  use: {
    baseURL: process.env.CIRCUITRY_TEST_URL,
    viewport: { width: 1280, height: 800 },
    // Two cores that also carry server, database and the browser's own drawing stall for seconds now and then.
    actionTimeout: 45_000,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CIRCUITRY_CHROMIUM ?? '/usr/bin/chromium',
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
})
