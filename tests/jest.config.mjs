/** Browser tests: they start the whole application and do in Chromium what a user does. */
export default {
  rootDir: '..',
  testMatch: ['<rootDir>/tests/**/*.test.ts'],
  testEnvironment: '<rootDir>/tests/support/environment.mjs',
  setupFiles: ['<rootDir>/src/messages/onServer.ts'],
  globalSetup: '<rootDir>/tests/support/makeDemo.mjs',
  // A busy machine may take several times as long as a quiet one.
  testTimeout: 1_800_000,
  extensionsToTreatAsEsm: ['.ts'],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '^use-intl/format-message$': '<rootDir>/node_modules/use-intl/dist/esm/production/format-message/format-only.js',
  },
  modulePathIgnorePatterns: ['<rootDir>/.next/', '<rootDir>/dist/', '<rootDir>/.yarn-step/'],
  transform: {
    '^.+\\.ts$': [
      '<rootDir>/tests/support/transform.mjs',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'es6' } },
    ],
  },
}
