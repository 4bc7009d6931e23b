/** Three projects: core and contract, server (against a real PostgreSQL), browser components. All as ES modules. */
const plain = (displayName, roots) => ({
  displayName,
  rootDir: import.meta.dirname,
  roots,
  testEnvironment: 'node',
  testMatch: ['**/*.spec.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '\\.ts$': ['@swc/jest', { module: { type: 'es6' }, jsc: { target: 'es2022', parser: { syntax: 'typescript' } } }],
  },
  transformIgnorePatterns: ['/node_modules/(?!@vane/)'],
});

export default {
  // A busy machine is slow, not wrong.
  testTimeout: 60_000,
  projects: [
    plain('core', ['<rootDir>/core', '<rootDir>/contract']),
    { ...plain('server', ['<rootDir>/server']) },
    '<rootDir>/web/jest.config.mjs',
  ],
};
