/** Quill, fitted by the bird template through the same commands that the interface uses. */
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { setLimits } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { renamePuppet, setNaming, setNote } from '@marionette/core/puppet/puppetCommands'
import { applyFit } from '@marionette/core/templates/apply'
import { assignRoles } from '@marionette/core/templates/assign'
import { BIRD } from '@marionette/core/templates/builtin'
import { planFit } from '@marionette/core/templates/fit'
import { readPuppetFile } from '@marionette/formats/read'
import { withCaps, withJoints } from '../joints'
import { withFace } from './face'
import { withNeckOnPath, withPinnedWings } from '../soften'
import { withSprings } from '../springs'
import { withIdle, withStride, withWalk } from '../strides'
import type { Joint } from '@marionette/core/joints/records'
import type { Demo } from '../demo'
import { recordOf, sure } from '@marionette/core/kernel/sure'
import { partOf } from '@marionette/core/parts/lookup'
import { pictureOf } from '@marionette/core/parts/pictures'
import { assetsOf } from '@marionette/core/parts/tree'
import type { PartId } from '@marionette/core/kernel/ids'
import { CLOSE_UP_DENSITY } from './layers'

/** A heron's wing opens and folds no further than this. */
const WING_LIMITS = { min: -75, max: 75 }

/** Feet were painted without room to turn. */
const isFoot = ({ under, over }: Joint, { parts }: Puppet): boolean => [under, over].some((id) => /^foot/i.test(recordOf(parts, id).name))

/** The names of a part and of the groups that it lies in. */
const pathOf = (puppet: Puppet, id: PartId): string => {
  const { name, parent } = partOf(puppet, id)
  return parent === null ? '' : `${pathOf(puppet, parent)}/${name}`
}

/** The puppet with the pictures of the close-up in place of those that it has: the same pieces of more pixels. */
function withCloseUp({ puppet, assets }: Demo, closeUp: Demo): Demo {
  const fine = new Map(
    Object.values(closeUp.puppet.parts).map((part) => [pathOf(closeUp.puppet, part.id), pictureOf(closeUp.puppet, part)]),
  )
  const pictures = Object.values(puppet.parts).flatMap((part) => {
    const finer = fine.get(pathOf(puppet, part.id))
    const picture = pictureOf(puppet, part)
    if (!finer || !picture) return []
    const { asset, width, height } = finer
    const scale = 1 / CLOSE_UP_DENSITY
    return [{ ...picture, asset, width, height, x: finer.x * scale, y: finer.y * scale, scale }]
  })
  const replaced = { ...puppet, pictures: { ...puppet.pictures, ...Object.fromEntries(pictures.map((p) => [p.id, p])) } }
  const all = new Map([...assets, ...closeUp.assets])
  return { puppet: replaced, assets: new Map([...assetsOf(replaced)].map((hash) => [hash, sure(all.get(hash))])) }
}

/** What swings by itself. */
const LOOSE = [
  { name: 'Wing tips', bones: ['Wing tip near', 'Wing tip far'], character: 'tight', colour: '#2d3a9e' },
  { name: 'Tail', bones: ['Tail'], character: 'tight', colour: '#b27e1e' },
] as const

/** Builds the puppet from the bytes of quill.ora and quill-head.ora; always the same document. */
export function buildQuill(openRaster: Uint8Array, head: Uint8Array): Demo {
  const coarse = readPuppetFile(openRaster, 'quill.ora', { ids: sequentialIds('quill') })
  const read = withCloseUp(coarse, readPuppetFile(head, 'quill-head.ora', { ids: sequentialIds('head') }))
  let puppet = run(read.puppet, renamePuppet, { name: 'Quill' })
  puppet = run(puppet, setNote, { note: 'The heron at the counter' })
  // Quill is seen from the side: limbs are near and far.
  puppet = run(puppet, setNaming, { naming: 'near-far' })
  const plan = planFit(puppet, BIRD, assignRoles(puppet, BIRD).roles)
  const fitted = applyFit(puppet, plan, { ids: sequentialIds('quill-rig') }).puppet
  const folded = Object.values(fitted.bones)
    .filter((b) => /^wing/i.test(b.name))
    .reduce((p, b) => run(p, setLimits, { bone: b.id, limits: WING_LIMITS }), fitted)
  const jointed = withJoints(folded, 'quill', /^(wing|thigh|shin|foot)/i)
  const softened = withPinnedWings(withNeckOnPath(jointed))
  const capped = withCaps({ puppet: softened, assets: read.assets }, isFoot)
  const sprung = withSprings(withFace(capped.puppet), 'quill', LOOSE)
  // Herons take their time.
  const walking = withStride(withIdle(sprung, 'quill'), 'quill', 'Stalk', { tempo: 0.6, travels: true, roll: 8 })
  const stroll = { id: 'quill-stroll', name: 'Stalk and stand', length: 8 }
  return {
    ...capped,
    puppet: withWalk(walking, {
      ...stroll,
      paces: [
        [0, 0],
        [1, 1],
        [2.4, 0],
      ],
      from: 280,
    }),
  }
}
