/** The one direction of dependency: core <- contract <- app; core <- files <- server, cli; scenes on core and files; witness on core; words and threads stand alone. */
const only = (from, allowed) => ({
  name: `${from}-depends-only-on-${allowed.join('-') || 'itself'}`,
  severity: 'error',
  from: { path: `^packages/${from}/src`, pathNot: '\\.test\\.ts$' },
  to: { path: '^packages/', pathNot: `^packages/(${[from, ...allowed].join('|')})/` },
});

/** The folders of a package in layers: each may use those named before it, and none that comes after. */
const CORE_LAYERS = [
  ['describe', 'kernels', 'light', 'picture', 'random', 'solve'],
  ['raster'],
  ['colour', 'filter', 'resample', 'veil'],
  ['fault', 'grain', 'measure'],
  ['target'],
  ['examine', 'fence', 'join'],
  ['estimate', 'finish', 'source'],
  ['mend'],
  ['chart', 'check', 'mark', 'recipe', 'roundtrip'],
  ['carry', 'lamp', 'ledger'],
];

const FILES_LAYERS = [['embed', 'errors'], ['read', 'write'], ['decode'], ['encode'], ['report']];

const APP_LAYERS = [
  ['chart', 'engine', 'framing', 'i18n', 'testing', 'theme', 'timing'],
  ['api', 'describe'],
  ['sync'],
  ['stores'],
  ['actions', 'canvas', 'controls', 'head', 'history'],
  ['fence', 'gestures', 'lamp', 'round'],
  ['ledger', 'table', 'treat'],
  ['bars', 'proof'],
  ['pages'],
];

/** By the context that runs them: the page, the worker that paints, those that mend, those that rebuild; `paint` runs in all. */
const ENGINE_LAYERS = [['paint', 'rebuild'], ['table'], ['mend'], ['page']];

const SERVER_LAYERS = [
  ['database', 'errors', 'gate'],
  ['queue', 'rows'],
  ['events', 'store'],
  ['threads', 'upkeep'],
  ['intake'],
  ['context'],
  ['bin', 'charts', 'examine', 'history', 'people', 'service'],
  ['pictures'],
  ['deliver'],
  ['runs'],
  ['http'],
  ['start'],
];

const CLI_LAYERS = [['errors', 'threads'], ['pictures'], ['options'], ['commands']];

/** One rule for each layer: what lies above it is out of its reach, and so are its neighbours. */
const layered = (root, layers) =>
  layers.flatMap((folders, index) =>
    folders.map((folder) => ({
      name: `${root.replace('packages/', '').replace('/src', '')}-${folder}-uses-only-what-lies-below-it`,
      severity: 'error',
      comment: 'Folders have one way between them; what two of them need lies below both.',
      from: { path: `^${root}/${folder}/`, pathNot: '\\.test\\.ts$' },
      to: {
        path: `^${root}/(${
          layers
            .slice(index)
            .flat()
            .filter((name) => name !== folder)
            .join('|') || 'none'
        })/`,
      },
    })),
  );

module.exports = {
  forbidden: [
    only('core', []),
    only('words', []),
    only('contract', ['core']),
    only('files', ['core', 'words']),
    only('app', ['core', 'contract', 'words']),
    only('witness', ['core']),
    only('server', ['core', 'contract', 'files', 'threads', 'witness', 'words']),
    only('cli', ['core', 'contract', 'files', 'threads', 'witness', 'words']),
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
    ...layered('packages/core/src', CORE_LAYERS),
    ...layered('packages/files/src', FILES_LAYERS),
    ...layered('packages/app/src', APP_LAYERS),
    ...layered('packages/app/src/engine', ENGINE_LAYERS),
    ...layered('packages/server/src', SERVER_LAYERS),
    ...layered('packages/cli/src', CLI_LAYERS),
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
