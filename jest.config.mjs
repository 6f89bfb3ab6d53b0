/** The core's own libraries and others that ship as modules only. */
const MODULES =
  'clipper2-ts|bwip-js|nudged|saxes|kysely|d3-[a-z]+|internmap|delaunator|robust-predicates|idb|comlink|radix-ui|@radix-ui';

const shared = {
  rootDir: '.',
  setupFiles: ['<rootDir>/jest.properties.mjs'],
  transform: {
    '^.+\\.[cm]?[jt]sx?$': [
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
  },
  transformIgnorePatterns: [`/node_modules/(?!(${MODULES})/)`],
  moduleNameMapper: {
    // Its package names an .mjs only.
    '^d3-time-format$': '<rootDir>/node_modules/d3-time-format/dist/d3-time-format.js',
    // Its package names an .mjs only.
    '^bwip-js/generic$': '<rootDir>/node_modules/bwip-js/dist/bwip-js-gen.mjs',
    '^@bistre/core$': '<rootDir>/core/src/index.ts',
    '^@bistre/core/load$': '<rootDir>/core/src/lettering/load.ts',
    '^@bistre/core/bench-sim$': '<rootDir>/core/src/bench-sim/index.ts',
    '^@bistre/contract$': '<rootDir>/contract/src/index.ts',
  },
  // Looked up in the module and not through the sandbox's global object, which takes the arithmetic's time many times over.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Array',
    'Object',
    'Map',
    'Set',
    'Float64Array',
    'Uint8Array',
    'Int32Array',
  ],
};

/**
 * Unit tests beside the code: the server's against a real PostgreSQL when DATABASE_URL is set, the pages' in a
 * simulated browser.
 */
export default {
  projects: [
    {
      ...shared,
      displayName: 'core and server',
      testEnvironment: 'node',
      globalSetup: '<rootDir>/jest.setup.mjs',
      roots: ['<rootDir>/core/src', '<rootDir>/contract/src', '<rootDir>/server/src', '<rootDir>/scripts'],
      testMatch: ['**/*.test.ts'],
    },
    {
      ...shared,
      displayName: 'pages',
      testEnvironment: 'jsdom',
      setupFiles: [...shared.setupFiles, '<rootDir>/web/src/testing/browser.ts'],
      roots: ['<rootDir>/web/src'],
      testMatch: ['**/*.test.{ts,tsx}'],
    },
  ],
  // A test that hangs is ended; how fast one is, is no test’s business: the machine may have others to serve.
  testTimeout: 240_000,
  // Both cores of a small machine: by default one is left idle.
  maxWorkers: '100%',
};
