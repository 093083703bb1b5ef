/**
 * Floors: imports run down, never up or sideways. Between packages, between the folders of core, and between those of app.
 */

/** Packages with those below them. app may import types of server for its client. */
const packages = {
  core: [],
  formats: ['core'],
  render: ['core', 'formats'],
  authoring: ['core', 'formats', 'render'],
  demo: ['core', 'formats', 'render', 'authoring'],
  server: ['core', 'formats', 'render', 'authoring', 'demo'],
  cli: ['core', 'formats', 'render', 'authoring', 'demo'],
  app: ['core', 'formats', 'render', 'authoring'],
  bench: ['core', 'formats', 'render', 'authoring', 'demo', 'server'],
}
const all = [...Object.keys(packages), 'e2e']
const tests = '(\\.test\\.tsx?$|\\.long\\.ts$|/test/)'

const packageRules = Object.entries(packages).map(([name, below]) => ({
  name: `${name}-imports-down`,
  severity: 'error',
  from: { path: `^${name}/`, pathNot: tests },
  to: {
    path: `^(${all.filter((other) => other !== name && !below.includes(other)).join('|')})/`,
    ...(name === 'app' ? { dependencyTypesNot: ['type-only'] } : {}),
  },
}))

/**
 * Folders of core from the lowest floor up: what knows no capability, algorithms, capabilities, what puts them together, and capabilities
 * that work on evaluated puppets.
 */
const core = [
  ...['kernel', 'maths', 'speech', 'artwork'],
  ...['parts', 'roles', 'layering', 'bones', 'binds', 'deformers', 'constraints', 'skeleton', 'placement', 'alternates'],
  ...[
    'views',
    'cutting',
    'joints',
    'controls',
    'responses',
    'simulation',
    'springs',
    'idle',
    'strides',
    'poses',
    'clips',
    'staging',
    'twins',
  ],
  'puppet',
  ...['touch', 'posing', 'meshing', 'recording', 'playing', 'motions', 'face', 'templates', 'update', 'reports', 'rangeTest'],
]

/**
 * Folders of app from the lowest floor up: what any interface needs, the server and the browser's storage, heavy work, the editor, the stage, kits for panels, a folder for each
 * capability, their table, and the frame that loops over it.
 */
const feature = (name) => `features/${name}`
const app = [
  ...['ui', 'skia', 'storage', 'jobs', 'editor', 'sound', 'pictures', 'stage', 'panels'],
  ...['send', 'library', 'update', 'templates', 'touch', 'twins', 'views', 'constraints', 'deformers', 'staging', 'joints'].map(feature),
  ...[
    'layering',
    'posing',
    'responses',
    'controls',
    'face',
    'clips',
    'springs',
    'strides',
    'cutting',
    'rangeTest',
    'bones',
    'binds',
    'parts',
    'puppet',
  ].map(feature),
  'features/features',
  'frame',
]

/** Types that folders of core may take from above: those of records, and of the whole puppet. */
const CORE_TYPES = '^core/(puppet/(schema|part)|[a-z]+/records)\\.ts$'

/** Rules that keep the folders of a package in their order. */
const floors = (root, folders, but) =>
  folders.slice(0, -1).map((folder, rank) => ({
    name: `${root}-${folder.replace('/', '-')}-imports-down`,
    severity: 'error',
    from: { path: `^${root}/${folder}(/|\\.ts$)`, pathNot: tests },
    to: { path: `^${root}/(${folders.slice(rank + 1).join('|')})(/|\\.ts$)`, ...(but ? { pathNot: but } : {}) },
  }))

/** A folder that has no place among the floors yet. */
const unplaced = (root, folders, files) => ({
  name: `${root}-folders-have-a-floor`,
  severity: 'error',
  from: { path: `^${root}/`, pathNot: `${tests}|^${root}/(${[...folders, ...files].join('|')})(/|\\.ts$|\\.tsx$|\\.d\\.ts$|$)` },
  to: {},
})

module.exports = {
  forbidden: [
    ...packageRules,
    ...floors('core', core, CORE_TYPES),
    unplaced('core', core, ['types']),
    {
      name: 'core-takes-types-alone-from-above',
      severity: 'error',
      from: { path: `^core/(${core.slice(0, core.indexOf('puppet')).join('|')})/`, pathNot: tests },
      to: { path: '^core/puppet/', dependencyTypesNot: ['type-only'] },
    },
    ...floors('app', app),
    unplaced('app', app, ['main', 'env', 'vite\\.config']),
    { name: 'no-cycles', severity: 'error', from: { pathNot: tests }, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/', pathNot: tests },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-needs-little',
      comment: 'packages that core may have',
      severity: 'error',
      from: { path: '^core/', pathNot: tests },
      to: { path: 'node_modules', pathNot: 'node_modules/(zod|immer|cdt2d|fft\\.js|paper|polygon-clipping|robust-predicates)/' },
    },
    ...Object.entries({ paper: 'booleans', 'polygon-clipping': 'polygons' }).map(([engine, file]) => ({
      name: `${engine}-is-known-to-one-file`,
      severity: 'error',
      from: { path: '^core/', pathNot: `${tests}|^core/maths/geometry/${file}\\.ts$` },
      to: { path: `node_modules/${engine}/` },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    // What is built here; packages keep theirs, or nobody would see which are used.
    exclude: { path: ['^dist/', '^(app|server|render)/dist/'] },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
}
