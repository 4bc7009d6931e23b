import { defineConfig } from '@playwright/test';

/** What measures time: run alone, after all others, as a busy machine spoils exposures. */
const TIMED = /(measurement|devices|board)\.spec\.ts/;

/**
 * Which run of the tests this is (scripts/test.mjs): `short` leaves out what is marked `@long`, `long` has that alone; without it, all.
 * At the tablet's size, too: what is marked `@touch` in the short run, `@both` in the long one.
 */
const RUN = process.env['VANE_TESTS'];
const which = RUN === 'short' ? { grepInvert: /@long/ } : RUN === 'long' ? { grep: /@long/ } : {};
const ON_TABLET = RUN === 'short' ? /@touch/ : RUN === 'long' ? /@both/ : /@both|@touch/;

/** Motion explains, and is no part of what these prove; drawing it takes much of the processor. */
const STILL = { reducedMotion: 'reduce' } as const;

/** Two sizes: a laptop beside the board, and a tablet held upright and touched. */
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
    {
      ...which,
      name: 'laptop',
      testIgnore: TIMED,
      use: { viewport: { width: 1280, height: 800 }, contextOptions: STILL },
    },
    {
      name: 'tablet',
      testIgnore: TIMED,
      grep: ON_TABLET,
      use: { viewport: { width: 768, height: 1024 }, hasTouch: true, contextOptions: STILL },
    },
    { ...which, name: 'timed', testMatch: TIMED, use: { viewport: { width: 1280, height: 800 } } },
  ],
});
