/** Arrows only point down: web → contract, core; server → contract, core; contract → core; core → small pure libraries. */
/** Every folder with a door: all but `http`, whose files each are a tool for everybody. */
const areas = '(?!http/)[^/]+';

module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    // The types of pdfmake stand in a package of their own, which has no code to be found.
    { name: 'no-orphan-import', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '^pdfmake/interfaces$' } },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/src', pathNot: '[.]test[.]ts$' },
      to: { path: '^(contract|server|web|demo|e2e|bench|soak)/' },
    },
    {
      name: 'core-has-no-outside',
      comment: 'The core runs unchanged in Node, in a worker and on the command line.',
      severity: 'error',
      from: { path: '^core/src', pathNot: '[.]test[.]ts$' },
      to: {
        dependencyTypesNot: ['local', 'aliased-workspace'],
        pathNot: '^(core/src|node_modules/(big[.]js|date-fns|papaparse|fast-xml-parser|@types/big[.]js|@types/papaparse)/)',
      },
    },
    { name: 'contract-knows-only-core', severity: 'error', from: { path: '^contract/' }, to: { path: '^(server|web|demo|e2e|bench|soak)/' } },
    { name: 'server-knows-no-web', severity: 'error', from: { path: '^server/' }, to: { path: '^(web|e2e|bench|soak)/' } },
    { name: 'web-knows-no-server', severity: 'error', from: { path: '^web/' }, to: { path: '^(server|demo|e2e|bench|soak)/' } },
    {
      name: 'areas-through-their-door',
      comment: 'An area is reached through its index.ts only; within an area files import each other.',
      severity: 'error',
      from: { path: `^(core|contract|server)/src/([^/]+)/`, pathNot: '([.]test|/sample-[a-z]+)[.]ts$' },
      to: { path: `^$1/src/${areas}/`, pathNot: ['^$1/src/$2/', '/index[.]ts$'] },
    },
    {
      name: 'what-everybody-uses-knows-no-area',
      comment: 'Requests, refusals and turns are used by every area and know none: the server is put together in app.',
      severity: 'error',
      from: { path: '^server/src/http/' },
      to: { path: '^server/src/', pathNot: '^server/src/(?:http|database|jobs|sessions|work)/|^server/src/(?:clock|log)[.]ts$' },
    },
    {
      name: 'the-server-is-put-together-once',
      severity: 'error',
      from: { path: '^server/src/', pathNot: '^server/src/(?:app/|main[.]ts$)' },
      to: { path: '^server/src/app/' },
    },
    {
      name: 'web-areas-through-their-door',
      severity: 'error',
      from: { path: '^web/src/app/([^/]+)/', pathNot: '[.]spec[.]ts$' },
      to: { path: '^web/src/app/[^/]+/', pathNot: ['^web/src/app/$1/', '/index[.]ts$'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|[.]angular)/' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
      extensions: ['.ts', '.js', '.mjs', '.cjs', '.json'],
    },
  },
};
