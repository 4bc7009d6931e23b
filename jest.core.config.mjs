import { join } from 'node:path';
import all from './jest.config.mjs';

/**
 * For mutation testing: a folder of the core is held by its own tests and by those beside it that play it, and by the quick ones among them: those that judge whole classes take seconds each, and
 * every mutant would run them.
 */
const SLOW = [
  'reading/(judgeChild|classFit|change|fieldSampling|measuring|explain)\\.spec',
  'plan/(week|weekCost)\\.spec',
  'rehearsal/',
  'words/agree\\.spec',
];
/** Beside a folder's own tests, those that are about the same thing from outside. */
const BESIDE = {
  layouts: ['prints', 'routines'],
  routines: ['words'],
  prints: ['words'],
  mistakes: ['words'],
  time: ['plan'],
};
const mutated = process.env.VANE_MUTATED ?? '*';

export default {
  ...all.projects[0],
  cacheDirectory: join(import.meta.dirname, 'node_modules/.cache/jest-mutation'),
  testTimeout: all.testTimeout,
  testMatch: [mutated, ...(BESIDE[mutated] ?? [])].map((folder) => `**/core/src/${folder}/*.spec.ts`),
  testPathIgnorePatterns: SLOW,
  setupFilesAfterEnv: [],
};
