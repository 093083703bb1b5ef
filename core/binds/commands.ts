/** Commands that tie artwork to bones. */
import { z } from 'zod'
import { BoneId, PartId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { isWithinPart } from '../parts/tree'
import { partOf } from '../parts/lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { Bind, WeightField } from './records'
import { attachCycle } from './order'
import { boneOf } from '../bones/lookup'

/** Lets parts follow one bone. Refused where a part or the bone is not there. */
export const bindWhole = command(
  'bind.whole',
  'Bind to bone',
  z.object({ parts: z.array(PartId).min(1), bone: BoneId }),
  (puppet, { parts, bone }) => {
    boneOf(puppet, bone)
    for (const part of parts) partOf(puppet, part).bind = { kind: 'whole', bone }
  },
)

/** How a blended bind bends: keeping its breadth, or by the plain blend of the bones' maps. */
const BlendedMode = z.enum(['volume', 'linear'])

/** Lets a part bend with several bones by the weights given. Refused where they do not fit the bones. */
export const bindBlended = command(
  'bind.blended',
  'Bind smoothly',
  z.object({ part: PartId, bones: z.array(BoneId).min(1), field: WeightField, mode: BlendedMode.optional() }),
  (puppet, { part, bones, field, mode = 'volume' }) => {
    if (new Set(bones).size !== bones.length) throw new EditError('A bone is listed twice.')
    if (field.starts.length !== field.vertices.length / 2 + 1) throw new EditError('The weights do not fit their region.')
    if (field.bones.some((b) => b >= bones.length)) throw new EditError('The weights name a bone that is not in the list.')
    partOf(puppet, part).bind = { kind: 'blended', mode, bones, field, madeAt: restEnds(puppet, bones) }
  },
)

/** Hangs parts on another one: carried rigidly, with a turn of their own, or bent as one piece with it. */
export const bindAttached = command(
  'bind.attach',
  'Hang on part',
  z.object({ parts: z.array(PartId).min(1), to: PartId, how: z.enum(['carried', 'pivoting', 'fused']) }),
  (puppet, { parts, to, how }) => {
    const carrier = partOf(puppet, to)
    for (const part of parts) {
      const { name } = partOf(puppet, part)
      if (isWithinPart(puppet, to, part)) throw new EditError(`"${name}" cannot hang on "${carrier.name}", which is in it.`)
      partOf(puppet, part).bind = { kind: 'attached', to, how }
    }
    const self = attachCycle(puppet)
    if (self !== null) throw new EditError(`"${partOf(puppet, self).name}" would hang on itself.`)
  },
)

/** Chooses how the motions of several bones are blended in a part. */
export const setBindMode = command(
  'bind.mode',
  'Change how a part bends',
  z.object({ part: PartId, mode: BlendedMode }),
  (puppet, { part, mode }) => {
    const { bind, name } = partOf(puppet, part)
    if (bind?.kind !== 'blended') throw new EditError(`"${name}" does not bend with several bones.`)
    bind.mode = mode
  },
)

/** Takes the binds of parts away: they follow the nearest bind above them. */
export const unbind = command('bind.none', 'Unbind', z.object({ parts: z.array(PartId).min(1) }), (puppet, { parts }) => {
  for (const part of parts) partOf(puppet, part).bind = null
})

/** Rest ends of bones [4b]: start x,y, end x,y. */
export const restEnds = (puppet: Puppet, bones: readonly string[]): number[] =>
  bones.map((id) => boneOf(puppet, id)).flatMap((b) => [b.start.x, b.start.y, b.end.x, b.end.y])

/** Whether the bones of a blended bind were moved at rest since its weights were made. */
export function isOutOfDate(puppet: Puppet, bind: Bind): boolean {
  if (bind.kind !== 'blended') return false
  return restEnds(puppet, bind.bones).some((v, i) => Math.abs(v - bind.madeAt[i]!) > 0.01)
}

/** Replaces the weights of a blended part, painted or made otherwise, on the same mesh. */
export const setWeights = command(
  'bind.weights',
  'Paint weights',
  z.object({ part: PartId, field: WeightField }),
  (puppet, { part, field }) => {
    const { bind, name } = partOf(puppet, part)
    if (bind?.kind !== 'blended') throw new EditError(`"${name}" does not bend with several bones.`)
    if (field.starts.length !== field.vertices.length / 2 + 1) throw new EditError('The weights do not fit their region.')
    if (field.bones.some((b) => b >= bind.bones.length)) throw new EditError('The weights name a bone that is not in the list.')
    bind.field = field
  },
)

/** Gives a blended bind another region with weights; its bones stay. */
export const setField = command(
  'bind.field',
  'Change weights',
  z.object({ part: PartId, field: WeightField }),
  (puppet, { part, field }) => {
    const { bind, name } = partOf(puppet, part)
    if (bind?.kind !== 'blended') throw new EditError(`"${name}" does not bend with several bones.`)
    if (field.bones.some((b) => b >= bind.bones.length)) throw new EditError('The weights name a bone that is not in the list.')
    bind.field = field
  },
)
