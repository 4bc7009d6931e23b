import all from './jest.config.mjs';

/**
 * For mutation testing: a folder of the core is held by its own tests, not by those of what is built on it, and by the quick ones among them: those that judge whole classes take seconds each,
 * and every mutant would run them.
 */
const SLOW = ['(reading/(judgeChild|classFit|change|fieldSampling)|plan/week)\\.spec'];

export default {
  ...all.projects[0],
  testTimeout: all.testTimeout,
  testMatch: ['**/core/src/{reading,plan,latency,trial}/*.spec.ts'],
  testPathIgnorePatterns: SLOW,
  setupFilesAfterEnv: [],
};
