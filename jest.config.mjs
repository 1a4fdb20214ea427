const oneModule = { '\\.test\\.ts$': '<rootDir>/scripts/testing/one-module.mjs' }
const common = {
  extensionsToTreatAsEsm: ['.ts'],
  testEnvironment: 'node',
  transform: { '^.+\\.ts$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } }, module: { type: 'es6' } }] },
}

/** core needs nothing; server needs a database (CIRCUITRY_DB_*); api needs a running server (CIRCUITRY_TEST_URL). */
export default {
  projects: [
    {
      ...common,
      displayName: 'core',
      testMatch: ['<rootDir>/core/**/*.test.ts'],
      transform: { ...oneModule, ...common.transform },
    },
    { ...common, displayName: 'link', testMatch: ['<rootDir>/link/**/*.test.ts'] },
    {
      ...common,
      displayName: 'app',
      testMatch: ['<rootDir>/app/**/*.test.ts'],
      moduleNameMapper: { '^~/(.*)$': '<rootDir>/app/$1' },
    },
    {
      ...common,
      displayName: 'server',
      testMatch: ['<rootDir>/server/**/*.test.ts'],
      transform: { ...oneModule, ...common.transform },
    },
    { ...common, displayName: 'api', testMatch: ['<rootDir>/e2e/api/**/*.test.ts'] },
  ],
}
