/** Mutation testing of files of a folder of `core`, by the folder's own quick tests: scripts/mutation.mjs says which, and keeps the figures. Not part of the tests. */
export default {
  packageManager: 'npm',
  testRunner: 'jest',
  testRunnerNodeArgs: ['--experimental-vm-modules', '--no-warnings'],
  jest: { configFile: 'jest.core.config.mjs' },
  coverageAnalysis: 'perTest',
  // What is made once when a file is loaded would have every test run for it.
  ignoreStatic: true,
  mutate: process.env.VANE_FILES?.split(',') ?? [],
  ignorePatterns: [
    '**',
    '!core/**',
    '!contract/**',
    '!package.json',
    '!jest.core.config.mjs',
    '!jest.config.mjs',
    '!scripts/jestTransform.mjs',
    '!scripts/namedGlobals.mjs',
    '!tsconfig.base.json',
  ],
  // Words for people are not worth a test each; a block left out is nearly always one of its statements changed.
  mutator: { excludedMutations: ['StringLiteral', 'BlockStatement', 'ObjectLiteral', 'ArrayDeclaration'] },
  tempDirName: '.stryker',
  reporters: ['progress-append-only', 'json'],
  jsonReporter: { fileName: `node_modules/.cache/stryker/${process.env.VANE_PART}.json` },
  concurrency: 2,
  // A mutant that never ends is caught; the quick tests of a file take well under a second.
  timeoutMS: 4_000,
};
