import js from '@eslint/js';
import globals from 'globals';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';
import { join } from 'node:path';
import { floors } from './eslint-floors.js';

/** Dependencies run web, server → contract → core, never back (docs/architecture.md). */
const forbid = (...group) => ({
  'no-restricted-imports': ['error', { patterns: [{ group, message: 'This layer may not depend on that one.' }] }],
});

/** Areas by floor, the lowest first (docs/architecture.md, "Floors"). */
const SERVER_FLOORS = [
  ['platform'],
  ['account', 'agency', 'crew', 'client', 'calendar', 'field', 'file', 'activity'],
  ['engagement', 'schedule', 'load', 'task', 'label', 'plan-change', 'handoff', 'template', 'series', 'time'],
  ['desk', 'week-plan', 'workload', 'forecast', 'learn'],
  ['mail', 'webhook'],
  ['notice', 'rule', 'reminder', 'invitation'],
  ['live', 'presence', 'jobs', 'setup'],
  ['demo'],
];
const WEB_FLOORS = [['words', 'ui', 'api'], ['session'], ['features'], ['app']];
const onFloors = (app, list) => ({
  'crew/no-import-from-above': ['error', { root: join(import.meta.dirname, 'apps', app, 'src'), floors: list }],
});

export default tseslint.config(
  { ignores: ['**/dist/**', '**/dist-types/**', '**/node_modules/**', '.data/**', '.cache/**', 'test-results/**', 'playwright-report/**'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    languageOptions: { globals: globals.node },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'max-params': ['error', 3],
      'max-lines': ['error', { max: 500, skipBlankLines: true, skipComments: true }],
      eqeqeq: 'error',
    },
  },
  {
    files: ['apps/*/src/**/*.{ts,tsx}', 'packages/*/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.test.tsx', 'apps/server/src/migrations/**'],
    rules: { 'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  { files: ['apps/server/**'], rules: { '@typescript-eslint/consistent-type-imports': 'off', 'max-params': 'off' } },
  {
    files: ['packages/core/src/**'],
    ignores: ['packages/core/src/cli.ts'],
    rules: {
      ...forbid('@crew/*', 'node:*', '@nestjs/*', 'typeorm', 'react*'),
      'no-restricted-globals': ['error', 'process', 'console', 'setTimeout', 'fetch'],
      'no-restricted-syntax': [
        'error',
        { selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']", message: 'Today is an argument.' },
      ],
    },
  },
  { files: ['packages/contract/src/**'], rules: forbid('node:*', '@crew/server', '@crew/web', '@nestjs/*', 'typeorm', 'react*') },
  { files: ['apps/server/src/**'], rules: forbid('@crew/web', 'react*') },
  {
    files: ['apps/server/src/**/*.ts'],
    ignores: ['**/*.test.ts', 'apps/server/src/migrations/**'],
    plugins: { crew: floors },
    rules: onFloors('server', SERVER_FLOORS),
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    plugins: { crew: floors },
    rules: onFloors('web', WEB_FLOORS),
  },
  {
    // A look that does not depend on data belongs into the kit or a styled component beside its use.
    files: ['apps/web/src/**/*.tsx'],
    ignores: ['**/*.test.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "JSXAttribute[name.name='style'] > JSXExpressionContainer > ObjectExpression:not(:has(> SpreadElement, > Property[value.type!='Literal']))",
          message: 'A fixed look belongs into a styled component; style is for what is computed from data.',
        },
      ],
    },
  },
  {
    files: ['apps/web/src/**'],
    plugins: { 'react-hooks': reactHooks },
    languageOptions: { globals: globals.browser },
    rules: { ...forbid('@crew/server', 'node:*', 'typeorm', '@nestjs/*'), ...reactHooks.configs.recommended.rules },
  },
  // The guide stands in docs/ and is read from there by its test.
  { files: ['apps/web/src/features/guide/guide.test.tsx'], rules: { 'no-restricted-imports': 'off' } },
  {
    files: ['**/*.test.ts', '**/*.test.tsx', '**/test/**', 'e2e/**'],
    rules: { 'max-lines': 'off', 'max-params': 'off', 'no-empty-pattern': 'off' },
    languageOptions: { globals: globals.browser },
  },
);
