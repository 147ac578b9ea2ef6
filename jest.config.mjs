/** One project in Node; sources of the workspaces are taken directly, without a build. */
export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/packages'],
  testMatch: ['**/src/**/*.test.ts', '**/src/**/*.test.tsx'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': [
      '<rootDir>/tools/jest-transform.mjs',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: false, decorators: true },
          transform: { legacyDecorator: true, decoratorMetadata: true, react: { runtime: 'automatic' } },
          target: 'es2022',
        },
        module: { type: 'es6' },
      },
    ],
  },
  moduleNameMapper: {
    '^@viaticum/(core|kernels)/([a-z-]+)$': '<rootDir>/packages/$1/src/$2/index.ts',
    '^@viaticum/standins$': '<rootDir>/packages/standins/src/index.ts',
    '^@viaticum/print$': '<rootDir>/packages/print/src/index.ts',
    '^@viaticum/contract$': '<rootDir>/packages/contract/src/index.ts',
    '\\.css$': '<rootDir>/tools/style-stub.mjs',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
  // Jest would leave one of two cores idle.
  maxWorkers: process.env.JEST_WORKERS ?? 2,
  testTimeout: 60_000,
};
