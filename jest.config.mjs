import os from 'node:os';

/** @type {import('jest').Config} */
const config = {
  testEnvironment: 'node',
  roots: ['<rootDir>/src', '<rootDir>/tests'],
  testMatch: ['**/*.test.ts'],
  transform: {
    '^.+\\.[cm]?[jt]sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  // These packages ship as ES modules only.
  transformIgnorePatterns: [
    '/node_modules/(?!(htmlparser2|domhandler|domutils|dom-serializer|domelementtype|entities|ical\\.js|chrono-node|hono|@hono|better-auth|@better-auth|better-call|@better-fetch|@noble|nanostores|rou3|defu|jose|p-queue|eventemitter3|p-timeout)/)',
  ],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  // What every module of a test looks up all the time is handed to it: looked up in the test's own world it takes long.
  sandboxInjectedGlobals: ['Array', 'JSON', 'Map', 'Math', 'Number', 'Object', 'Set', 'String', 'Symbol'],
  setupFiles: ['<rootDir>/tests/generative-setup.ts'],
  // Far longer than anything takes: a busy machine is no fault of the application's.
  testTimeout: 240_000,
  // Much of what is tested waits: on a small machine one more is at work than there are processors to spare.
  maxWorkers: Math.max(2, os.cpus().length - 1),
};

export default config;
