import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import { defineConfig } from 'eslint/config';
import tseslint from 'typescript-eslint';

const clockOnly = 'Read the time from a Clock; only the clock files may ask the machine.';

const machineClock = {
  selector: "NewExpression[callee.name='Date'][arguments.length=0]",
  message: clockOnly,
};

export default defineConfig(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', 'test-results/**'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ['**/*.{ts,tsx,mjs}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: clockOnly },
        { object: 'performance', property: 'now', message: clockOnly },
        {
          object: 'Math',
          property: 'random',
          message: 'Use the seeded generator in core/instruments/noise.ts.',
        },
      ],
      'no-restricted-syntax': ['error', machineClock],
      'no-console': 'error',
    },
  },
  {
    files: ['scripts/**'],
    languageOptions: { globals: { process: 'readonly', console: 'readonly' } },
    rules: { 'no-console': 'off' },
  },
  { files: ['web/src/**/*.{ts,tsx}'], ...hooks.configs.flat.recommended },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        machineClock,
        {
          selector: "MemberExpression[property.name='randomUUID']",
          message: 'It is missing on plain http; take v4 of the package uuid.',
        },
      ],
    },
  },
);
