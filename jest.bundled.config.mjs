import all, { plain } from './jest.config.mjs';
import { BUNDLES } from './scripts/bundleSpecs.mjs';
import web from './web/jest.config.mjs';

/** The tests as scripts/bundleSpecs.mjs has bundled them for a whole run. */
const bundled = (name, more = {}) =>
  plain(name, [`<rootDir>/${name}/${BUNDLES}`], {
    testMatch: ['**/*.mjs'],
    transform: {},
    extensionsToTreatAsEsm: [],
    ...more,
  });
const { testEnvironment, moduleNameMapper, snapshotSerializers } = web;

export default {
  testTimeout: all.testTimeout,
  projects: [
    bundled('core'),
    bundled('server'),
    // Dexie looks for a database when it is loaded.
    bundled('web', { setupFiles: ['fake-indexeddb/auto'], testEnvironment, moduleNameMapper, snapshotSerializers }),
  ],
};
