import { defineConfig } from '@playwright/test'
import { fileURLToPath } from 'node:url'
import { writeFakeGuitar } from './fakeGuitar'

/** The production build with the demo data, one server and one data folder for each test (see app.ts). */
export default defineConfig({
  testDir: fileURLToPath(new URL('.', import.meta.url)),
  outputDir: fileURLToPath(new URL('../test-results/browser', import.meta.url)),
  timeout: 90_000,
  expect: { timeout: 20_000 },
  workers: 1,
  // a machine that stands still for half a minute fails any wait; what passes at its second attempt is told as flaky
  retries: 1,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
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
        '--use-fake-device-for-media-stream',
        '--use-fake-ui-for-media-stream',
        `--use-file-for-fake-audio-capture=${writeFakeGuitar()}`,
      ],
    },
  },
})
