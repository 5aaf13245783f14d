// @ts-check
import js from '@eslint/js';
import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

/** Which folder may know which: web → core, server → core, and nothing the other way. */
const mayNot = (/** @type {string} */ why, /** @type {string[]} */ ...group) => ({
  'no-restricted-imports': ['error', { patterns: [{ group, message: why }] }],
});

/** A published code and its editions are named in their own folder only; everything else asks the rulebook. */
const NAMES_A_CODE = [
  {
    selector: 'Literal[value=/\\bNEC\\b|\\bus-20\\d\\d\\b/]',
    message: 'Only rulebook/jurisdictions names a code or an edition: ask the rulebook.',
  },
  {
    selector: 'TemplateElement[value.raw=/\\bNEC\\b|\\bus-20\\d\\d\\b/]',
    message: 'Only rulebook/jurisdictions names a code or an edition: ask the rulebook.',
  },
];
/** The same in templates: what stands there, and what is bound. */
const TEMPLATE_NAMES_A_CODE = [
  'Text[value',
  'TextAttribute[value',
  'LiteralPrimitive[value',
  'Interpolation[strings.0',
  'Interpolation[strings.1',
  'Interpolation[strings.2',
].map((node) => ({
  selector: `${node}=/\\bNEC\\b|\\bus-20\\d\\d\\b/]`,
  message: 'Only rulebook/jurisdictions names a code or an edition: ask the rulebook.',
}));
/** One way for what is entered together (typed reactive forms), one for a field by itself (`mtValue`). */
const NO_NG_MODEL = ['BoundAttribute', 'BoundEvent'].map((node) => ({
  selector: `${node}[name=/^ngModel/]`,
  message: 'A field by itself has mtValue; what is entered together is a reactive form.',
}));
const NO_CLOCK = {
  selector: 'NewExpression[callee.name="Date"][arguments.length=0]',
  message: 'core has no clock.',
};

export default tseslint.config(
  {
    ignores: [
      'web/public/pdf/**',
      '**/node_modules',
      '**/dist',
      '**/.angular',
      '.mule-tally',
      'test-results',
      'playwright-report',
    ],
  },
  {
    files: ['**/*.{ts,mjs,cjs}'],
    extends: [js.configs.recommended, ...tseslint.configs.recommended],
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { ignoreRestSiblings: true, varsIgnorePattern: '^_', argsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'separate-type-imports' }],
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    rules: {
      ...mayNot(
        'core knows the trade and nothing else: no screens, no server, no Node, no I/O.',
        '@angular/*',
        '@ngrx/*',
        '@ng-bootstrap/*',
        'rxjs',
        'rxjs/*',
        'express',
        '@mikro-orm/*',
        'node:*',
        'fs',
        'path',
        '@mule-tally/*',
        '**/server/**',
        '**/web/**',
      ),
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'fetch',
        'setTimeout',
        'setInterval',
        'crypto',
        'performance',
      ],
      'no-restricted-properties': [
        'error',
        {
          object: 'Math',
          property: 'random',
          message: 'core has no random: ids and choices come from outside.',
        },
        { object: 'Date', property: 'now', message: 'core has no clock: times come from outside.' },
      ],
      'no-restricted-syntax': ['error', NO_CLOCK],
    },
  },
  {
    files: ['server/src/**/*.ts'],
    rules: {
      ...mayNot(
        'The server knows core, never the screens.',
        '@angular/*',
        '@ngrx/*',
        '@ng-bootstrap/*',
        '@mule-tally/web',
        '**/web/**',
        '@mule-tally/core/*',
        '**/core/src/**',
      ),
      'no-console': ['error', { allow: ['error'] }],
    },
  },
  {
    files: ['server/src/**/*.ts'],
    ignores: ['server/src/storage/**', '**/*.spec.ts'],
    rules: {
      // \`inCrew\` is the only way to what a crew has: nothing else touches a connection.
      'no-restricted-properties': [
        'error',
        { property: 'em', message: 'Rows are read and written within inCrew(orm, crewId, work).' },
        { property: 'getConnection', message: 'Rows are read and written within inCrew(orm, crewId, work).' },
      ],
    },
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      ...mayNot(
        'The screens know core, never the server.',
        'express',
        '@mikro-orm/*',
        'node:*',
        '@mule-tally/server',
        '**/server/**',
        '@mule-tally/core/!(spanish)',
        '**/core/src/**',
      ),
      'no-console': ['error', { allow: ['error'] }],
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'mt', style: 'kebab-case' }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: { 'no-restricted-syntax': ['error', ...TEMPLATE_NAMES_A_CODE, ...NO_NG_MODEL] },
  },
  {
    files: ['scripts/**', 'checks/**', 'demo/**', 'bench/**', 'e2e/**', '*.mjs', 'web/*.cjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        fetch: 'readonly',
        URL: 'readonly',
        URLSearchParams: 'readonly',
        setTimeout: 'readonly',
        performance: 'readonly',
        require: 'readonly',
        module: 'writable',
        document: 'readonly',
        structuredClone: 'readonly',
      },
    },
    rules: { 'no-console': 'off', '@typescript-eslint/no-require-imports': 'off' },
  },
  prettier,
  {
    files: ['core/src/**/*.ts', 'server/src/**/*.ts', 'web/src/**/*.ts'],
    ignores: ['core/src/rulebook/jurisdictions/**', '**/*.spec.ts', '**/testing/**'],
    rules: { 'no-restricted-syntax': ['error', ...NAMES_A_CODE] },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/rulebook/jurisdictions/**', '**/*.spec.ts', '**/testing/**'],
    rules: { 'no-restricted-syntax': ['error', NO_CLOCK, ...NAMES_A_CODE] },
  },
);
