import { defineConfig } from '@playwright/test'

// Each worker has servers of its own, with people and homes of its own: journeys of two files do not meet.
const of = (urls: string | undefined) => urls?.split(',')[Number(process.env.TEST_PARALLEL_INDEX ?? 0)]
const sets = process.env.CIRCUITRY_TEST_URLS?.split(',').length ?? 1
process.env.CIRCUITRY_TEST_URL = of(process.env.CIRCUITRY_TEST_URLS) ?? process.env.CIRCUITRY_TEST_URL
process.env.CIRCUITRY_EMPTY_URL = of(process.env.CIRCUITRY_EMPTY_URLS) ?? process.env.CIRCUITRY_EMPTY_URL

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // The journeys of one file share a server and its people: one after the other.
  workers: sets,
  retries: 0,
  timeout: 900_000,
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
