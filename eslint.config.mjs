import js from '@eslint/js';
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/dist/**', '**/.angular/**', '**/node_modules/**', '.data/**', 'test-results/**'] },
  { ...js.configs.recommended, ignores: ['**/*.html'] },
  ...tseslint.configs.recommended.map((config) => ({ ...config, ignores: ['**/*.html'] })),
  {
    ignores: ['**/*.html'],
    rules: {
      'no-console': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
  // Control characters are what these patterns keep out.
  { files: ['contract/src/shape/shape.ts'], rules: { 'no-control-regex': 'off' } },
  {
    files: ['scripts/**', 'bench/**', 'demo/**'],
    rules: { 'no-console': 'off' },
    languageOptions: { globals: { process: 'readonly', console: 'readonly', fetch: 'readonly', setTimeout: 'readonly', setInterval: 'readonly' } },
  },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' }, languageOptions: { globals: { module: 'writable' } } },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: ['element', 'attribute'], prefix: 'nock', style: 'kebab-case' }],
      // A desk may be reached over plain HTTP, where browsers leave these out.
      'no-restricted-properties': [
        'error',
        { object: 'crypto', property: 'randomUUID', message: 'Only there on secure origins: take newKey of the API.' },
        { object: 'crypto', property: 'subtle', message: 'Only there on secure origins.' },
        { object: 'navigator', property: 'clipboard', message: 'Only there on secure origins: take Clipboard of the CDK.' },
      ],
    },
  },
  { files: ['web/src/**/*.html'], extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility] },
);
