/** Unit tests stand beside what they test; the browser tests have a configuration of their own. */
export default {
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  testEnvironment: 'node',
  testTimeout: 60_000,
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next/', '<rootDir>/dist/', '<rootDir>/.yarn-step/'],
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' }, module: { type: 'es6' } },
    ],
  },
}
