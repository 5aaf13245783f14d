import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../scripts/lib/browser.mjs';

export default defineConfig({
  testDir: '.',
  testMatch: '*.e2e.ts',
  outputDir: '../test-results',
  // One stack, one browser: the machine has two cores.
  workers: 1,
  timeout: 120_000,
  globalTimeout: 25 * 60_000,
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
