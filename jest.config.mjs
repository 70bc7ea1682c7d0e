/** Jest: core, render, server and cli, each from its sources; the render child is built first. */
const esmOnly = [
  'nanoid',
  'chokidar',
  'p-limit',
  'readdirp',
  'yocto-queue',
  'svgo',
  'flatbush',
  'flatqueue',
  'fractional-indexing',
  '@noble',
  'pixelmatch',
  'saxes',
  'css-tree',
  'xmlchars',
  'idb-keyval',
  'eventsource',
  'eventsource-parser',
  'culori',
  'css-select',
  'css-what',
  'domutils',
  'domhandler',
  'domelementtype',
  'nth-check',
  'boolbase',
  'dom-serializer',
  'entities',
];

export default {
  testMatch: [
    '<rootDir>/packages/*/test/**/*.test.ts',
    '<rootDir>/scripts/test/**/*.test.ts',
    '<rootDir>/torture/test/**/*.test.ts',
    '<rootDir>/fidelity/test/**/*.test.ts',
  ],
  testEnvironment: 'node',
  testSequencer: '<rootDir>/scripts/jest-order.mjs',
  // Tests wait for states and not for times, so that no core has to be left over for anybody.
  maxWorkers: '100%',
  // Globals are looked up through the sandbox each time, which is most of the time of loops over pixels.
  sandboxInjectedGlobals: ['Math'],
  globalSetup: '<rootDir>/scripts/jest-setup.mjs',
  globalTeardown: '<rootDir>/scripts/jest-teardown.mjs',
  transform: {
    '\\.sql$': '<rootDir>/scripts/jest-text.mjs',
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  transformIgnorePatterns: [`/node_modules/(?!(${esmOnly.join('|')})/)`],
  moduleNameMapper: {
    '^svgo/browser$': '<rootDir>/node_modules/svgo/dist/svgo.browser.js',
    '^culori/fn$': '<rootDir>/node_modules/culori/src/index-fn.js',
    '^@noble/hashes/(.*)\\.js$': '<rootDir>/node_modules/@noble/hashes/$1.js',
  },
  setupFiles: ['<rootDir>/scripts/jest-properties.mjs'],
  // A shared machine may stall for many seconds; no test measures time.
  testTimeout: process.env.PROPERTY_TIMES ? 1_200_000 : 300_000,
};
