/** The rules of the floors, tried on imports that must not be. What imports what is found by dependency-cruiser (npm run check:layers). */
import { createRequire } from 'node:module'
import { expect, test } from 'vitest'

interface Side {
  readonly path?: string
  readonly pathNot?: string
  readonly dependencyTypesNot?: readonly string[]
}
interface Rule {
  readonly name: string
  readonly from: Side
  readonly to: Side & { readonly circular?: boolean; readonly dependencyTypes?: readonly string[] }
}

const { forbidden } = createRequire(import.meta.url)('../../.dependency-cruiser.cjs') as { forbidden: readonly Rule[] }

const isIn = ({ path, pathNot }: Side, file: string): boolean =>
  (path === undefined || new RegExp(path).test(file)) && (pathNot === undefined || !new RegExp(pathNot).test(file))

/** Names of the rules that an import breaks. */
const broken = (from: string, to: string, type: 'value' | 'type-only' = 'value'): string[] =>
  forbidden
    .filter((rule) => !rule.to.circular && !rule.to.dependencyTypes && isIn(rule.from, from) && isIn(rule.to, to))
    .filter((rule) => !rule.to.dependencyTypesNot?.includes(type))
    .map((rule) => rule.name)

test('an import upward inside core is refused, as a value and as a type', () => {
  expect(broken('core/kernel/ids.ts', 'core/bones/tree.ts')).toEqual(['core-kernel-imports-down'])
  expect(broken('core/bones/tree.ts', 'core/deformers/stack.ts', 'type-only')).toEqual(['core-bones-imports-down'])
  expect(broken('core/bones/commands.ts', 'core/puppet/channels.ts')).not.toEqual([])
  expect(broken('core/puppet/compile.ts', 'core/face/eyes.ts')).toEqual(['core-puppet-imports-down'])
})

test('types of records and of the whole puppet may be taken from above, values of them not', () => {
  expect(broken('core/bones/tree.ts', 'core/puppet/schema.ts', 'type-only')).toEqual([])
  expect(broken('core/bones/tree.ts', 'core/puppet/schema.ts')).toEqual(['core-takes-types-alone-from-above'])
})

test('an import downward is let through', () => {
  expect(broken('core/puppet/compile.ts', 'core/bones/table.ts')).toEqual([])
  expect(broken('app/frame/Details.tsx', 'app/features/features.ts')).toEqual([])
})

test('an import upward inside app is refused', () => {
  expect(broken('app/features/bones/boneMaking.ts', 'app/frame/tools.ts')).toEqual(['app-features-bones-imports-down'])
  expect(broken('app/editor/session.ts', 'app/features/touch/settings.ts')).toEqual(['app-editor-imports-down'])
  expect(broken('app/features/parts/actions.ts', 'app/features/features.ts')).toEqual(['app-features-parts-imports-down'])
})

test('a package that core may not have is refused, one that resolves into a dist folder included', () => {
  expect(broken('core/maths/geometry/booleans.ts', 'node_modules/bezier-js/dist/bezier.js')).toEqual(['core-needs-little'])
  expect(broken('core/maths/geometry/booleans.ts', 'node_modules/zod/index.js')).toEqual([])
})

test('an engine for areas is imported by its own file alone', () => {
  expect(broken('core/maths/geometry/polygons.ts', 'node_modules/polygon-clipping/index.js')).toEqual([])
  expect(broken('core/artwork/region.ts', 'node_modules/polygon-clipping/index.js')).toEqual(['polygon-clipping-is-known-to-one-file'])
  expect(broken('core/artwork/cutDrawing.ts', 'node_modules/paper/dist/paper-core.js')).toEqual(['paper-is-known-to-one-file'])
})

test('a folder without a floor is refused', () => {
  expect(broken('core/kites/commands.ts', 'core/kernel/ids.ts')).toContain('core-folders-have-a-floor')
  expect(broken('app/features/kites/feature.ts', 'app/ui/Button.tsx')).toContain('app-folders-have-a-floor')
})
