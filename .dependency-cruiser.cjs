/** Allow-list of import directions (docs/architecture.md). A folder that is not named here may import nothing. */
const may = {
  core: ['core'],
  standin: ['standin', 'core'],
  link: ['link', 'messages', 'standin', 'core'],
  messages: ['messages', 'link', 'standin', 'store', 'core'],
  yard: ['yard', 'standin', 'core'],
  bridge: ['bridge', 'link', 'messages', 'core'],
  store: ['store', 'core'],
  ui: ['ui', 'core'],
  bench: ['bench', 'core', 'link', 'messages', 'store'],
  workers: ['workers', 'core', 'standin', 'link', 'messages', 'store'],
  cli: ['cli', 'core', 'link', 'standin'],
  offline: ['offline'],
  app: ['app', 'offline', 'features', 'bench', 'ui', 'store', 'link', 'messages', 'core', 'bridge', 'yard'],
};
const rules = Object.entries(may).map(([from, to]) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^src/${from}/`, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^src/', pathNot: `^src/(${to.join('|')})/` },
}));

module.exports = {
  forbidden: [
    ...rules,
    {
      name: 'features-stay-apart',
      comment: 'features meet in bench and ui, never in each other',
      severity: 'error',
      from: { path: '^src/features/([^/]+)/' },
      to: { path: '^src/(features|app|workers|cli|standin)/', pathNot: '^src/features/$1/' },
    },
    {
      name: 'core-packages',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core'],
        pathNot: 'node_modules/(valibot|ipaddr\\.js|(@types/)?papaparse|fast-xml-parser)/',
      },
    },
    {
      name: 'standin-writes-its-own',
      comment: 'the stand-in is a second implementation: sheet, words model, clock and types of core, not its codecs',
      severity: 'error',
      from: { path: '^src/standin/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/', pathNot: '^src/core/(sheet|words|line|time|random|dialect)/' },
    },
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.json'],
      exportsFields: ['exports'],
      conditionNames: ['import', 'default', 'types'],
    },
  },
};
