import nextVitals from 'eslint-config-next/core-web-vitals';
import boundaries from 'eslint-plugin-boundaries';
import tseslint from 'typescript-eslint';

/** The rooms of the house, from the ground floor up: each may use those named, and itself. */
const rooms = {
  core: [],
  channels: ['core'],
  store: ['core'],
  runner: ['core', 'channels', 'store'],
  desk: ['core', 'channels', 'store', 'runner'],
  ui: ['core', 'channels'],
  app: ['core', 'channels', 'desk', 'ui'],
};
const names = Object.keys(rooms);

export default tseslint.config(
  { ignores: ['.next/**', 'node_modules/**', 'data/**', 'test-results/**', 'next-env.d.ts', 'src/store/migrations/**'] },
  ...nextVitals,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-restricted-globals': ['error', { name: 'name', message: 'a forgotten variable' }],
      'max-lines': ['error', { max: 350, skipBlankLines: true }],
      '@typescript-eslint/no-dynamic-delete': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'boundaries/elements': names.map((name) => ({ type: name, pattern: `src/${name}/**`, partialMatch: false })),
      'import/resolver': { typescript: { project: './tsconfig.json' } },
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: names.map((name) => ({
            from: { element: { type: name } },
            allow: [name, ...rooms[name]].map((type) => ({ to: { element: { type } } })),
          })),
        },
      ],
      'no-restricted-imports': ['error', { patterns: [{ regex: '(^|/)(outside|demo|bench|e2e|tests)(/|$)', message: 'the application never reaches into what is outside it' }] }],
    },
  },
  {
    // The mind of the product: no interface, no input or output, no clock of its own.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['node:*', 'react', 'next', 'next/*', 'drizzle-orm*', 'better-sqlite3', 'sharp', '@/*'] }],
      'no-restricted-globals': ['error', 'fetch', 'process', 'window', 'document'],
      'no-restricted-properties': ['error', { object: 'Date', property: 'now', message: 'time comes in as a parameter' }, { object: 'Math', property: 'random', message: 'chance comes in as a parameter' }],
    },
  },
  {
    files: ['outside/**/*.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: [{ regex: '(^@/|/src/)', message: 'what is outside knows nothing of the application' }] }] },
  },
  { files: ['scripts/**', 'e2e/**', 'demo/**', 'bench/**', 'outside/**', '**/*.mjs'], rules: { 'react-hooks/rules-of-hooks': 'off' } },
);
