/** Marlo, rigged through the same commands that the interface uses. */
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { Puppet, Vec } from '@marionette/core/puppet/schema'
import { restPivot } from '@marionette/core/parts/tree'
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { bindBlended, bindWhole } from '@marionette/core/binds/commands'
import { addBone, setLimits } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { renamePart } from '@marionette/core/parts/commands'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { importSvg } from '@marionette/formats/svg/import'
import { withJoints } from '../joints'
import { withScarfAndSquash } from '../soften'
import { withSprings } from '../springs'
import { withStride, withWalk } from '../strides'
import { withActing } from './acting'
import { withControls } from './controls'
import { withFace } from './face'
import { sure } from '@marionette/core/kernel/sure'

interface BoneSpec {
  readonly name: string
  readonly parent: string | null
  readonly start: Vec | string
  readonly end: Vec | string
  readonly colour: number
  readonly limits?: readonly [number | null, number | null]
}

/** Ends are spots on the canvas or names of parts whose pivot is meant. */
const BONES: readonly BoneSpec[] = [
  { name: 'Hips', parent: null, start: { x: 320, y: 600 }, end: { x: 320, y: 542 }, colour: 1 },
  { name: 'Spine', parent: 'Hips', start: { x: 320, y: 542 }, end: { x: 320, y: 474 }, colour: 1, limits: [-35, 35] },
  { name: 'Chest', parent: 'Spine', start: { x: 320, y: 474 }, end: { x: 320, y: 398 }, colour: 1, limits: [-35, 35] },
  { name: 'Neck', parent: 'Chest', start: { x: 320, y: 398 }, end: 'Head', colour: 6, limits: [-30, 30] },
  { name: 'Head', parent: 'Neck', start: 'Head', end: { x: 320, y: 186 }, colour: 6, limits: [-40, 40] },
  { name: 'Hair lock', parent: 'Head', start: { x: 410, y: 288 }, end: { x: 436, y: 334 }, colour: 7 },
  { name: 'Hair tip', parent: 'Hair lock', start: { x: 436, y: 334 }, end: { x: 462, y: 366 }, colour: 7 },
  { name: 'Scarf tail', parent: 'Chest', start: 'Scarf tail', end: { x: 262, y: 456 }, colour: 8 },
  { name: 'Scarf tip', parent: 'Scarf tail', start: { x: 262, y: 456 }, end: { x: 232, y: 500 }, colour: 8 },
  { name: 'Upper arm left', parent: 'Chest', start: 'Upper arm left', end: 'Forearm left', colour: 3, limits: [-70, 170] },
  { name: 'Forearm left', parent: 'Upper arm left', start: 'Forearm left', end: 'Hand left', colour: 3, limits: [-5, 140] },
  { name: 'Hand left', parent: 'Forearm left', start: 'Hand left', end: { x: 520, y: 622 }, colour: 3, limits: [-50, 50] },
  { name: 'Upper arm right', parent: 'Chest', start: 'Upper arm right', end: 'Forearm right', colour: 5, limits: [-170, 70] },
  { name: 'Forearm right', parent: 'Upper arm right', start: 'Forearm right', end: 'Hand right', colour: 5, limits: [-140, 5] },
  { name: 'Hand right', parent: 'Forearm right', start: 'Hand right', end: { x: 120, y: 622 }, colour: 5, limits: [-50, 50] },
  { name: 'Satchel', parent: 'Hips', start: 'Satchel', end: { x: 422, y: 690 }, colour: 4 },
  { name: 'Thigh left', parent: 'Hips', start: 'Thigh left', end: 'Shin left', colour: 2, limits: [-60, 100] },
  { name: 'Shin left', parent: 'Thigh left', start: 'Shin left', end: 'Boot left', colour: 2, limits: [-130, 5] },
  { name: 'Foot left', parent: 'Shin left', start: 'Boot left', end: { x: 412, y: 868 }, colour: 2, limits: [-40, 40] },
  { name: 'Thigh right', parent: 'Hips', start: 'Thigh right', end: 'Shin right', colour: 4, limits: [-100, 60] },
  { name: 'Shin right', parent: 'Thigh right', start: 'Shin right', end: 'Boot right', colour: 4, limits: [-5, 130] },
  { name: 'Foot right', parent: 'Shin right', start: 'Boot right', end: { x: 228, y: 868 }, colour: 4, limits: [-40, 40] },
]

/** Parts that follow one bone. */
const WHOLE: Readonly<Record<string, readonly string[]>> = {
  Chest: ['Arm left', 'Arm right', 'Scarf'],
  Neck: ['Neck'],
  Head: ['Head'],
  'Upper arm left': ['Upper arm left'],
  'Forearm left': ['Forearm left', 'Cuff left'],
  'Hand left': ['Hand left'],
  'Upper arm right': ['Upper arm right'],
  'Forearm right': ['Forearm right', 'Cuff right'],
  'Hand right': ['Hand right'],
  Satchel: ['Satchel'],
  Hips: ['Leg left', 'Leg right'],
  'Thigh left': ['Thigh left'],
  'Shin left': ['Shin left', 'Sock left'],
  'Foot left': ['Boot left'],
  'Thigh right': ['Thigh right'],
  'Shin right': ['Shin right', 'Sock right'],
  'Foot right': ['Boot right'],
}

/** Parts that bend with several bones. */
const BLENDED: Readonly<Record<string, readonly string[]>> = {
  Jacket: ['Hips', 'Spine', 'Chest'],
  Strap: ['Spine', 'Chest', 'Satchel'],
  'Hair lock': ['Head', 'Hair lock', 'Hair tip'],
  'Scarf tail': ['Scarf tail', 'Scarf tip'],
}

/** `upper-arm-left` becomes `Upper arm left`. */
const spoken = (id: string): string => id.charAt(0).toUpperCase() + id.slice(1).replace(/-/g, ' ')

/** What swings by itself. */
const LOOSE = [
  { name: 'Hair', bones: ['Hair lock', 'Hair tip'], character: 'hair', colour: '#7a3e9d' },
  { name: 'Scarf', bones: ['Scarf tail', 'Scarf tip'], character: 'cloth', colour: '#1e7a6b' },
  { name: 'Satchel', bones: ['Satchel'], character: 'heavy', colour: '#b27e1e', given: { throw: 0.6, gravity: 0.4 } },
] as const

/** Builds the puppet from the text of marlo.svg; always the same document. */
export function buildMarlo(svg: string): Puppet {
  const ids = sequentialIds('marlo')
  let puppet = importSvg(svg, 'Marlo', ids, 'marlo.svg').puppet
  const root = puppet.root
  for (const part of Object.values(puppet.parts))
    if (part.id !== root) puppet = run(puppet, renamePart, { part: part.id, name: spoken(part.name) })
  puppet = run(puppet, setNote, { note: "Delivers the estuary's mail" })
  const partNamed = (name: string): string => sure(Object.values(puppet.parts).find((p) => p.name === name && p.id !== root)).id
  const spot = (where: Vec | string): Vec => (typeof where === 'string' ? restPivot(puppet, partNamed(where)) : where)
  const bones = new Map<string, string>()
  for (const { name, parent, start, end, colour, limits } of BONES) {
    const id = ids('bone')
    bones.set(name, id)
    puppet = run(puppet, addBone, {
      id,
      name,
      parent: parent === null ? null : sure(bones.get(parent)),
      start: spot(start),
      end: spot(end),
      colour,
    })
    if (limits) puppet = run(puppet, setLimits, { bone: id, limits: { min: limits[0], max: limits[1] } })
  }
  for (const [bone, parts] of Object.entries(WHOLE))
    puppet = run(puppet, bindWhole, { parts: parts.map(partNamed), bone: sure(bones.get(bone)) })
  for (const [name, list] of Object.entries(BLENDED)) {
    const part = partNamed(name)
    const blended = list.map((bone) => sure(bones.get(bone)))
    puppet = run(puppet, bindBlended, { part, bones: blended, field: autoWeights(puppet, part, blended) })
  }
  const rigged = withFace(withControls(withScarfAndSquash(withJoints(puppet, 'marlo', /arm|hand|thigh|shin|boot|^neck$/i))))
  const sprung = withSprings(withActing(rigged), 'marlo', LOOSE, [{ bone: 'Chest', radius: 60 }])
  return withWalk(withStride(sprung, 'marlo', 'Walk', { tempo: 1 }), {
    ...{ id: 'marlo-walk', name: 'On the way', length: 4 },
    paces: [[0, 1]],
  })
}
