/** Unit tests stand beside what they test; the browser tests have a configuration of their own. */
export default {
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  testEnvironment: 'node',
  // The words that are said, as the server has them.
  setupFiles: ['<rootDir>/src/messages/onServer.ts'],
  // Some code videos; on a busy machine that takes its time.
  testTimeout: 240_000,
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '^use-intl/format-message$': '<rootDir>/node_modules/use-intl/dist/esm/production/format-message/format-only.js',
  },
  modulePathIgnorePatterns: ['<rootDir>/.next/', '<rootDir>/dist/', '<rootDir>/.yarn-step/'],
  transform: {
    '^.+\\.tsx?$': [
      '<rootDir>/tests/support/transform.mjs',
      { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' }, module: { type: 'es6' } },
    ],
  },
}
