const transform = {
  '^.+\\.(ts|tsx)$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', tsx: true },
        // Components remember what they drew, as in the build: a key draws what it changes, and no test is of another program.
        transform: { react: { runtime: 'automatic' }, reactCompiler: true },
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
  // Looked up in the sandbox each would cost more than many a function that uses it. No test replaces one of these; Promise is not among them, since the database does.
  sandboxInjectedGlobals: [
    'Array',
    'BigInt',
    'DataView',
    'Error',
    'JSON',
    'Map',
    'Math',
    'Number',
    'Object',
    'RegExp',
    'Set',
    'String',
    'Symbol',
    'Uint8Array',
    'WeakMap',
  ],
};

/** Two projects: plain Node for everything that has no view, jsdom for the few component tests. */
export default {
  // It only ends what hangs, on a computer that others share too.
  testTimeout: 90_000,
  // On two cores the usual “all but one” leaves half of the machine idle.
  maxWorkers: '100%',
  testSequencer: '<rootDir>/tests/slow-first.cjs',
  projects: [
    {
      ...shared,
      displayName: 'node',
      testEnvironment: '<rootDir>/tests/node-environment.cjs',
      testMatch: ['**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'jsdom',
      testEnvironment: '<rootDir>/tests/jsdom-environment.cjs',
      setupFilesAfterEnv: ['<rootDir>/tests/jsdom-setup.ts'],
      testMatch: ['**/*.test.tsx'],
      moduleNameMapper: { ...shared.moduleNameMapper, '^@emotion/sheet$': '<rootDir>/tests/no-styles.cjs' },
    },
  ],
};
