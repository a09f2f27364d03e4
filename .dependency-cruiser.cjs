/** The architecture: imports go down this list only. */
const order = ['app', 'views', 'ui', 'data', 'workers', 'media', 'core'];
const tests = '\\.test\\.ts$';
/** Each part of a folder imports only those after it in the list. */
const downwards = (folder, parts, pathNot) =>
  parts.slice(1).map((part, i) => ({
    name: `${part}-imports-nothing-above`,
    severity: 'error',
    from: { path: `^${folder}/${part}/`, ...(pathNot && { pathNot }) },
    to: { path: `^${folder}/(${parts.slice(0, i + 1).join('|')})/` },
  }));

module.exports = {
  forbidden: [
    ...downwards('src', order),
    ...downwards('src/core', ['check', 'edit', 'evaluate', 'document'], tests),
    {
      name: 'views-do-not-import-each-other',
      severity: 'error',
      from: { path: '^src/views/([^/]+)/' },
      to: { path: '^src/views/([^/]+)/', pathNot: '^src/views/($1|shared)/' },
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
      from: { path: '^src/core/([^/]+)/', pathNot: tests },
      to: { path: '^src/core/(?!$1/)[^/]+/(?!index\\.ts$)' },
    },
    {
      name: 'core-is-plain-typescript',
      severity: 'error',
      from: { path: '^src/core/', pathNot: tests },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'], pathNot: 'node_modules/(zod|fft\\.js|ml-matrix|suncalc|midi-file|papaparse)/' },
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
