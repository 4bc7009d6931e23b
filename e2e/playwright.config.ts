import { defineConfig } from '@playwright/test';

/** What measures time: run alone, after all others, as a busy machine spoils exposures. */
const TIMED = /(measurement|devices|board)\.spec\.ts/;

/** Motion explains, and is no part of what these prove; drawing it takes much of the processor. */
const STILL = { reducedMotion: 'reduce' } as const;

/** Two sizes: a laptop beside the board, and a tablet held upright and touched. Tests marked `@both` run at both. */
export default defineConfig({
  testDir: './tests',
  outputDir: '../node_modules/.cache/playwright',
  globalSetup: './demoTemplate.ts',
  workers: 1,
  fullyParallel: false,
  // What passes on a second try only has failed.
  retries: 0,
  // A busy machine is slow, not wrong.
  timeout: 180_000,
  expect: { timeout: 30_000 },
  use: {
    actionTimeout: 30_000,
    launchOptions: { executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-gpu'] },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    trace: 'off',
    // Copies kept for a lost network would hide what the server does: they are tried in offline.spec.ts alone.
    serviceWorkers: 'block',
  },
  projects: [
    { name: 'laptop', testIgnore: TIMED, use: { viewport: { width: 1280, height: 800 }, contextOptions: STILL } },
    {
      name: 'tablet',
      testIgnore: TIMED,
      grep: /@both/,
      use: { viewport: { width: 768, height: 1024 }, hasTouch: true, contextOptions: STILL },
    },
    { name: 'timed', testMatch: TIMED, use: { viewport: { width: 1280, height: 800 } } },
  ],
});
