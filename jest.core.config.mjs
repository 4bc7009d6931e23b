import all from './jest.config.mjs';

/** The core's tests alone, for mutation testing. */
export default { ...all.projects[0], testTimeout: all.testTimeout };
