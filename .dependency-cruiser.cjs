/** Layers: imports run down this list, never up or sideways. app may import types of server for its client. */
const layers = { core: [], formats: ['core'], render: ['core', 'formats'], demo: ['core', 'formats', 'render'] }
const tops = {
  server: ['core', 'formats', 'render', 'demo'],
  cli: ['core', 'formats', 'render', 'demo'],
  app: ['core', 'formats', 'render'],
  bench: ['core', 'formats', 'render', 'demo', 'server'],
}
const all = ['core', 'formats', 'render', 'demo', 'server', 'cli', 'app', 'bench', 'e2e']
const rules = Object.entries({ ...layers, ...tops }).map(([layer, allowed]) => ({
  name: `${layer}-imports-down`,
  severity: 'error',
  from: { path: `^${layer}/`, pathNot: '\\.test\\.tsx?$' },
  to: {
    path: `^(${all.filter((l) => l !== layer && !allowed.includes(l)).join('|')})/`,
    ...(layer === 'app' ? { dependencyTypesNot: ['type-only'] } : {}),
  },
}))

module.exports = {
  forbidden: [
    ...rules,
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.test\\.ts$|^core/test/)' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-needs-little',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.test\\.ts$|^core/test/)' },
      to: { path: 'node_modules', pathNot: 'node_modules/(zod|immer|cdt2d|fft.js|polygon-clipping|robust-predicates)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|node_modules/\\.vite)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
}
