/** The architecture: imports go down this list only. */
const order = ['app', 'views', 'ui', 'data', 'workers', 'media', 'core'];
const layers = order.slice(1).map((layer, i) => ({
  name: `${layer}-imports-nothing-above`,
  severity: 'error',
  from: { path: `^src/${layer}/` },
  to: { path: `^src/(${order.slice(0, i + 1).join('|')})/` },
}));

module.exports = {
  forbidden: [
    ...layers,
    {
      name: 'views-do-not-import-each-other',
      severity: 'error',
      from: { path: '^src/views/([^/]+)/' },
      to: { path: '^src/views/([^/]+)/', pathNot: '^src/views/($1|shared)/' },
    },
    {
      name: 'a-document-knows-no-evaluation',
      severity: 'error',
      from: { path: '^src/core/document/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/(evaluate|edit|check)/' },
    },
    {
      name: 'evaluation-knows-no-edits',
      severity: 'error',
      from: { path: '^src/core/evaluate/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/(edit|check)/' },
    },
    {
      name: 'only-the-front-door',
      comment: 'A folder of core is entered through its index.ts',
      severity: 'error',
      from: { path: '^(src/(app|views|ui|data|workers|media)|scripts|e2e|bench)/' },
      to: { path: '^src/core/[^/]+/(?!index\\.ts$)' },
    },
    {
      name: 'only-the-front-door-inside-core',
      severity: 'error',
      from: { path: '^src/core/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/(?!$1/)[^/]+/(?!index\\.ts$)' },
    },
    {
      name: 'core-is-plain-typescript',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'], pathNot: 'node_modules/(zod|fft\\.js|suncalc|midi-file|papaparse)/' },
    },
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    { name: 'no-unresolved', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] },
  },
};
