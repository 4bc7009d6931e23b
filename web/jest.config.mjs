import { join } from 'node:path';
import presets from 'jest-preset-angular/presets/index.js';

export default {
  cacheDirectory: join(import.meta.dirname, '../node_modules/.cache/jest'),
  ...presets.createEsmPreset({ tsconfig: '<rootDir>/tsconfig.spec.json' }),
  displayName: 'web',
  setupFilesAfterEnv: ['<rootDir>/setup-jest.ts', '<rootDir>/../scripts/jestSetup.mjs'],
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
};
