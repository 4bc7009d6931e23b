import js from '@eslint/js';
import angular from 'angular-eslint';
import { defineConfig } from 'eslint/config';
import globals from './scripts/nodeGlobals.mjs';
import tseslint from 'typescript-eslint';

/** Vane's own rules alone, as in `npm test`, where oxlint looks after the general ones; `npm run test:all` asks for those that need types, and for all others. */
const TYPES = process.env.VANE_LINT === 'types';

/** Who may import whom (docs/architecture.md): core nothing, contract core, server and web both, and never each other. */
const imports = (allowed, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ regex: allowed, message }] }],
});
const ANOTHER_PACKAGE = '^(\\.\\./)+(core|contract|server|web|e2e)(/|$)';

/** A sentence or a label: two words of letters, or one that begins as a label does. Codes of readings are written with spaces, and are none. */
const READ =
  '/^(?!(too few answers|works out|in between|not yet|did not listen)$).*[a-z]{2,} [a-z]{2,}|^[A-Z][a-z]{2,}( |$)/';
/** Where nobody reads: what is tagged already, names of errors and tokens, comparisons, keys and the like. */
const NOT_READ = [
  'TaggedTemplateExpression > *',
  'NewExpression > *',
  'NewExpression > LogicalExpression > *',
  'CallExpression[callee.object.name=/^(console|locks)$/] > *',
  'CallExpression[callee.property.name=/^querySelector/] > *',
  'BinaryExpression > *',
  'Property > .key',
  'Property[key.name=/^(template|styles|host|fontFamily|key|shown)$/] > *',
];
const SENTENCES = ['Literal', 'TemplateLiteral'].map((node) => {
  const read = node === 'Literal' ? `[value=${READ}]` : `:has(> TemplateElement[value.raw=${READ}])`;
  return `${node}${read}${NOT_READ.map((place) => `:not(${place})`).join('')}`;
});
/** Attributes without words for people, beside those that the rule leaves out itself. */
const NO_WORDS = [
  'appearance',
  'aria-haspopup',
  'aria-labelledby',
  'aria-live',
  'ariaCurrentWhenActive',
  'autocapitalize',
  'cdkColumnDef',
  'd',
  'data-testid',
  'displayMode',
  'inputmode',
  'matButton',
  'mode',
  'name',
  'place',
  'position',
  'routerLink',
  'scope',
  'stroke-linecap',
  'stroke-linejoin',
  'subscriptSizing',
  'value',
];

export default defineConfig(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '**/.angular/**',
      '**/.specs/**',
      '.vane/**',
      '.stryker/**',
      'coverage/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  TYPES ? js.configs.recommended : {},
  {
    files: ['**/*.ts'],
    extends: TYPES
      ? [...tseslint.configs.recommendedTypeChecked, ...tseslint.configs.stylisticTypeChecked]
      : [tseslint.configs.base],
    ...(TYPES && {
      languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    }),
    // A line that is let off a rule which needs types is let off nothing here.
    linterOptions: { reportUnusedDisableDirectives: TYPES },
    rules: {
      '@typescript-eslint/consistent-type-definitions': 'off',
      '@typescript-eslint/consistent-indexed-object-style': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/dot-notation': 'off',
      '@typescript-eslint/no-confusing-void-expression': 'off',
      ...(TYPES && {
        '@typescript-eslint/prefer-nullish-coalescing': ['error', { ignorePrimitives: { string: true } }],
      }),
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
      ...(TYPES && { '@typescript-eslint/unbound-method': ['error', { ignoreStatic: true }] }),
    },
  },
  {
    // What a person reads is a message: marked in templates, tagged in code.
    files: ['web/src/app/**/*.ts'],
    ignores: ['**/*.spec.ts', 'web/src/app/testing/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: 'TSAnyKeyword', message: 'Say what it is.' },
        ...SENTENCES.map((selector) => ({ selector, message: 'A sentence for people is tagged with $localize.' })),
      ],
    },
  },
  {
    files: ['web/src/app/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      '@angular-eslint/template/i18n': [
        'error',
        {
          checkId: false,
          checkText: true,
          checkAttributes: true,
          ignoreAttributes: NO_WORDS,
          ignoreTags: ['kbd', 'code'],
        },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: `LiteralPrimitive[value=${READ}]`, message: 'Words for people are marked with i18n.' },
      ],
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
);
