import js from '@eslint/js';
import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import { defineConfig } from 'eslint/config';
import globals from './scripts/nodeGlobals.mjs';
import tseslint from 'typescript-eslint';

/** Who may import whom (docs/architecture.md): core nothing, contract core, server and web both, and never each other. */
const imports = (allowed, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ regex: allowed, message }] }],
});
const ANOTHER_PACKAGE = '^(\\.\\./)+(core|contract|server|web|e2e)(/|$)';

export default defineConfig(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '**/.angular/**',
      '.vane/**',
      '.stryker/**',
      'coverage/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  js.configs.recommended,
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked, ...tseslint.configs.stylisticTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/consistent-type-definitions': 'off',
      '@typescript-eslint/consistent-indexed-object-style': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/dot-notation': 'off',
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/prefer-nullish-coalescing': ['error', { ignorePrimitives: { string: true } }],
      'no-restricted-syntax': ['error', { selector: 'TSAnyKeyword', message: 'Say what it is.' }],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'core/src/testing/**'],
    rules: imports(`^(?!\\.)|${ANOTHER_PACKAGE}`, 'core imports nothing but itself.'),
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts', 'core/src/testing/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        'Date',
        'performance',
        'setTimeout',
        'setInterval',
        'window',
        'document',
        'process',
        'console',
        'crypto',
        'fetch',
      ],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Chance is a parameter.' }],
    },
  },
  {
    files: ['contract/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: imports(`^(?!\\.|zod$|@vane/core$)|${ANOTHER_PACKAGE}`, 'contract imports core and zod.'),
  },
  {
    files: ['server/src/**/*.ts'],
    rules: imports(`^@vane/web|^@angular/|${ANOTHER_PACKAGE}`, 'server never imports web.'),
  },
  {
    files: ['web/src/**/*.ts'],
    rules: imports(`^@vane/server|^node:|^hono|${ANOTHER_PACKAGE}`, 'web never imports server.'),
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'vane', style: 'kebab-case' }],
      '@angular-eslint/component-class-suffix': 'off',
      '@angular-eslint/directive-class-suffix': 'off',
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@typescript-eslint/unbound-method': ['error', { ignoreStatic: true }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
    },
  },
  { files: ['**/*.mjs'], languageOptions: { globals } },
  // Playwright reads from a fixture's first argument which fixtures it needs: `{}` says none.
  { files: ['e2e/**/*.ts'], rules: { 'no-empty-pattern': ['error', { allowObjectPatternsAsParameters: true }] } },
  {
    files: ['**/*.spec.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off', '@typescript-eslint/unbound-method': 'off' },
  },
  prettier,
);
