import next from '@next/eslint-plugin-next';
import prettier from 'eslint-config-prettier';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const impure = [
  'window',
  'document',
  'navigator',
  'performance',
  'process',
  'fetch',
  'setTimeout',
  'setInterval',
  'crypto',
  'Buffer',
];

export default tseslint.config(
  { ignores: ['.next/', '.cache/', 'public/', 'node_modules/', 'next-env.d.ts', 'test-results/'] },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: {
      // One program for all files; a service that follows each file takes a quarter longer.
      parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowBoolean: true }],
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  // Where there are views and hooks: each file goes through the React Compiler for this.
  { ...hooks.configs.flat.recommended, files: ['src/{app,bench,features,ui}/**/*.{ts,tsx}'] },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { '@next/next': next },
    rules: { ...next.configs.recommended.rules, ...next.configs['core-web-vitals'].rules },
  },
  {
    // The core is pure: no clock, no randomness, no machine that is not passed in.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', ...impure],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(?!\\.|valibot$|ipaddr\\.js$|papaparse$|fast-xml-parser$)',
              message: 'core imports only itself, valibot, and packages that read addresses, CSV and XML',
            },
          ],
        },
      ],
    },
  },
  {
    // Scaling is exact end to end: a binary float must not slip in.
    files: ['src/core/scaling/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'CallExpression[callee.name=/^(Number|parseFloat)$/]',
          message: 'scaling stays on exact rationals',
        },
      ],
    },
  },
  { files: ['**/*.{mjs,cjs}'], ...tseslint.configs.disableTypeChecked },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  { files: ['scripts/**', 'src/cli/**'], rules: { 'no-console': 'off' } },
  { files: ['**/*.test.{ts,tsx}', 'tests/**'], rules: { '@typescript-eslint/no-non-null-assertion': 'off' } },
  prettier,
);
