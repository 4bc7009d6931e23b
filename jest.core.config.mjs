import all from './jest.config.mjs';

/**
 * For mutation testing: a folder of the core is held by its own tests, not by those of what is built on it. With VANE_QUICK=1 without the tests that judge whole classes, which take
 * seconds each: what survives then may still be killed by them.
 */
export default {
  ...all.projects[0],
  testTimeout: all.testTimeout,
  testMatch: ['**/core/src/{reading,plan,trial}/*.spec.ts'],
  testPathIgnorePatterns: process.env.VANE_QUICK ? ['reading/(judge|classFit).spec'] : [],
};
