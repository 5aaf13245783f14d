import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../scripts/lib/browser.mjs';

export default defineConfig({
  testDir: '.',
  testMatch: '*.e2e.ts',
  outputDir: '../test-results',
  // Each worker has a stack and a browser of its own: the machine has two cores.
  workers: 2,
  timeout: 120_000,
  globalTimeout: 60 * 60_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    // A camera that films a pattern stands in for that of a phone.
    launchOptions: { ...CHROMIUM, args: [...CHROMIUM.args, '--use-fake-device-for-media-stream'] },
    actionTimeout: 15_000,
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
  },
});
