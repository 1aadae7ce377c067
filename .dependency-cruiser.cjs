/** The one direction of dependency: core <- contract <- app; core <- files <- server, cli; scenes on core and files; threads stand alone. */
const only = (from, allowed) => ({
  name: `${from}-depends-only-on-${allowed.join('-') || 'itself'}`,
  severity: 'error',
  from: { path: `^packages/${from}/src`, pathNot: '\\.test\\.ts$' },
  to: { path: '^packages/', pathNot: `^packages/(${[from, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    only('core', []),
    only('contract', ['core']),
    only('files', ['core']),
    only('app', ['core', 'contract']),
    only('server', ['core', 'contract', 'files', 'threads']),
    only('cli', ['core', 'contract', 'files', 'threads']),
    only('scenes', ['core', 'files', 'threads']),
    only('threads', []),
    {
      name: 'core-knows-no-platform',
      severity: 'error',
      comment: 'The computation runs in a browser worker and on the server alike: no Node, no framework.',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$|/testing/' },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev', 'npm-optional', 'npm-peer'] },
    },
    {
      name: 'what-is-for-tests-stays-with-tests',
      severity: 'error',
      from: { pathNot: '\\.test\\.ts$|/testing/' },
      to: { path: '/testing/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'packages-meet-at-their-front-door',
      severity: 'error',
      comment: 'Another package is entered through its exports, not through its rooms.',
      from: { path: '^packages/([^/]+)/src' },
      to: {
        path: '^packages/([^/]+)/src/.+/',
        // What the package's own exports name is a door.
        pathNot: '^packages/$1/|/index\\.ts$',
      },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'dist/|scenes/pictures' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.vue', '.js', '.mjs'],
    },
  },
};
