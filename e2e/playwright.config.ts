import { defineConfig } from '@playwright/test'

/** Run by the Cargo test `browser`, which starts the database and the server and gives their address. */
const url = process.env.OWL_URL
if (!url) throw new Error('run this with: cargo test --test browser')

export default defineConfig({
  testDir: '.',
  testMatch: process.env.OWL_SPECS ?? '*.spec.ts',
  outputDir: 'results',
  // One server and one database, which one of the specs stops: one after the other.
  workers: 1,
  fullyParallel: false,
  retries: 0,
  // Long enough for a machine that does something else as well: no story is about speed.
  timeout: 180_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    baseURL: url,
    testIdAttribute: 'data-test',
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.OWL_CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-dev-shm-usage',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
