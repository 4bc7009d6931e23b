/** Mutation testing of the heart, by its quick tests, in half an hour: `npm run mutation`, or of a part: `npm run mutation -- --mutate 'core/src/trial/*.ts,!**\/*.spec.ts'`. Not part of the tests. */
export default {
  packageManager: 'npm',
  testRunner: 'jest',
  testRunnerNodeArgs: ['--experimental-vm-modules', '--no-warnings'],
  jest: { configFile: 'jest.core.config.mjs' },
  coverageAnalysis: 'perTest',
  // What is made once when a file is loaded would have every test run for it.
  ignoreStatic: true,
  mutate: ['core/src/{reading,plan,latency,trial}/*.ts', '!**/*.spec.ts'],
  ignorePatterns: [
    '**',
    '!core/**',
    '!contract/**',
    '!package.json',
    '!jest.core.config.mjs',
    '!jest.config.mjs',
    '!tsconfig.base.json',
  ],
  // Words for people are not worth a test each; a block left out is nearly always one of its statements changed.
  mutator: { excludedMutations: ['StringLiteral', 'BlockStatement', 'ObjectLiteral', 'ArrayDeclaration'] },
  incremental: true,
  incrementalFile: 'node_modules/.cache/stryker/incremental.json',
  tempDirName: '.stryker',
  reporters: ['progress-append-only', 'clear-text', 'json'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  jsonReporter: { fileName: 'node_modules/.cache/stryker/report.json' },
  concurrency: 2,
  // A mutant that never ends is caught; the quick tests of a file take well under a second.
  timeoutMS: 4_000,
};
