/**
 * A kind of deformer and a capability that do not exist, with nothing but their own files and a line in each table: whatever shared code
 * does for those that exist, it does for them.
 */
import { expect, test, vi } from 'vitest'
import { addBone, deleteBone } from '../bones/commands'
import { addDeformer } from '../deformers/commands'
import type { Deformer } from '../deformers/records'
import { edit } from '../kernel/command'
import { duplicateParts } from '../parts/arrange'
import { setPose } from '../poses/commands'
import { mirrorBones } from '../skeleton/commands'
import { armPuppet } from '../test/puppets'
import { addBell, bellsOf } from '../test/madeUp/bells'
import { channelOf, resolveChannel } from './channels'
import { COMMANDS } from './commands'
import { applyEdits, run, undoChange } from './edit'
import { posePuppet } from './evaluate'
import { parsePuppet } from './invariants'
import { canonicalJson } from '../kernel/json'
import { mirroredPose } from './mirror'
import type { Puppet } from './schema'

vi.mock('../deformers/table', async (original) => {
  const { DEFORMER_KINDS } = await original<typeof import('../deformers/table')>()
  const { swayKind } = await import('../test/madeUp/sway')
  return { DEFORMER_KINDS: { ...DEFORMER_KINDS, sway: swayKind } }
})
vi.mock('./records', async (original) => {
  const { RECORDS } = await original<typeof import('./records')>()
  const { Bells } = await import('../test/madeUp/bells')
  return { RECORDS: { ...RECORDS, bells: Bells } }
})
vi.mock('./capabilities', async (original) => {
  const { CAPABILITIES } = await original<typeof import('./capabilities')>()
  const { bells } = await import('../test/madeUp/bells')
  return { CAPABILITIES: [...CAPABILITIES, bells] }
})

const sway = { kind: 'sway', id: 'breeze', name: 'Breeze', when: 'before', bone: null, on: true, amount: 1, only: null, at: { x: 0, y: 0 } }
const deformer = sway as unknown as Deformer

const swaying = (): Puppet => {
  const puppet = { ...armPuppet(), bells: {} } as unknown as Puppet
  const part = Object.values(puppet.parts).find((p) => p.content.kind === 'drawing')!.id
  return run(puppet, addDeformer, { part, deformer })
}
const swayed = (puppet: Puppet) => Object.values(puppet.parts).find((p) => p.deformers.some((d) => d.id === 'breeze'))!
const withBell = (): Puppet => run(swaying(), addBell, { id: 'ding', name: 'Bell left', bone: 'lower', loud: 0.5 })

test('are validated', () => {
  expect(parsePuppet(JSON.parse(canonicalJson(withBell())))).toEqual(withBell())
  const broken = structuredClone(withBell())
  bellsOf(broken)['ding']!.loud = 2
  expect(() => parsePuppet(broken)).toThrow(/bells.ding.loud/)
  bellsOf(broken)['ding']!.loud = 1
  bellsOf(broken)['ding']!.bone = 'nobody'
  expect(() => parsePuppet(broken)).toThrow('bells.ding hangs on the missing bone "nobody"')
  const bent = structuredClone(withBell())
  Object.assign(swayed(bent).deformers[0]!, { at: 7 })
  expect(() => parsePuppet(bent)).toThrow(/deformers/)
})

test('refuse what is not there, and ids that are taken', () => {
  expect(() => run(swaying(), addBell, { id: 'ding', name: 'Bell', bone: 'nobody', loud: 1 })).toThrow(/missing bone/)
  expect(() => run(swaying(), addBell, { id: 'lower', name: 'Bell', bone: 'lower', loud: 1 })).toThrow(/id/)
})

test('are posed, found by name, and evaluated', () => {
  const puppet = withBell()
  expect(channelOf(puppet, 'bell/ding/swing')).toMatchObject({ rest: 0, min: -60, label: 'Swing' })
  expect(resolveChannel(puppet, 'bell/bell left/swing').id).toBe('ding')
  const posed = run(puppet, setPose, { values: { 'bell/ding/swing': 90, 'handle/breeze.0.0/x': 30 } })
  expect(posed.pose).toEqual({ 'bell/ding/swing': 60, 'handle/breeze.0.0/x': 30 })
  const [rest, moved] = [posePuppet(puppet), posePuppet(posed)]
  const at = moved.rig.parts.index.get(swayed(puppet).id)!
  const d = moved.rig.drawings.findIndex((one) => one.part === at)
  expect(moved.bent[d]).toBe(1)
  expect(Array.from(moved.points[d]!)).not.toEqual(Array.from(rest.points[d]!))
})

test('are mirrored and copied with what they hang on', () => {
  const puppet = withBell()
  const ids = Object.fromEntries(Object.keys(puppet.bones).map((id) => [id, `${id}-2`]))
  const mirrored = run(puppet, mirrorBones, { bones: puppet.skeleton, ids, at: 500 })
  expect(Object.values(bellsOf(mirrored)).map(({ name, bone }) => [name, bone])).toEqual([
    ['Bell left', 'lower'],
    ['Bell right', 'lower-2'],
  ])
  const [other] = Object.keys(bellsOf(mirrored)).filter((id) => id !== 'ding')
  expect(mirroredPose(mirrored, { 'bell/ding/swing': 20 })).toEqual({ [`bell/${other!}/swing`]: -20 })
  const copied = run(puppet, duplicateParts, { parts: [swayed(puppet).id], prefix: 'again' })
  const deformers = Object.values(copied.parts).flatMap((p) => p.deformers)
  expect(deformers).toHaveLength(2)
  expect(new Set(deformers.map((d) => d.id)).size).toBe(2)
})

test('go with what they hang on, with their values, and come back by undo', () => {
  const posed = run(withBell(), setPose, { values: { 'bell/ding/swing': 10 } })
  const { puppet, change } = applyEdits(posed, [edit(deleteBone, { bone: 'lower', withChildren: true })])
  expect(bellsOf(puppet)).toEqual({})
  expect(puppet.pose).toEqual({})
  expect(canonicalJson(undoChange(puppet, change))).toBe(canonicalJson(posed))
})

test('stand in the list of commands', () => {
  expect(COMMANDS.get('bell.add')?.label).toBe('Hang up a bell')
  expect(
    run(withBell(), addBone, { id: 'more', name: 'More', parent: null, start: { x: 0, y: 0 }, end: { x: 9, y: 9 } }).bones,
  ).toHaveProperty('more.name', 'More')
})
