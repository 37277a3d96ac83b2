import nextVitals from 'eslint-config-next/core-web-vitals';
import boundaries from 'eslint-plugin-boundaries';
import tseslint from 'typescript-eslint';

/** The rooms of the house, from the ground floor up: each may use those named, and itself. */
const rooms = {
  core: [],
  channels: ['core'],
  store: ['core'],
  house: ['core', 'channels', 'store'],
  runner: ['core', 'channels', 'store', 'house'],
  // Types alone: what the desk gives and the screens take.
  views: ['core', 'channels'],
  desk: ['core', 'channels', 'store', 'house', 'runner', 'views'],
  ui: ['core', 'channels', 'views'],
  app: ['core', 'channels', 'desk', 'ui', 'views'],
};
/** The rooms inside the core, from the ground floor up: each may use those above it in this list, and itself. */
const coreRooms = [
  'base',
  'people',
  'dates',
  'findings',
  'record',
  'recurrence',
  'facts',
  'pictures',
  'words',
  'listing',
  'errands',
  'clashes',
  'formats',
];
const names = Object.keys(rooms);

/** A room as the element types of the walls: the core is made of rooms of its own. */
const typesOf = (name) => (name === 'core' ? [...coreRooms, 'testing'].map((room) => `core-${room}`) : [name]);

export default tseslint.config(
  {
    ignores: ['.next/**', 'node_modules/**', 'data/**', 'test-results/**', 'next-env.d.ts', 'src/store/migrations/**'],
  },
  ...nextVitals,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-restricted-globals': ['error', { name: 'name', message: 'a forgotten variable' }],
      'max-lines': ['error', { max: 450, skipBlankLines: true, skipComments: true }],
      // A function is read without scrolling.
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-dynamic-delete': 'off',
      'no-useless-rename': 'error',
      'object-shorthand': ['error', 'properties'],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'boundaries/elements': [
        ...coreRooms.map((name) => ({ type: `core-${name}`, pattern: `src/core/${name}/**`, partialMatch: false })),
        { type: 'core-testing', pattern: 'src/core/testing/**', partialMatch: false },
        ...names
          .filter((name) => name !== 'core')
          .map((name) => ({ type: name, pattern: `src/${name}/**`, partialMatch: false })),
      ],
      'import/resolver': { typescript: { project: './tsconfig.json' } },
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            ...names
              .filter((name) => name !== 'core')
              .map((name) => ({
                from: { element: { type: name } },
                allow: [name, ...rooms[name]].flatMap(typesOf).map((type) => ({ to: { element: { type } } })),
              })),
            ...coreRooms.map((name, i) => ({
              from: { element: { type: `core-${name}` } },
              allow: coreRooms.slice(0, i + 1).map((room) => ({ to: { element: { type: `core-${room}` } } })),
            })),
            {
              from: { element: { type: 'core-testing' } },
              allow: typesOf('core').map((type) => ({ to: { element: { type } } })),
            },
          ],
        },
      ],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '(^|/)(outside|demo|bench|e2e|tests)(/|$)',
              message: 'the application never reaches into what is outside it',
            },
          ],
        },
      ],
    },
  },
  {
    // A subject's tests stand together, however many they are.
    files: ['**/*.test.ts', '**/*.spec.ts'],
    rules: {
      'max-lines': ['error', { max: 600, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': 'off',
    },
  },
  {
    // What tests stand on, and the scenario, are told in one piece.
    files: ['tests/**/*.ts', 'demo/**/*.ts'],
    rules: { 'max-lines-per-function': 'off' },
  },
  {
    // Tests may ask any room of the core for what they hold against each other.
    files: ['src/core/**/*.test.ts'],
    rules: { 'boundaries/dependencies': 'off' },
  },
  {
    // The mind of the product: no interface, no input or output, no clock of its own.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: ['node:*', 'react', 'next', 'next/*', 'drizzle-orm*', 'better-sqlite3', 'sharp', '@/*'] },
      ],
      'no-restricted-globals': ['error', 'fetch', 'process', 'window', 'document'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'time comes in as a parameter' },
        { object: 'Math', property: 'random', message: 'chance comes in as a parameter' },
      ],
    },
  },
  {
    files: ['outside/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '(^@/|/src/)', message: 'what is outside knows nothing of the application' }] },
      ],
    },
  },
  {
    files: ['scripts/**', 'e2e/**', 'demo/**', 'bench/**', 'outside/**', '**/*.mjs'],
    rules: { 'react-hooks/rules-of-hooks': 'off' },
  },
);
