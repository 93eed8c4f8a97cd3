import { defineConfig } from '@playwright/test'

const base = process.env['KEEN_BEAKER'] ?? 'http://127.0.0.1:8080'

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results',
  reporter: 'line',
  workers: 1,
  timeout: 150_000,
  // On a busy machine a page may take seconds; a wrong one is still told by what it says.
  expect: { timeout: 40_000 },
  forbidOnly: true,
  use: {
    // A name that is not localhost: plain http behaves here as on a phone in the room's network.
    baseURL: base.replace('127.0.0.1', 'bench.test'),
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-dev-shm-usage',
        '--disable-gpu',
        '--disable-quic',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--host-resolver-rules=MAP bench.test 127.0.0.1',
      ],
    },
  },
})
