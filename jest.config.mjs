const swc = {
  jsc: {
    parser: { syntax: 'typescript', tsx: true },
    target: 'es2022',
    transform: { react: { runtime: 'automatic' } },
  },
  module: { type: 'es6' },
};

export default {
  setupFiles: ['<rootDir>/scripts/jestGlobals.mjs'],
  rootDir: '.',
  roots: ['<rootDir>/core/src', '<rootDir>/contract/src', '<rootDir>/server/src', '<rootDir>/web/src'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': ['<rootDir>/scripts/jestSwc.mjs', swc],
    'node_modules/@lezer/.+\\.js$': '<rootDir>/scripts/jestPackage.mjs',
  },
  transformIgnorePatterns: ['node_modules/(?!@lezer/)'],
  globalSetup: '<rootDir>/scripts/testPrograms.mjs',
  testTimeout: 90000,
  maxWorkers: 2,
  testSequencer: '<rootDir>/scripts/longFirst.mjs',
};
