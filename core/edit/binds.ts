/** Commands that tie artwork to bones. */
import { z } from 'zod'
import { BoneId, PartId } from '../document/ids'
import { attachCycle } from '../document/order'
import { Bind, WeightField, type Puppet } from '../document/schema'
import { isWithinPart } from '../document/tree'
import { command, EditError } from './command'
import { boneOf, partOf } from './lookup'

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

export const bindBlended = command(
  'bind.blended',
  'Bind blended',
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

export const setBindMode = command(
  'bind.mode',
  'Change how a part bends',
  z.object({ part: PartId, mode: BlendedMode }),
  (puppet, { part, mode }) => {
    const { bind, name } = partOf(puppet, part)
    if (bind?.kind !== 'blended') throw new EditError(`"${name}" is not blended between bones.`)
    bind.mode = mode
  },
)

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
    if (bind?.kind !== 'blended') throw new EditError(`"${name}" is not blended between bones.`)
    if (field.starts.length !== field.vertices.length / 2 + 1) throw new EditError('The weights do not fit their region.')
    if (field.bones.some((b) => b >= bind.bones.length)) throw new EditError('The weights name a bone that is not in the list.')
    bind.field = field
  },
)

/** Takes bones out of every bind: whole binds move up to the heir, blended ones share the weight among the rest. */
export function forgetBones(puppet: Puppet, gone: ReadonlySet<string>, heir: string | null): void {
  const whole = (): Bind | null => (heir === null ? null : { kind: 'whole', bone: heir })
  for (const part of Object.values(puppet.parts)) {
    const bind = part.bind
    if (bind?.kind === 'whole' && gone.has(bind.bone)) part.bind = whole()
    if (bind?.kind === 'blended' && bind.bones.some((b) => gone.has(b))) part.bind = withoutBones(bind, gone) ?? whole()
    for (const own of Object.values(part.inViews))
      if (own.bind?.kind === 'blended' && own.bind.bones.some((b) => gone.has(b))) {
        const kept = withoutBones(own.bind, gone)
        if (kept) own.bind = kept
        else delete own.bind
      }
  }
}

type Blended = Extract<Bind, { kind: 'blended' }>

/** The bind with some bones taken out and each vertex' weights brought back to 1; null when none is left. */
function withoutBones(bind: Blended, gone: ReadonlySet<string>): Blended | null {
  const kept = bind.bones.map((b, i) => ({ b, i })).filter(({ b }) => !gone.has(b))
  if (kept.length === 0) return null
  const renumbered = new Map(kept.map(({ i }, next) => [i, next]))
  const { field } = bind
  const out: WeightField = { vertices: field.vertices, triangles: field.triangles, starts: [0], bones: [], weights: [] }
  for (let v = 0; v + 1 < field.starts.length; v++) {
    const rows: [number, number][] = []
    for (let k = field.starts[v]!; k < field.starts[v + 1]!; k++) {
      const bone = renumbered.get(field.bones[k]!)
      if (bone !== undefined && field.weights[k]! > 0) rows.push([bone, field.weights[k]!])
    }
    const sum = rows.reduce((s, [, w]) => s + w, 0)
    const shared: [number, number][] = sum > 0 ? rows.map(([b, w]) => [b, w / sum]) : [[0, 1]]
    for (const [b, w] of shared) {
      out.bones.push(b)
      out.weights.push(w)
    }
    out.starts.push(out.bones.length)
  }
  const madeAt = kept.flatMap(({ i }) => bind.madeAt.slice(4 * i, 4 * i + 4))
  return { kind: 'blended', mode: bind.mode, bones: kept.map(({ b }) => b), field: out, madeAt }
}
