const swc = {
  '^.+\\.ts$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' }, module: { type: 'es6' } }],
};
const node = (name) => ({
  displayName: name,
  rootDir: name,
  testEnvironment: 'node',
  testMatch: ['**/*.test.ts'],
  transform: swc,
  extensionsToTreatAsEsm: ['.ts'],
});

export default {
  // Server tests make databases and run hundreds of rounds: no test is failed for the time it takes.
  testTimeout: 300_000,
  projects: [
    node('core'),
    node('contract'),
    node('server'),
    {
      displayName: 'web',
      rootDir: 'web',
      preset: 'jest-preset-angular',
      testEnvironment: 'jsdom',
      testMatch: ['**/*.spec.ts'],
      // Only a browser starts a worker: specs answer from the same code at once.
      moduleNameMapper: { '/start-what-if-worker$': '<rootDir>/src/app/orders/test-what-if-worker.ts' },
      setupFilesAfterEnv: ['<rootDir>/src/test-setup.ts'],
      transform: { '^.+\\.(ts|mjs|js|html)$': ['jest-preset-angular', { tsconfig: '<rootDir>/tsconfig.spec.json', stringifyContentPathRegex: '\\.html$' }] },
      transformIgnorePatterns: ['node_modules/(?!(.*\\.mjs$|@angular/|rxjs/|d3-|internmap|date-fns|big\\.js|papaparse))'],
    },
  ],
};
