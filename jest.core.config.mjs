import all from './jest.config.mjs';

/** For mutation testing: a folder of the core is held by its own tests, not by those of what is built on it. */
export default { ...all.projects[0], testTimeout: all.testTimeout, testMatch: ['**/core/src/{reading,plan,trial}/*.spec.ts'] };
