import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: '.',
  globalSetup: './setup.mjs',
  testMatch: '*.spec.ts',
  outputDir: 'results',
  fullyParallel: false,
  workers: 2,
  retries: 0,
  timeout: 120_000,
  // How long a machine may stand still that has other work; nothing waits so long that need not.
  expect: { timeout: 20_000 },
  use: {
    actionTimeout: 30_000,
    viewport: { width: 1280, height: 800 },
    // A new studio takes the habits of its browser.
    locale: 'en-GB',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--disable-quic', '--no-first-run'],
    },
    // Recording everything costs a third of the time: TRACE=1 asks for it.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
  },
})
