import { defineConfig } from '@playwright/test';

/** Two sizes: a laptop beside the board, and a tablet held upright and touched. Tests marked `@both` run at both. One at a time: exposures are measured. */
export default defineConfig({
  testDir: './tests',
  outputDir: '../node_modules/.cache/playwright',
  globalSetup: './demoTemplate.ts',
  workers: 1,
  fullyParallel: false,
  // A machine that stands still for seconds must not decide. What needed a second try is named as flaky, to be mended.
  retries: 1,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  use: {
    actionTimeout: 30_000,
    launchOptions: { executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    trace: 'off',
    // Copies kept for a lost network would hide what the server does: they are tried in offline.spec.ts alone.
    serviceWorkers: 'block',
  },
  projects: [
    { name: 'laptop', use: { viewport: { width: 1280, height: 800 } } },
    { name: 'tablet', grep: /@both/, use: { viewport: { width: 768, height: 1024 }, hasTouch: true } },
  ],
});
