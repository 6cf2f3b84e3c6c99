import js from '@eslint/js';
import a11y from 'eslint-plugin-jsx-a11y-x';
import hooks from 'eslint-plugin-react-hooks';
import { defineConfig } from 'eslint/config';
import tseslint from 'typescript-eslint';

const clockOnly = 'Read the time from a Clock; only the clock files may ask the machine.';

const machineClock = {
  selector: "NewExpression[callee.name='Date'][arguments.length=0]",
  message: clockOnly,
};

const named = 'A step spoken of outside its procedure has a name: core/runsheet/definition/stepIds.ts.';

/** Where a step is asked for by its id. */
const stepIds = [
  "CallExpression[callee.name='latest'] > Literal.arguments:nth-child(2)",
  'CallExpression[callee.property.name=/^(valuesOf|valuesIn|chargeBefore)$/] > Literal.arguments:first-child',
  "BinaryExpression[left.property.name='stepId'] > Literal.right",
  "BinaryExpression[left.name='stepId'] > Literal.right",
].map((selector) => ({ selector, message: named }));

export default defineConfig(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', 'test-results/**'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ['**/*.{ts,tsx,mjs}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      // A library without types of its own is told its types beside its only use.
      '@typescript-eslint/triple-slash-reference': ['error', { path: 'always' }],
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: clockOnly },
        { object: 'performance', property: 'now', message: clockOnly },
        {
          object: 'Math',
          property: 'random',
          message: 'Use the seeded generator in core/chance/chance.ts.',
        },
      ],
      'no-restricted-syntax': ['error', machineClock],
      'no-console': 'error',
    },
  },
  {
    files: ['core/**/*.ts', 'server/src/**/*.ts'],
    ignores: ['core/runsheet/procedures/**', 'core/test/**', '**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', machineClock, ...stepIds] },
  },
  {
    files: ['scripts/**'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly' } },
    rules: { 'no-console': 'off' },
  },
  { files: ['web/src/**/*.{ts,tsx}'], ...hooks.configs.flat.recommended },
  {
    files: ['web/src/**/*.tsx'],
    ...a11y.configs.strict,
    rules: {
      ...a11y.configs.strict.rules,
      // What scrolls takes the keyboard, to be scrolled by it.
      'jsx-a11y-x/no-noninteractive-tabindex': ['error', { roles: ['region'], tags: [] }],
      // Enter goes from field to field of a form before it sends it.
      'jsx-a11y-x/no-noninteractive-element-interactions': [
        'error',
        {
          handlers: ['onClick', 'onMouseDown', 'onMouseUp', 'onKeyDown', 'onKeyUp'],
          form: ['onKeyDown'],
          fieldset: ['onKeyDown'],
        },
      ],
    },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        machineClock,
        ...stepIds,
        {
          selector: "MemberExpression[property.name='randomUUID']",
          message: 'It is missing on plain http; take v4 of the package uuid.',
        },
      ],
    },
  },
);
