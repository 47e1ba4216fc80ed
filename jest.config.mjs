const transform = {
  '^.+\\.(ts|tsx)$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', tsx: true },
        transform: { react: { runtime: 'automatic' } },
        target: 'es2022',
      },
      module: { type: 'commonjs' },
    },
  ],
};
const shared = {
  transform,
  moduleNameMapper: { '\\.css$': '<rootDir>/tests/style-stub.cjs' },
  testPathIgnorePatterns: ['/node_modules/', '/.next/', '/tests/browser/'],
  modulePathIgnorePatterns: ['<rootDir>/.next/', '<rootDir>/.cache/'],
};

/** Two projects: plain Node for everything that has no view, jsdom for the few component tests. */
export default {
  testTimeout: 30_000,
  // On two cores the usual “all but one” leaves half of the machine idle.
  maxWorkers: '100%',
  testSequencer: '<rootDir>/tests/slow-first.cjs',
  projects: [
    { ...shared, displayName: 'node', testEnvironment: 'node', testMatch: ['**/*.test.ts'] },
    {
      ...shared,
      displayName: 'jsdom',
      testEnvironment: '<rootDir>/tests/jsdom-environment.cjs',
      setupFilesAfterEnv: ['<rootDir>/tests/jsdom-setup.ts'],
      testMatch: ['**/*.test.tsx'],
    },
  ],
};
