import { join } from 'node:path';

const swc = {
  module: { type: 'es6' },
  jsc: { target: 'es2022', parser: { syntax: 'typescript' } },
};

/** Kept from run to run: what is compiled once is not compiled again. */
export const cacheDirectory = join(import.meta.dirname, 'node_modules/.cache/jest');

/** Tests that need no browser: as ES modules, in Node. */
export const plain = (displayName, roots, more = {}) => ({
  displayName,
  rootDir: import.meta.dirname,
  cacheDirectory,
  roots,
  testEnvironment: 'node',
  testMatch: ['**/*.spec.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '\\.ts$': ['<rootDir>/scripts/jestTransform.mjs', swc] },
  transformIgnorePatterns: ['/node_modules/(?!@vane/)'],
  setupFilesAfterEnv: ['<rootDir>/scripts/jestSetup.mjs'],
  ...more,
});

/**
 * core and contract; the server against a real PostgreSQL; the page's components in jsdom; the page's sittings on the real server; the scripts. Tests whose title has `@long` are left to
 * `npm run test:all` (scripts/test.mjs).
 */
export default {
  // A busy machine is slow, not wrong.
  testTimeout: 60_000,
  projects: [
    plain('core', ['<rootDir>/core', '<rootDir>/contract']),
    plain('server', ['<rootDir>/server']),
    // The page's own sittings, in Node: its messages want Angular's tag.
    plain('whole', ['<rootDir>/e2e/whole'], { setupFiles: ['@angular/localize/init'] }),
    plain('scripts', ['<rootDir>/scripts'], { testMatch: ['**/*.spec.mjs'] }),
    '<rootDir>/web/jest.config.mjs',
  ],
};
